import type { Bounds, PivotKind } from '@stern-gate/contract'
import { longestSide } from './pointBounds'

type Point = [number, number, number]

/** Where a pivot of each kind stands in a box; Y is up. A box has several corners at its base. */
export function pivotPoints(bounds: Bounds, kind: Exclude<PivotKind, 'any' | 'origin-inside'>): Point[] {
  const { min, max } = bounds
  const x = (min[0] + max[0]) / 2,
    y = (min[1] + max[1]) / 2,
    z = (min[2] + max[2]) / 2
  if (kind === 'centre') return [[x, y, z]]
  if (kind === 'base-centre') return [[x, min[1], z]]
  return [
    [min[0], min[1], min[2]],
    [max[0], min[1], min[2]],
    [min[0], min[1], max[2]],
    [max[0], min[1], max[2]],
  ]
}

/**
 * The point of a kind that is nearest to the origin, where the pivot of an asset is, and its distance in
 * metres.
 */
export function nearestPivot(bounds: Bounds, kind: PivotKind): { point: Point; distance: number } {
  if (kind === 'any') return { point: [0, 0, 0], distance: 0 }
  if (kind === 'origin-inside') {
    const point = bounds.min.map((low, i) => Math.min(Math.max(0, low), bounds.max[i]!)) as Point
    return { point, distance: Math.hypot(...point) }
  }
  const points = pivotPoints(bounds, kind).map((point) => ({ point, distance: Math.hypot(...point) }))
  return points.reduce((best, p) => (p.distance < best.distance ? p : best))
}

/** A pivot within 1 cm or 2 % of the longest side counts as in place. */
export const pivotTolerance = (bounds: Bounds): number => Math.max(0.01, longestSide(bounds) * 0.02)
