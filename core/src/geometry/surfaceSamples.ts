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
  let total = 0
  for (const { areas } of parts)
    for (let t = 0; t < areas.length; t++) if (Number.isFinite(areas[t]!)) total += areas[t]!
  if (!(total > 0)) return new Float32Array(0)
  const random = seededNumbers(seed),
    points = new Float32Array(count * 3)
  const step = total / count
  let done = 0,
    passed = 0,
    next = step * random()
  for (const { positions, indices, areas } of parts)
    for (let t = 0; t < areas.length; t++) {
      if (!Number.isFinite(areas[t]!)) continue
      passed += areas[t]!
      for (; next < passed && done < count; next = step * (done + random())) {
        let u = random(),
          v = random()
        if (u + v > 1) {
          u = 1 - u
          v = 1 - v
        }
        const a = indices[t * 3]! * 3,
          b = indices[t * 3 + 1]! * 3,
          c = indices[t * 3 + 2]! * 3
        for (let i = 0; i < 3; i++)
          points[done * 3 + i] =
            positions[a + i]! * (1 - u - v) + positions[b + i]! * u + positions[c + i]! * v
        done++
      }
    }
  return points.subarray(0, done * 3)
}
