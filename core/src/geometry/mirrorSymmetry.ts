import type { Bounds } from '@stern-gate/contract'

const CELLS = 40

/**
 * How much of a surface, given by samples (x y z …) spread over it, has a mirror image across the middle of
 * its bounds along X, Y and Z: share of the samples whose mirrored place lies within a cell of another
 * sample, on a grid of 40 cells along the longest side. 0 to 1; flat bounds along an axis give 1 for it.
 */
export function mirrorSymmetry(samples: Float32Array, bounds: Bounds): [number, number, number] {
  const size = [0, 1, 2].map((i) => bounds.max[i]! - bounds.min[i]!)
  const cell = Math.max(...size) / CELLS || 1
  const taken = new Uint8Array(SIDE * SIDE * SIDE)
  const [lowX, lowY, lowZ] = bounds.min,
    perCell = 1 / cell,
    count = Math.floor(samples.length / 3)
  for (let k = 0; k < count * 3; k += 3)
    mark(
      taken,
      at(
        place((samples[k]! - lowX) * perCell),
        place((samples[k + 1]! - lowY) * perCell),
        place((samples[k + 2]! - lowZ) * perCell),
      ),
    )
  let alongX = 0,
    alongY = 0,
    alongZ = 0
  for (let k = 0; k < count * 3; k += 3) {
    const fromX = samples[k]! - lowX,
      fromY = samples[k + 1]! - lowY,
      fromZ = samples[k + 2]! - lowZ
    const x = place(fromX * perCell),
      y = place(fromY * perCell),
      z = place(fromZ * perCell)
    alongX += taken[at(place((size[0]! - fromX) * perCell), y, z)]!
    alongY += taken[at(x, place((size[1]! - fromY) * perCell), z)]!
    alongZ += taken[at(x, y, place((size[2]! - fromZ) * perCell))]!
  }
  return count === 0 ? [0, 0, 0] : [alongX / count, alongY / count, alongZ / count]
}

/** Cells of a side: one more for the far end of the bounds, and one around. */
const SIDE = CELLS + 3

const place = (cells: number): number => Math.min(CELLS, Math.max(0, Math.floor(cells))) + 1
const at = (x: number, y: number, z: number): number => (z * SIDE + y) * SIDE + x

/** A sample fills its cell and those around, so that a look-up is one read. */
function mark(taken: Uint8Array, cell: number): void {
  for (let z = cell - SIDE * SIDE; z <= cell + SIDE * SIDE; z += SIDE * SIDE)
    for (let y = z - SIDE; y <= z + SIDE; y += SIDE) taken[y - 1] = taken[y] = taken[y + 1] = 1
}
