import type { PrimitiveFacts, UvChannelFacts } from '@stern-gate/contract'
import { mergeVertices, type VertexAttribute } from '../geometry/mergeVertices'
import { brokenTangents, normalAgreement } from '../geometry/normalAgreement'
import { notFinitePoints } from '../geometry/triangleSurvey'
import { uvSheet, type UvSheet } from '../geometry/uvSheet'
import { vertexCacheUse } from '../geometry/vertexCache'
import { floatsOf } from '../scene/primitiveView'
import type { AddEvidence } from './evidence'
import { measureSkin } from './measureSkin'
import type { PlacedMesh, PlacedPrimitive } from './placedMesh'

/** Two vertices at one place are the same when no attribute differs by more than this. */
const ATTRIBUTE_TOLERANCE = 1e-4
const UV_TOLERANCE = 1e-6

export interface MeasuredPrimitive {
  facts: PrimitiveFacts
  sheets: (UvSheet | null)[]
}

/** Measures one placed primitive; its triangle lists go to the evidence under `name`. */
export function measurePrimitive(
  placed: PlacedPrimitive,
  mesh: PlacedMesh,
  place: { index: number; name: string },
  addEvidence: AddEvidence,
): MeasuredPrimitive {
  const { view, world, survey, primitive } = placed
  const add = (measure: string, triangles: Uint32Array): void =>
    addEvidence(`${measure}:${place.name}`, triangles)
  add('degenerate', survey.degenerate)
  add('bad-indices', survey.badIndices)
  const pointCount = mesh.places.length / 3
  const sheets = view.uvs.map((uv) => (uv ? sheetOf(placed, uv, pointCount, mesh.winding) : null))
  const normal = primitive.getAttribute('NORMAL'),
    tangent = primitive.getAttribute('TANGENT')
  const normals = normal ? normalAgreement(view.positions, floatsOf(normal), view.indices, 'plain') : null
  if (normals) add('normals-against', normals.against)
  sheets.forEach((sheet, channel) => {
    if (!sheet) return
    add(`uv${channel}-mirrored`, sheet.mirrored)
    add(`uv${channel}-degenerate`, sheet.degenerate)
  })
  return {
    sheets,
    facts: {
      index: place.index,
      slot: placed.slot,
      mode: view.mode,
      triangles: Math.floor(view.indices.length / 3),
      vertices: view.positions.length / 3,
      area: survey.area,
      attributes: view.attributes,
      degenerate: survey.degenerate.length,
      badIndices: survey.badIndices.length,
      notFinite: notFinitePoints(world),
      doubled: doubledVertices(placed, pointCount),
      normals: normals ? { notUnit: normals.notUnit, against: normals.against.length } : null,
      tangents: tangent ? { broken: brokenTangents(floatsOf(tangent)) } : null,
      cache: view.mode === 'triangles' ? vertexCacheUse(view.indices, view.positions.length / 3) : null,
      skin: measureSkin(primitive),
      colours: colourRanges(placed),
      uvChannels: view.uvs.flatMap((uv, channel) =>
        uv ? [channelFacts(uv, channel, sheets[channel]!)] : [],
      ),
    },
  }
}

function sheetOf(
  { view, survey, points }: PlacedPrimitive,
  uv: Float32Array,
  pointCount: number,
  mirrored: PlacedMesh['winding'],
): UvSheet | null {
  if (view.mode !== 'triangles') return null
  const { rep } = mergeVertices(points, pointCount, [{ values: uv, size: 2, tolerance: UV_TOLERANCE }])
  return uvSheet({ uv, indices: view.indices, areas: survey.areas, rep, mirrored })
}

/** Vertices that equal an earlier one in everything that they carry. */
function doubledVertices({ primitive, points, view }: PlacedPrimitive, pointCount: number): number {
  if (view.mode !== 'triangles' || distinct(points, pointCount)) return 0
  return mergeVertices(points, pointCount, vertexAttributes(primitive)).merged
}

/**
 * Everything that a primitive's vertices carry besides their place, with the tolerance for telling them
 * apart.
 */
export function vertexAttributes(primitive: PlacedPrimitive['primitive']): VertexAttribute[] {
  return primitive
    .listSemantics()
    .filter((s) => s !== 'POSITION')
    .map((semantic) => {
      const accessor = primitive.getAttribute(semantic)!
      return {
        values: floatsOf(accessor),
        size: accessor.getElementSize(),
        tolerance: semantic.startsWith('TEXCOORD_') ? UV_TOLERANCE : ATTRIBUTE_TOLERANCE,
      }
    })
}

function distinct(points: Uint32Array, pointCount: number): boolean {
  if (points.length > pointCount) return false
  const seen = new Uint8Array(pointCount)
  for (const p of points)
    if (seen[p]) return false
    else seen[p] = 1
  return true
}

function colourRanges({ primitive }: PlacedPrimitive): PrimitiveFacts['colours'] {
  const sets: PrimitiveFacts['colours'] = []
  for (let n = 0; primitive.getAttribute(`COLOR_${n}`); n++) {
    const accessor = primitive.getAttribute(`COLOR_${n}`)!
    const values = floatsOf(accessor),
      size = accessor.getElementSize()
    const min = new Array<number>(size).fill(Infinity),
      max = new Array<number>(size).fill(-Infinity)
    for (let k = 0; k < values.length; k++) {
      const c = k % size,
        v = values[k]!
      if (v < min[c]!) min[c] = v
      if (v > max[c]!) max[c] = v
    }
    sets.push({
      min: min.map((v) => (Number.isFinite(v) ? v : 0)),
      max: max.map((v) => (Number.isFinite(v) ? v : 0)),
    })
  }
  return sets
}

function channelFacts(uv: Float32Array, channel: number, sheet: UvSheet | null): UvChannelFacts {
  let u0 = Infinity,
    v0 = Infinity,
    u1 = -Infinity,
    v1 = -Infinity,
    notFinite = 0
  for (let k = 0; k + 1 < uv.length; k += 2) {
    const u = uv[k]!,
      v = uv[k + 1]!
    if (!Number.isFinite(u + v)) {
      notFinite++
      continue
    }
    if (u < u0) u0 = u
    if (u > u1) u1 = u
    if (v < v0) v0 = v
    if (v > v1) v1 = v
  }
  const none = u0 === Infinity
  return {
    channel,
    notFinite,
    min: none ? [0, 0] : [u0, v0],
    max: none ? [0, 0] : [u1, v1],
    allSame: none || (u0 === u1 && v0 === v1),
    islands: sheet?.islands ?? 0,
    uvArea: sheet?.uvArea ?? 0,
    mirrored: sheet?.mirrored.length ?? 0,
    degenerate: sheet?.degenerate.length ?? 0,
    outside: sheet?.outside ?? 0,
    tiles: sheet?.tiles ?? [],
    density: sheet?.density ?? null,
  }
}
