import { BufferAttribute, BufferGeometry, DoubleSide, Ray, Vector3 } from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import type { Bounds } from '@stern-gate/contract'

/** A triangle list in the world; `turned`: its winding is the wrong way round, as under a mirrored node. */
export interface TriangleList {
  positions: Float32Array
  indices: Uint32Array
  turned: boolean
}

/**
 * Distance from a point against its normal to the surface that lies under it and faces the same way: x y z and
 * the normal's x y z, of length 1. Above 0: the point lies over the surface; below 0: under it. Null where none
 * is met within `reach` to either side.
 */
export type GapFinder = (point: ArrayLike<number>, normal: ArrayLike<number>, reach: number) => number | null

/** The least cosine between two normals that face the same way. */
const SAME_WAY = 0.5

/**
 * Finds gaps over a surface by a tree of boxes; null where it has no triangles. With `within` only triangles that come
 * into that box are in the tree.
 */
export function gapFinder(parts: readonly TriangleList[], within: Bounds | null = null): GapFinder | null {
  const geometry = joined(parts, within)
  if (!geometry) return null
  const tree = new MeshBVH(geometry)
  const ray = new Ray(),
    facing = new Vector3()
  return (point, normal, reach) => {
    facing.set(normal[0]!, normal[1]!, normal[2]!)
    ray.origin.set(point[0]!, point[1]!, point[2]!).addScaledVector(facing, reach)
    ray.direction.copy(facing).negate()
    let gap: number | null = null
    for (const hit of tree.raycast(ray, DoubleSide, 0, 2 * reach)) {
      if (!hit.face || hit.face.normal.dot(facing) < SAME_WAY) continue
      const own = hit.distance - reach
      if (gap === null || Math.abs(own) < Math.abs(gap)) gap = own
    }
    return gap
  }
}

/** One geometry of all triangles in the box; corners that no vertex has, or that are no places, are left out. */
function joined(parts: readonly TriangleList[], within: Bounds | null): BufferGeometry | null {
  const positions = new Float32Array(parts.reduce((sum, p) => sum + p.positions.length, 0))
  const indices: number[] = []
  let first = 0
  for (const { positions: own, indices: corners, turned } of parts) {
    positions.set(own, first * 3)
    const count = own.length / 3
    for (let t = 0; t + 2 < corners.length; t += 3) {
      const [a, b, c] = [corners[t]!, corners[t + 1]!, corners[t + 2]!]
      if (a >= count || b >= count || c >= count) continue
      if (![a, b, c].every((v) => Number.isFinite(own[v * 3]! + own[v * 3 + 1]! + own[v * 3 + 2]!))) continue
      if (within && isOutside(own, a, b, c, within)) continue
      indices.push(first + a, first + (turned ? c : b), first + (turned ? b : c))
    }
    first += count
  }
  if (indices.length === 0) return null
  return new BufferGeometry()
    .setAttribute('position', new BufferAttribute(positions, 3))
    .setIndex(new BufferAttribute(Uint32Array.from(indices), 1))
}

/** Whether all corners of a triangle lie beyond the same side of a box. */
function isOutside(p: Float32Array, a: number, b: number, c: number, { min, max }: Bounds): boolean {
  for (let i = 0; i < 3; i++) {
    const [u, v, w] = [p[a * 3 + i]!, p[b * 3 + i]!, p[c * 3 + i]!]
    if (Math.max(u, v, w) < min[i]! || Math.min(u, v, w) > max[i]!) return true
  }
  return false
}
