import type { PickedPart } from '@stern-gate/contract'
import { faceNormal } from '../geometry/faceNormal'
import { nearestSurface } from '../geometry/nearestSurface'
import { boundsRadius, pointBounds } from '../geometry/pointBounds'
import { bytesOf, textOf } from './packedNumbers'

/** A mesh of which triangles were picked, in the space of the mesh. */
export interface PickedSurface {
  /** Path of its node. */
  node: string
  /** x y z of each vertex, metres. */
  positions: Float32Array
  /** Three vertices a triangle. */
  indices: Uint32Array
  /** Numbers of the picked triangles. */
  picked: readonly number[]
}

/** Packs the picked triangles with their vertices. */
export function packPicked({ node, positions, indices, picked }: PickedSurface): PickedPart {
  const numbers = new Map<number, number>()
  const corners = picked.flatMap((t) => [indices[t * 3]!, indices[t * 3 + 1]!, indices[t * 3 + 2]!])
  for (const v of corners) if (!numbers.has(v)) numbers.set(v, numbers.size)
  const points = new Float32Array(numbers.size * 3)
  for (const [v, k] of numbers) points.set(positions.subarray(v * 3, v * 3 + 3), k * 3)
  return {
    node,
    points: textOf(points),
    triangles: textOf(Uint32Array.from(corners, (v) => numbers.get(v)!)),
  }
}

/** A triangle is found where its middle lies within this share of the diagonal from the picked ones … */
const REACH = 0.005
/** … and looks their way: the cosine of the angle between them at least. */
const SAME_WAY = 0.5

/** 1 for each triangle of a mesh that lies where one was picked; null where the part cannot be read. */
export function findPicked(
  part: PickedPart,
  positions: Float32Array,
  indices: Uint32Array,
): Uint8Array | null {
  const points = bytesOf(part.points),
    triangles = bytesOf(part.triangles)
  if (points.length % 12 !== 0 || triangles.length % 12 !== 0) return null
  const places = new Float32Array(points.buffer),
    corners = new Uint32Array(triangles.buffer)
  if (corners.some((v) => v >= places.length / 3)) return null
  const flags = new Uint8Array(Math.floor(indices.length / 3))
  const nearest = nearestSurface([{ positions: places, indices: corners, turned: false }])
  if (!nearest) return flags
  const bounds = pointBounds(places),
    reach = bounds ? 2 * boundsRadius(bounds) * REACH : 0
  for (let t = 0; t < flags.length; t++) {
    const [a, b, c] = [0, 1, 2].map((i) => indices[t * 3 + i]!) as [number, number, number]
    const middle = [0, 1, 2].map(
      (i) => (positions[a * 3 + i]! + positions[b * 3 + i]! + positions[c * 3 + i]!) / 3,
    )
    const { distance, normal } = nearest(middle[0]!, middle[1]!, middle[2]!)
    if (!(distance <= reach)) continue
    const own = faceNormal(positions, a, b, c)
    if (own[0] * normal[0] + own[1] * normal[1] + own[2] * normal[2] >= SAME_WAY) flags[t] = 1
  }
  return flags
}
