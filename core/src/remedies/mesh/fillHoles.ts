import type { Document } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { borderRings } from '../../geometry/borderRings'
import { fillRing } from '../../geometry/fillRing'
import { meshTopology } from '../../geometry/meshTopology'
import { HOLE_EDGES, HOLE_TRIANGLES } from '../../geometry/openBorders'
import { countOf } from '../../numbers/formatNumber'
import { cornersOf, placeMesh, type PlacedMesh, type PlacedPrimitive } from '../../measure/placedMesh'
import { floatsOf } from '../../scene/primitiveView'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { gatherVertices, meshesAt, setFloats, setTriangles } from '../meshWork'

export const fillHoles = defineRemedy({
  id: 'mesh/fill-holes',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Fill holes',
  words: () => 'Fill holes',
  about:
    'Closes rings of few open edges with triangles between the points that are there. A cover that ' +
    'carries on the surface takes its normals and UVs; one that stands across it gets a normal of ' +
    'its own. Larger rings, and those of pieces that hardly have more triangles than the ring has ' +
    'edges, were left open on purpose and stay.',
  options: z.strictObject({
    node: nodeOption,
    edges: z.int().min(3).max(256).default(HOLE_EDGES).describe('edges of the largest ring that is closed'),
  }),
  async apply(work, { node: path, edges }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no holes' })
    let holes = 0,
      triangles = 0
    for (const { node } of meshesAt(work, path)) {
      const covers = coversOf(
        placeMesh(node, () => null),
        edges,
      )
      for (const [{ primitive, view }, own] of groupByPrimitive(covers))
        triangles += addCovers(work.document, primitive, view.indices, own)
      holes += covers.length
    }
    if (holes === 0)
      return good({ changed: false, said: `no ring of at most ${edges} open edges can be closed` })
    return good({
      changed: true,
      said: `${countOf(holes, 'hole')} filled with ${countOf(triangles, 'triangle')}`,
    })
  },
})

/**
 * What closes one ring: its points in order (xyz), the vertices of the primitive that they are or are made
 * from, three places in the ring for each triangle, which way it looks.
 */
interface Cover {
  owner: PlacedPrimitive
  points: Float32Array
  vertices: number[]
  triangles: number[]
  normal: [number, number, number]
  carriesOn: boolean
}

function coversOf(placed: PlacedMesh, edges: number): Cover[] {
  const corners = cornersOf(placed)
  const { flags, shell } = meshTopology(corners, placed.places, placed.winding)
  const sizes = new Map<number, number>()
  for (const s of shell) sizes.set(s, (sizes.get(s) ?? 0) + 1)
  return borderRings(corners, flags, edges)
    .filter((ring) => sizes.get(shell[Math.floor(ring[0]! / 3)]!)! >= ring.length * HOLE_TRIANGLES)
    .flatMap((ring) => coverOf(placed, ring) ?? [])
}

/** The cover of a ring; null when the ring has no area. */
function coverOf(placed: PlacedMesh, ring: readonly number[]): Cover | null {
  // The cover runs against the triangles around it
  const places = [...ring].reverse().map((corner) => cornerPlace(placed, corner))
  const points = Float32Array.from(
    places.flatMap(({ owner, vertex }) => [...owner.view.positions.subarray(vertex * 3, vertex * 3 + 3)]),
  )
  const normal = ringNormal(points)
  if (!normal) return null
  const owner = mostFrequent(places.map((p) => p.owner))
  const own = places.map((p) => (p.owner === owner ? p.vertex : null))
  const vertices = own.map(
    (vertex, i) => vertex ?? own.slice(i).find((v) => v !== null) ?? own.find((v) => v !== null)!,
  )
  return {
    owner,
    points,
    vertices,
    triangles: fillRing(points),
    normal,
    carriesOn: own.every((v) => v !== null) && looksAlong(owner, vertices, normal),
  }
}

