import type { PaintedPart } from '@stern-gate/contract'
import { bytesOf, textOf } from './packedNumbers'
import { boundsRadius, pointBounds } from '../geometry/pointBounds'
import { nearestSurface } from '../geometry/nearestSurface'

/** A painted surface: a value of 0 to 1 for each vertex. */
export interface PaintedSurface {
  /** Path of its node. */
  node: string
  /** x y z of each vertex, metres, in the space of the mesh. */
  positions: Float32Array
  /** Three vertices a triangle. */
  indices: Uint32Array
  values: Float32Array
  /** The value of everything that was never painted. */
  rest: number
}

/** Differences below a half step of 8 bits are none. */
const SAME = 0.5 / 255

/** Packs what differs from the rest, with the triangles around it. */
export function packPainted(surface: PaintedSurface): PaintedPart {
  const { positions, indices, values, rest, node } = surface
  const touched: number[] = []
  for (let k = 0; k + 2 < indices.length; k += 3)
    for (let i = 0; i < 3; i++)
      if (Math.abs(values[indices[k + i]!]! - rest) > SAME) {
        touched.push(indices[k]!, indices[k + 1]!, indices[k + 2]!)
        break
      }
  const numbers = new Map<number, number>()
  for (const v of touched) if (!numbers.has(v)) numbers.set(v, numbers.size)
  const points = new Float32Array(numbers.size * 3),
    levels = new Uint8Array(numbers.size)
  for (const [v, k] of numbers) {
    points.set(positions.subarray(v * 3, v * 3 + 3), k * 3)
    levels[k] = Math.round(values[v]! * 255)
  }
  return {
    node,
    rest,
    points: textOf(points),
    values: textOf(levels),
    triangles: textOf(Uint32Array.from(touched, (v) => numbers.get(v)!)),
  }
}

/** Values found again on a mesh, which may have other vertices than the painted one. */
export interface FoundValues {
  values: Float32Array
  /** Vertices that lie on what was painted. */
  near: number
}

/** Values of a painted part beyond this share of its diagonal from it are those of the rest. */
const REACH = 0.01

/**
 * The painted values at the vertices of a mesh: that of the nearest place of the painted surface within reach,
 * between the values of its corners. Null where the part cannot be read.
 */
export function findPainted(part: PaintedPart, positions: Float32Array): FoundValues | null {
  const painted = unpack(part)
  if (!painted) return null
  const values = new Float32Array(positions.length / 3).fill(part.rest)
  const nearest = nearestSurface([{ positions: painted.points, indices: painted.triangles, turned: false }])
  if (!nearest) return { values, near: 0 }
  const bounds = pointBounds(painted.points),
    reach = bounds ? 2 * boundsRadius(bounds) * REACH : 0
  let near = 0
  for (let v = 0; v < values.length; v++) {
    const { distance, corners, weights } = nearest(
      positions[v * 3]!,
      positions[v * 3 + 1]!,
      positions[v * 3 + 2]!,
    )
    if (!(distance <= reach)) continue
    near++
    const value = corners.reduce((sum, corner, i) => sum + (painted.values[corner]! / 255) * weights[i]!, 0)
    values[v] = Math.min(1, Math.max(0, value))
  }
  return { values, near }
}

function unpack(
  part: PaintedPart,
): { points: Float32Array; triangles: Uint32Array; values: Uint8Array } | null {
  const points = bytesOf(part.points),
    triangles = bytesOf(part.triangles),
    values = bytesOf(part.values)
  const count = points.length / 12
  if (!Number.isInteger(count) || values.length !== count || triangles.length % 12 !== 0) return null
  const corners = new Uint32Array(triangles.buffer)
  if (corners.some((v) => v >= count)) return null
  return { points: new Float32Array(points.buffer), triangles: corners, values }
}
