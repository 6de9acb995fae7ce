import { faceCross } from './faceNormal'
/** One triangle list in the world, with the surface of each triangle. */
export interface SampledPart {
  positions: Float32Array
  indices: Uint32Array
  areas: Float32Array
}

/** Seeded numbers in 0 … 1 (mulberry32, Ettinger 2017, public domain). */
export function seededNumbers(seed: number): () => number {
  let state = seed >>> 0
  return () => {
    state = (state + 0x6d2b79f5) >>> 0
    let t = Math.imul(state ^ (state >>> 15), state | 1)
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61)
    return ((t ^ (t >>> 14)) >>> 0) / 4294967296
  }
}

/**
 * Points (x y z …) spread over the surface by area, evenly along it and seeded within each stretch; at most
 * `count`, none when there is no surface.
 */
export function surfaceSamples(parts: readonly SampledPart[], count: number, seed: number): Float32Array {
  const points = new Float32Array(count * 3)
  const done = spread(parts, count, seed, (n, { positions, indices }, t, u, v) => {
    const a = indices[t * 3]! * 3,
      b = indices[t * 3 + 1]! * 3,
      c = indices[t * 3 + 2]! * 3
    for (let i = 0; i < 3; i++)
      points[n * 3 + i] = positions[a + i]! * (1 - u - v) + positions[b + i]! * u + positions[c + i]! * v
  })
  return points.subarray(0, done * 3)
}

/** Points as `surfaceSamples` spreads them, with what is known of where each lies. */
export interface FacingSamples {
  points: Float32Array
  /** Of its triangle: x y z, of length 1. */
  normals: Float32Array
  /** The triangle's three vertices, numbered over all parts, and their shares in the point. */
  corners: Uint32Array
  weights: Float32Array
}

export function facingSamples(parts: readonly SampledPart[], count: number, seed: number): FacingSamples {
  const points = surfaceSamples(parts, count, seed)
  const normals = new Float32Array(points.length),
    corners = new Uint32Array(points.length),
    weights = new Float32Array(points.length)
  const firsts = new Map<SampledPart, number>()
  let first = 0
  for (const part of parts) {
    firsts.set(part, first)
    first += part.positions.length / 3
  }
  spread(parts, count, seed, (n, part, t, u, v) => {
    const { positions, indices } = part
    const cross = faceCross(positions, indices[t * 3]!, indices[t * 3 + 1]!, indices[t * 3 + 2]!)
    const length = Math.hypot(...cross) || 1
    for (let i = 0; i < 3; i++) {
      normals[n * 3 + i] = cross[i]! / length
      corners[n * 3 + i] = firsts.get(part)! + indices[t * 3 + i]!
    }
    weights.set([1 - u - v, u, v], n * 3)
  })
  return { points, normals, corners, weights }
}

/** Where the samples lie: the triangle of a part, and how far toward its second and third corner. */
function spread(
  parts: readonly SampledPart[],
  count: number,
  seed: number,
  put: (n: number, part: SampledPart, triangle: number, u: number, v: number) => void,
): number {
  let total = 0
  for (const { areas } of parts)
    for (let t = 0; t < areas.length; t++) if (Number.isFinite(areas[t]!)) total += areas[t]!
  if (!(total > 0)) return 0
  const random = seededNumbers(seed),
    step = total / count
  let done = 0,
    passed = 0,
    next = step * random()
  for (const part of parts)
    for (let t = 0; t < part.areas.length; t++) {
      if (!Number.isFinite(part.areas[t]!)) continue
      passed += part.areas[t]!
      for (; next < passed && done < count; next = step * (done + random())) {
        const u = random(),
          v = random()
        if (u + v > 1) put(done, part, t, 1 - u, 1 - v)
        else put(done, part, t, u, v)
        done++
      }
    }
  return done
}
