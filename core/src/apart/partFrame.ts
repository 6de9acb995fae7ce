import type { Bounds, PartPivot } from '@stern-gate/contract'
import { identityMatrix, type Matrix4 } from '../geometry/matrix'
import type { NodeGroup } from './ways'

/** So far from its box, in diagonals of the box, a node's place is no longer taken for that of the thing. */
const FAR = 0.5

/**
 * Where the origin of a part lies in its scene, and how it is turned about the upright axis. `own`: the place and
 * the heading of its node, if that lies at the thing; else, and for `foot`, the middle of the lowest face of its
 * box; `scene`: the scene's own origin.
 */
export function frameOf(group: NodeGroup, bounds: Bounds | null, pivot: PartPivot): Matrix4 {
  if (pivot === 'scene' || !bounds) return identityMatrix
  const foot: [number, number, number] = [
    (bounds.min[0] + bounds.max[0]) / 2,
    bounds.min[1],
    (bounds.min[2] + bounds.max[2]) / 2,
  ]
  const { world } = group.label
  const own: [number, number, number] = [world[12]!, world[13]!, world[14]!]
  if (pivot === 'foot' || !isNear(own, bounds)) return turnedAt(foot, 0)
  return turnedAt(own, headingOf(world))
}

function isNear(point: readonly number[], { min, max }: Bounds): boolean {
  const gap = Math.hypot(...point.map((v, k) => Math.max(0, min[k]! - v, v - max[k]!)))
  return gap <= FAR * Math.hypot(...max.map((v, k) => v - min[k]!))
}

/**
 * The turn about Y that is in a matrix: the twist of its rotation about that axis. A node that was laid on its side
 * by an exporter (a quarter turn about X) has none and stays as it is. A mirrored or flattened one has none either.
 */
function headingOf(m: Matrix4): number {
  const axis = (c: number): number[] => {
    const v = [m[c * 4]!, m[c * 4 + 1]!, m[c * 4 + 2]!]
    const length = Math.hypot(...v)
    return v.map((x) => x / length)
  }
  const [x, y, z] = [axis(0), axis(1), axis(2)] as [number[], number[], number[]]
  const determinant =
    x[0]! * (y[1]! * z[2]! - y[2]! * z[1]!) -
    y[0]! * (x[1]! * z[2]! - x[2]! * z[1]!) +
    z[0]! * (x[1]! * y[2]! - x[2]! * y[1]!)
  if (!(determinant > 0.99)) return 0
  // Of the quaternion only w and y are needed (Shepperd, Quaternion from rotation matrix, 1978)
  const w2 = 1 + x[0]! + y[1]! + z[2]!,
    y2 = 1 - x[0]! + y[1]! - z[2]!
  const wy = z[0]! - x[2]!
  if (w2 < 1e-9 && y2 < 1e-9) return 0
  return w2 >= y2 ? 2 * Math.atan2(wy, w2) : 2 * Math.atan2(y2, wy)
}

const turnedAt = ([x, y, z]: readonly [number, number, number], angle: number): Matrix4 => {
  const c = Math.cos(angle),
    s = Math.sin(angle)
  return [c, 0, -s, 0, 0, 1, 0, 0, s, 0, c, 0, x, y, z, 1]
}
