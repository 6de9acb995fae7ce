import { bad, good, type Outcome } from '@stern-gate/contract'
import { fileStem } from '../deliveryPath'
import type { GltfContainer } from '../gltfContainer'
import { buildContainer } from './containerBuilder'
import { cutPolygon } from './cutPolygon'
import { GrowingInts } from './growing'
import { plainSlot } from './readObj'
import { readPlyHeader, type PlyElement, type PlyHeader } from './plyHeader'
import { plyValues, type PlyValues } from './plyValues'

/**
 * Reads PLY: text and both binary orders. Numbers are taken as metres with Y up, since the format declares
 * neither. Polygons become triangles by one fixed rule. Faults: mesh/bad-structure, mesh/truncated, mesh/out-of-bounds,
 * mesh/nothing-drawn.
 */
export function readPly(bytes: Uint8Array, path: string): Outcome<GltfContainer> {
  const header = readPlyHeader(bytes)
  if (!header.ok) return header
  const body = readBody(bytes, header.value)
  if (!body.ok) return body
  const { vertices, indices, lost } = body.value
  if (indices.length === 0)
    return bad(
      'mesh/nothing-drawn',
      'The PLY holds no face.',
      'Export it with its faces; a cloud of points makes no mesh.',
    )
  const { positions, normals, uv, colours } = vertices
  const texture = header.value.texture
  return good(
    buildContainer({
      format: 'ply',
      generator: header.value.comment,
      unitMetres: null,
      upAxis: null,
      polygons: header.value.elements.find((e) => e.name === 'face')?.count ?? 0,
      lost: header.value.unknown > 0 ? [`${header.value.unknown} × unknown line in the head`, ...lost] : lost,
      companions: [],
      slots: texture ? [{ ...plainSlot(fileStem(texture)), textures: { basecolor: texture } }] : [],
      nodes: [
        {
          name: fileStem(path),
          children: [],
          parts: [{ slot: texture ? 0 : null, positions, normals, uvs: uv ? [uv] : [], colours, indices }],
        },
      ],
    }),
  )
}

interface PlyBody {
  vertices: Vertices
  indices: Uint32Array
  lost: string[]
}
interface Vertices {
  positions: Float32Array
  normals: Float32Array | null
  uv: Float32Array | null
  colours: Float32Array | null
}

/** Names under which exporters write what a vertex has. */
const fields = {
  place: [['x', 'y', 'z']],
  normal: [['nx', 'ny', 'nz']],
  uv: [
    ['u', 'v'],
    ['s', 't'],
    ['texture_u', 'texture_v'],
    ['texture_s', 'texture_t'],
  ],
  colour: [
    ['red', 'green', 'blue'],
    ['r', 'g', 'b'],
    ['diffuse_red', 'diffuse_green', 'diffuse_blue'],
  ],
}

function readBody(bytes: Uint8Array, header: PlyHeader): Outcome<PlyBody> {
  const values = plyValues(bytes, header),
    lost: string[] = []
  let vertices: Vertices | null = null
  const corners = new GrowingInts(),
    // Faces that stand before their vertices
    waiting: number[][] = []
  const cut = (polygon: readonly number[]): void =>
    vertices ? cutFace(polygon, vertices.positions, corners) : void waiting.push([...polygon])
  for (const element of header.elements) {
    // Each value takes a byte at the least: a count beyond that is a lie, and nothing is reserved for it
    if (element.count > bytes.length) return cutShort(element, 0)
    if (element.name === 'vertex') {
      const read = readVertices(values, element, lost)
      if (!read.ok) return read
      vertices = read.value
    } else {
      const read = readFaces(
        values,
        element,
        element.name === 'face' || element.name === 'tristrips' ? { triangles: corners, cut } : null,
        lost,
      )
      if (!read.ok) return read
    }
  }
  if (!vertices)
    return bad('mesh/bad-structure', 'The head names no element “vertex”.', 'Export the file again.', {
      part: 'header',
    })
  for (const polygon of waiting) cutFace(polygon, vertices.positions, corners)
  const indices = new Uint32Array(corners.take()),
    count = vertices.positions.length / 3
  for (let k = 0; k < indices.length; k++)
    if (indices[k]! >= count)
      return bad(
        'mesh/out-of-bounds',
        `A face names vertex ${indices[k]}, of ${count}.`,
        'Export the file again; its faces and vertices do not belong together.',
        { part: 'face' },
      )
  return good({ vertices, indices, lost })
}

const cutShort = (element: PlyElement, at: number) =>
  bad(
    'mesh/truncated',
    `The head claims ${element.count} × ${element.name}; the file ends at number ${at + 1}.`,
    'Export or copy it again: the transfer broke off.',
    { part: element.name },
  )