function cornerPlace({ primitives }: PlacedMesh, corner: number): { owner: PlacedPrimitive; vertex: number } {
  let from = 0
  for (const owner of primitives) {
    const count = owner.view.indices.length - (owner.view.indices.length % 3)
    if (corner < from + count) return { owner, vertex: owner.view.indices[corner - from]! }
    from += count
  }
  throw new RangeError(`corner ${corner} is of no primitive`)
}

const mostFrequent = <T>(list: readonly T[]): T =>
  [...list].sort((a, b) => list.filter((x) => x === b).length - list.filter((x) => x === a).length)[0]!

/** Normals of a smooth surface differ from its cover's by less than this. */
const ALONG = Math.cos(Math.PI / 4)

function looksAlong(
  { primitive }: PlacedPrimitive,
  vertices: readonly number[],
  normal: readonly number[],
): boolean {
  const accessor = primitive.getAttribute('NORMAL')
  if (!accessor) return true
  const normals = floatsOf(accessor)
  return vertices.every(
    (v) =>
      normals[v * 3]! * normal[0]! + normals[v * 3 + 1]! * normal[1]! + normals[v * 3 + 2]! * normal[2]! >=
      ALONG,
  )
}

/**
 * Normal of a polygon that need not be flat (Newell; Sutherland, Sproull and Schumacker 1974); null when it
 * has no area.
 */
function ringNormal(p: Float32Array): [number, number, number] | null {
  let x = 0,
    y = 0,
    z = 0
  for (let i = 0; i < p.length; i += 3) {
    const n = (i + 3) % p.length
    x += (p[i + 1]! - p[n + 1]!) * (p[i + 2]! + p[n + 2]!)
    y += (p[i + 2]! - p[n + 2]!) * (p[i]! + p[n]!)
    z += (p[i]! - p[n]!) * (p[i + 1]! + p[n + 1]!)
  }
  const length = Math.hypot(x, y, z)
  return length > 0 ? [x / length, y / length, z / length] : null
}

function groupByPrimitive(covers: readonly Cover[]): Map<PlacedPrimitive, Cover[]> {
  const groups = new Map<PlacedPrimitive, Cover[]>()
  for (const cover of covers) groups.set(cover.owner, [...(groups.get(cover.owner) ?? []), cover])
  return groups
}

/**
 * Puts covers behind the triangles of a primitive; those with a normal of their own get vertices of their
 * own. Edits in place; returns how many triangles came.
 */
function addCovers(
  document: Document,
  primitive: PlacedPrimitive['primitive'],
  indices: Uint32Array,
  covers: readonly Cover[],
): number {
  const count = primitive.getAttribute('POSITION')!.getCount()
  const source = [...Array(count).keys()],
    added: number[] = [],
    apart: { from: number; cover: Cover }[] = []
  for (const cover of covers) {
    if (!cover.carriesOn) apart.push({ from: source.length, cover })
    const first = source.length
    added.push(...cover.triangles.map((i) => (cover.carriesOn ? cover.vertices[i]! : first + i)))
    if (!cover.carriesOn) source.push(...cover.vertices)
  }
  if (apart.length > 0) {
    gatherVertices(primitive, Uint32Array.from(source))
    overwrite(
      document,
      primitive,
      'POSITION',
      apart.map(({ from, cover }) => ({ from, values: cover.points })),
    )
    if (primitive.getAttribute('NORMAL'))
      overwrite(
        document,
        primitive,
        'NORMAL',
        apart.map(({ from, cover }) => ({
          from,
          values: Float32Array.from(cover.vertices.flatMap(() => cover.normal)),
        })),
      )
  }
  setTriangles(document, primitive, Uint32Array.from([...indices, ...added]))
  return added.length / 3
}

function overwrite(
  document: Document,
  primitive: PlacedPrimitive['primitive'],
  semantic: 'POSITION' | 'NORMAL',
  pieces: readonly { from: number; values: Float32Array }[],
): void {
  const values = floatsOf(primitive.getAttribute(semantic)!).slice()
  for (const { from, values: own } of pieces) values.set(own, from * 3)
  setFloats(document, primitive, semantic, values, 'VEC3')
}
