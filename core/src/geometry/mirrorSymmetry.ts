import type { Bounds } from '@stern-gate/contract'

const CELLS = 40

/**
 * How much of a surface, given by samples (x y z …) spread over it, has a mirror image across the middle of its bounds along X, Y and Z: share of the samples whose mirrored place lies within a cell of another
 * sample, on a grid of 40 cells along the longest side. 0 to 1; flat bounds along an axis give 1 for it.
 */
export function mirrorSymmetry(samples: Float32Array, bounds: Bounds): [number, number, number] {
  const size = [0, 1, 2].map((i) => bounds.max[i]! - bounds.min[i]!)
  const cell = Math.max(...size) / CELLS || 1
  const side = CELLS + 3
  const taken = new Uint8Array(side * side * side)
  const cellOf = (value: number, axis: number): number => Math.min(CELLS, Math.max(0, Math.floor((value - bounds.min[axis]!) / cell))) + 1
  const at = (x: number, y: number, z: number): number => (z * side + y) * side + x
  // Each sample fills its cell and those around, so that a look-up is one read
  for (let k = 0; k + 2 < samples.length; k += 3) {
    const x = cellOf(samples[k]!, 0), y = cellOf(samples[k + 1]!, 1), z = cellOf(samples[k + 2]!, 2)
    for (let dz = -1; dz <= 1; dz++) for (let dy = -1; dy <= 1; dy++) for (let dx = -1; dx <= 1; dx++) taken[at(x + dx, y + dy, z + dz)] = 1
  }
  const count = Math.floor(samples.length / 3)
  return [0, 1, 2].map((axis) => {
    let found = 0
    for (let k = 0; k + 2 < samples.length; k += 3) {
      const p = [samples[k]!, samples[k + 1]!, samples[k + 2]!]
      p[axis] = bounds.min[axis]! + bounds.max[axis]! - p[axis]!
      if (taken[at(cellOf(p[0]!, 0), cellOf(p[1]!, 1), cellOf(p[2]!, 2))]) found++
    }
    return count === 0 ? 0 : found / count
  }) as [number, number, number]
}