function readVertices(values: PlyValues, element: PlyElement, lost: string[]): Outcome<Vertices> {
  const at = (names: readonly string[]) => names.map((n) => element.properties.findIndex((p) => p.name === n))
  const find = (choices: readonly (readonly string[])[]): number[] | null =>
    choices.map(at).find((found) => found.every((k) => k >= 0)) ?? null
  const place = find(fields.place),
    normal = find(fields.normal),
    uv = find(fields.uv),
    colour = find(fields.colour)
  if (!place)
    return bad('mesh/bad-structure', 'A vertex has no x, y and z.', 'Export the file again.', {
      part: 'vertex',
    })
  const known = new Set([...place, ...(normal ?? []), ...(uv ?? []), ...(colour ?? [])]),
    alpha = element.properties.findIndex((p) => p.name === 'alpha')
  const rest = element.properties.filter((_, i) => !known.has(i) && i !== alpha).map((p) => p.name)
  if (rest.length > 0) lost.push(`of each vertex: ${rest.join(', ')}`)
  const n = element.count,
    whole = colour
      ? element.properties[colour[0]!]!.type === 'float' || element.properties[colour[0]!]!.type === 'double'
        ? 1
        : element.properties[colour[0]!]!.type.endsWith('short')
          ? 65535
          : 255
      : 1
  const out = {
    positions: new Float32Array(n * 3),
    normals: normal && new Float32Array(n * 3),
    uv: uv && new Float32Array(n * 2),
    colours: colour && new Float32Array(n * 4),
  }
  const row = new Float64Array(element.properties.length)
  for (let i = 0; i < n; i++) {
    if (!values.row(element, row)) return cutShort(element, i)
    for (let k = 0; k < 3; k++) {
      out.positions[i * 3 + k] = row[place[k]!]!
      if (out.normals) out.normals[i * 3 + k] = row[normal![k]!]!
      if (out.colours) out.colours[i * 4 + k] = row[colour![k]!]! / whole
    }
    if (out.uv) {
      out.uv[i * 2] = row[uv![0]!]!
      out.uv[i * 2 + 1] = 1 - row[uv![1]!]!
    }
    if (out.colours) out.colours[i * 4 + 3] = alpha >= 0 ? row[alpha]! / whole : 1
  }
  return good(out)
}

interface FaceLists {
  triangles: GrowingInts
  /** Takes a face of more than three corners. */
  cut: (polygon: readonly number[]) => void
}

/** Goes over an element; the corners of its index list go into `out`. */
function readFaces(
  values: PlyValues,
  element: PlyElement,
  out: FaceLists | null,
  lost: string[],
): Outcome<true> {
  const list = element.properties.findIndex((p) => p.list && /^vertex_ind(ex|ices)$/.test(p.name))
  if (out && list < 0)
    return bad('mesh/bad-structure', `A ${element.name} has no vertex_indices.`, 'Export the file again.', {
      part: element.name,
    })
  const rest = element.properties.filter((_, i) => i !== list).map((p) => p.name)
  if (!out && element.count > 0) lost.push(`${element.count} × ${element.name}`)
  else if (rest.length > 0) lost.push(`of each ${element.name}: ${rest.join(', ')}`)
  for (let i = 0; i < element.count; i++) {
    for (const [k, property] of element.properties.entries()) {
      const corners = property.list ? values.list(property) : values.one(property)
      if (corners === null) return cutShort(element, i)
      if (!out || k !== list) continue
      const own = corners as readonly number[]
      if (element.name !== 'face') strips(own, out.triangles)
      else if (own.length > 3) out.cut(own)
      else if (own.length === 3) for (const corner of own) out.triangles.push(corner)
    }
  }
  return good(true)
}

/** A polygon as triangles; one that names a vertex which is not there is cut as it stands, and refused behind this. */
function cutFace(corners: readonly number[], positions: Float32Array, out: GrowingInts): void {
  const points = corners.flatMap((c) => [0, 1, 2].map((i) => positions[c * 3 + i] ?? 0))
  for (const corner of cutPolygon(points)) out.push(corners[corner]!)
}

/** Strips of triangles, parted by −1; every second one is turned. */
function strips(corners: readonly number[], out: GrowingInts): void {
  for (let k = 0, start = 0; k < corners.length; k++) {
    if (corners[k]! < 0) start = k + 1
    else if (k - start >= 2) {
      const turned = (k - start) % 2 === 1
      out.push(corners[k - 2]!)
      out.push(corners[turned ? k : k - 1]!)
      out.push(corners[turned ? k - 1 : k]!)
    }
  }
}
