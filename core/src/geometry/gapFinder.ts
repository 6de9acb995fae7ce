import { DoubleSide, Ray, Vector3 } from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import type { Bounds } from '@stern-gate/contract'
import { joinTriangles, type TriangleList } from './joinTriangles'

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
  const geometry = joinTriangles(parts, within)
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
