import type { Bounds } from '@stern-gate/contract'
import type { Hull } from './convexHull'
import type { TriangleList } from './joinTriangles'

/** Cells along the longest side. */
const CELLS = 48
const ROOM = 2

/**
 * How much of convex shapes is air: cells of a grid whose middle lies in one of them and that can be reached from
 * outside without crossing the surface, as a share of all cells in them. A cavity that is open counts as air, one that
 * is closed, or open to the ground alone, as solid. Null where no cell lies in a shape.
 */
export function claimedAir(
  surface: readonly TriangleList[],
  hulls: readonly Hull[],
  { min, max }: Bounds,
): number | null {
  const sides = min.map((v, i) => max[i]! - v)
  const cell = Math.max(...sides) / CELLS
  if (!(cell > 0)) return null
  // Two cells of room on every side: what lies on the very end falls into the first, the flood goes around it
  const size = sides.map((s) => Math.max(1, Math.ceil(s / cell)) + 2 * ROOM) as [number, number, number]
  const from = min.map((v) => v - ROOM * cell) as [number, number, number]
  const state = new Uint8Array(size[0] * size[1] * size[2])
  for (const { positions, indices } of surface) markSurface(state, size, from, cell, positions, indices)
  // What stands on the ground is often open below: nothing comes in from there
  closeBelow(state, size)
  flood(state, size)
  let inside = 0,
    air = 0
  for (let z = 0, k = 0; z < size[2]; z++) {
    const pz = from[2] + (z + 0.5) * cell
    for (let y = 0; y < size[1]; y++) {
      const py = from[1] + (y + 0.5) * cell
      for (let x = 0; x < size[0]; x++, k++) {
        if (!isInAny(hulls, from[0] + (x + 0.5) * cell, py, pz)) continue
        inside++
        if (state[k] === OUTSIDE) air++
      }
    }
  }
  return inside > 0 ? air / inside : null
}

/** A place that lies beyond one plane of a shape is out of it: the others need not be asked. */
function isInAny(hulls: readonly Hull[], x: number, y: number, z: number): boolean {
  for (const { planes } of hulls) {
    let k = 0
    while (k < planes.length && planes[k]! * x + planes[k + 1]! * y + planes[k + 2]! * z <= planes[k + 3]!)
      k += 4
    if (k >= planes.length) return true
  }
  return false
}

const SURFACE = 1,
  OUTSIDE = 2

/** Marks every cell that a triangle passes through: points over it, half a cell apart. */
function markSurface(
  state: Uint8Array,
  size: readonly number[],
  from: readonly number[],
  cell: number,
  p: Float32Array,
  indices: Uint32Array,
): void {
  for (let t = 0; t + 2 < indices.length; t += 3) {
    const [a, b, c] = [indices[t]! * 3, indices[t + 1]! * 3, indices[t + 2]! * 3]
    const longest = Math.max(length(p, a, b), length(p, b, c), length(p, c, a))
    if (!Number.isFinite(longest)) continue
    const steps = Math.min(400, Math.max(1, Math.ceil((longest / cell) * 2)))
    for (let i = 0; i <= steps; i++)
      for (let j = 0; j <= steps - i; j++) {
        const u = i / steps,
          v = j / steps
        let k = 0
        for (let axis = 2; axis >= 0; axis--) {
          const at = p[a + axis]! * (1 - u - v) + p[b + axis]! * u + p[c + axis]! * v
          const n = Math.floor((at - from[axis]!) / cell)
          k = k * size[axis]! + Math.min(size[axis]! - 1, Math.max(0, n))
        }
        state[k] = SURFACE
      }
  }
}

const length = (p: Float32Array, a: number, b: number): number =>
  Math.hypot(p[a]! - p[b]!, p[a + 1]! - p[b + 1]!, p[a + 2]! - p[b + 2]!)

/** Closes the layer under the lowest cells of the surface. */
function closeBelow(state: Uint8Array, [w, h, d]: readonly [number, number, number]): void {
  let lowest = h
  for (let k = 0; k < state.length; k++)
    if (state[k] === SURFACE) lowest = Math.min(lowest, Math.floor(k / w) % h)
  if (lowest === 0 || lowest === h) return
  for (let z = 0; z < d; z++) state.fill(SURFACE, (z * h + lowest - 1) * w, (z * h + lowest) * w)
}

/** Marks what is reached from the highest corner of the grid through the sides of cells. */
function flood(state: Uint8Array, [w, h, d]: readonly [number, number, number]): void {
  const waiting = new Int32Array(state.length),
    corner = state.length - 1
  let count = 1
  waiting[0] = corner
  state[corner] = OUTSIDE
  const visit = (k: number): void => {
    if (state[k] !== 0) return
    state[k] = OUTSIDE
    waiting[count++] = k
  }
  while (count > 0) {
    const k = waiting[--count]!
    const x = k % w,
      row = (k - x) / w,
      y = row % h,
      z = (row - y) / h
    if (x > 0) visit(k - 1)
    if (x + 1 < w) visit(k + 1)
    if (y > 0) visit(k - w)
    if (y + 1 < h) visit(k + w)
    if (z > 0) visit(k - w * h)
    if (z + 1 < d) visit(k + w * h)
  }
}
