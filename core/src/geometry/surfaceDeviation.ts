import type { TriangleList } from './joinTriangles'
import { nearestSurface, type NearestSurface } from './nearestSurface'
import { facingSamples, type SampledPart } from './surfaceSamples'

/** A surface of triangle lists, with the areas by which it is sampled and UVs where it has them. */
export interface LevelSurface {
  parts: readonly (TriangleList & SampledPart & { uvs: Float32Array | null })[]
}

/** How far two surfaces are apart, both ways. */
export interface SurfaceDeviation {
  /** The most that a sample or a vertex of one lies off the other, metres. */
  most: number
  /** 99 % of the samples lie no further off, metres. */
  within99: number
  /** Mean angle between the triangles at the samples of the second and those that lie nearest, degrees. */
  normals: number
  /** 95 % of the samples of the second have a UV that is no further off, in sheets; null without UVs on both. */
  uv: number | null
  /** Samples of each surface. */
  samples: number
}

const SEED = 20_261_203

/**
 * Deviation of a coarse surface from a fine one: `count` samples spread by area over each (seeded), and the vertices
 * of each (every so manyeth, `count` at the most), against the nearest place of the other. Null where one has no
 * surface. Sampled both ways, this is the Hausdorff distance from below (Cignoni, Rocchini, Scopigno 1998).
 */
export const surfaceDeviation = (
  fine: LevelSurface,
  coarse: LevelSurface,
  count: number,
): SurfaceDeviation | null => deviationFrom(fine)(coarse, count)

/** The same for several surfaces against one, whose tree is built once. */
export function deviationFrom(
  fine: LevelSurface,
): (coarse: LevelSurface, count: number) => SurfaceDeviation | null {
  const onFine = nearestSurface(fine.parts)
  return (coarse, count) => {
    const onCoarse = nearestSurface(coarse.parts)
    if (!onFine || !onCoarse) return null
    const there = walk(coarse, fine, onFine, count),
      back = walk(fine, coarse, onCoarse, count)
    if (there.distances.length === 0 || back.distances.length === 0) return null
    return {
      most: Math.max(
        there.most,
        back.most,
        farthestVertex(coarse, onFine, count),
        farthestVertex(fine, onCoarse, count),
      ),
      within99: Math.max(shareOf(there.distances, 0.99), shareOf(back.distances, 0.99)),
      normals: there.degrees,
      uv: there.uvShifts.length > 0 ? shareOf(there.uvShifts, 0.95) : null,
      samples: there.distances.length,
    }
  }
}

interface Walk {
  distances: Float64Array
  most: number
  /** Mean angle between normals. */
  degrees: number
  uvShifts: Float64Array
}

function walk(from: LevelSurface, to: LevelSurface, nearest: NearestSurface, count: number): Walk {
  const { points, normals, corners, weights } = facingSamples(from.parts, count, SEED)
  const total = points.length / 3
  const distances = new Float64Array(total),
    shifts = new Float64Array(total)
  const ownUvs = joinedUvs(from),
    otherUvs = joinedUvs(to)
  let most = 0,
    angles = 0
  for (let n = 0; n < total; n++) {
    const k = n * 3
    const place = nearest(points[k]!, points[k + 1]!, points[k + 2]!)
    distances[n] = place.distance
    if (place.distance > most) most = place.distance
    const dot =
      normals[k]! * place.normal[0] + normals[k + 1]! * place.normal[1] + normals[k + 2]! * place.normal[2]
    // A sheet with two sides may be met from behind: it lies the same way
    angles += Math.acos(Math.min(1, Math.abs(dot)))
    if (ownUvs && otherUvs)
      shifts[n] = uvShift(
        uvOf(ownUvs, corners.subarray(k, k + 3), weights.subarray(k, k + 3)),
        uvOf(otherUvs, place.corners, place.weights),
      )
  }
  return {
    distances,
    most,
    degrees: total > 0 ? ((angles / total) * 180) / Math.PI : 0,
    uvShifts: ownUvs && otherUvs ? shifts : new Float64Array(0),
  }
}

/** The most that a vertex which some triangle uses lies off; of more than `count` some are asked, spread evenly. */
function farthestVertex({ parts }: LevelSurface, nearest: NearestSurface, count: number): number {
  const total = parts.reduce((sum, p) => sum + p.positions.length / 3, 0),
    step = Math.max(1, Math.ceil(total / count))
  let most = 0
  for (const { positions, indices } of parts) {
    const isUsed = new Uint8Array(positions.length / 3)
    for (const v of indices) if (v < isUsed.length) isUsed[v] = 1
    for (let v = 0, seen = 0; v < isUsed.length; v++) {
      if (isUsed[v] === 0 || seen++ % step > 0) continue
      const [x, y, z] = [positions[v * 3]!, positions[v * 3 + 1]!, positions[v * 3 + 2]!]
      if (Number.isFinite(x + y + z)) most = Math.max(most, nearest(x, y, z).distance)
    }
  }
  return most
}

/** UVs of all vertices, in the order in which joined triangles number them; null where a part has none. */
function joinedUvs({ parts }: LevelSurface): Float32Array | null {
  if (parts.length === 0 || parts.some((p) => p.uvs === null)) return null
  const all = new Float32Array(parts.reduce((sum, p) => sum + (p.positions.length / 3) * 2, 0))
  let at = 0
  for (const { uvs, positions } of parts) {
    all.set(uvs!.subarray(0, (positions.length / 3) * 2), at)
    at += (positions.length / 3) * 2
  }
  return all
}

type Numbers = ArrayLike<number>

const uvOf = (uvs: Float32Array, corners: Numbers, weights: Numbers): [number, number] => {
  let u = 0,
    v = 0
  for (let i = 0; i < 3; i++) {
    u += uvs[corners[i]! * 2]! * weights[i]!
    v += uvs[corners[i]! * 2 + 1]! * weights[i]!
  }
  return [u, v]
}

/** Length between two UVs on a sheet that repeats. */
const uvShift = ([u, v]: readonly [number, number], [s, t]: readonly [number, number]): number => {
  const du = u - s - Math.round(u - s),
    dv = v - t - Math.round(v - t)
  const length = Math.sqrt(du * du + dv * dv)
  return Number.isFinite(length) ? length : 0
}

function shareOf(values: Float64Array, share: number): number {
  const sorted = values.slice().sort()
  return sorted[Math.min(sorted.length - 1, Math.floor(share * sorted.length))]!
}
