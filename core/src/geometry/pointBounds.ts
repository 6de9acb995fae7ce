import type { Bounds } from '@stern-gate/contract'

/** Box around points (x y z …); points that are not finite are left out; null when none is left. */
export function pointBounds(points: Float32Array): Bounds | null {
  let x0 = Infinity,
    y0 = Infinity,
    z0 = Infinity,
    x1 = -Infinity,
    y1 = -Infinity,
    z1 = -Infinity
  for (let k = 0; k + 2 < points.length; k += 3) {
    const x = points[k]!,
      y = points[k + 1]!,
      z = points[k + 2]!
    if (!Number.isFinite(x + y + z)) continue
    if (x < x0) x0 = x
    if (x > x1) x1 = x
    if (y < y0) y0 = y
    if (y > y1) y1 = y
    if (z < z0) z0 = z
    if (z > z1) z1 = z
  }
  return x0 === Infinity ? null : { min: [x0, y0, z0], max: [x1, y1, z1] }
}

/** Box around boxes; null when all are null. */
export function joinBounds(boxes: Iterable<Bounds | null>): Bounds | null {
  let joined: Bounds | null = null
  for (const box of boxes) {
    if (!box) continue
    joined = joined
      ? {
          min: [
            Math.min(joined.min[0], box.min[0]),
            Math.min(joined.min[1], box.min[1]),
            Math.min(joined.min[2], box.min[2]),
          ],
          max: [
            Math.max(joined.max[0], box.max[0]),
            Math.max(joined.max[1], box.max[1]),
            Math.max(joined.max[2], box.max[2]),
          ],
        }
      : box
  }
  return joined
}

/** Width, height, depth. */
export const boundsSize = (b: Bounds): [number, number, number] => [
  b.max[0] - b.min[0],
  b.max[1] - b.min[1],
  b.max[2] - b.min[2],
]

/** Longest of width, height and depth. */
export const longestSide = (b: Bounds): number =>
  Math.max(b.max[0] - b.min[0], b.max[1] - b.min[1], b.max[2] - b.min[2])

/** Radius of the ball through the corners of a box. */
export const boundsRadius = (b: Bounds): number => Math.hypot(...boundsSize(b)) / 2
