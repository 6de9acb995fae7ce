import { Vector3 } from 'three'
import { MeshBVH, type HitPointInfo } from 'three-mesh-bvh'
import { joinTriangles, type TriangleList } from './joinTriangles'

/** The place of a surface that lies nearest to a point. */
export interface NearestPlace {
  /** Metres. */
  distance: number
  /** Numbers of the triangle's vertices, over all lists. */
  corners: [number, number, number]
  /** Shares of the three corners in the place; they add up to 1. */
  weights: [number, number, number]
  /** Of the triangle, of length 1; all 0 for one without a surface. */
  normal: [number, number, number]
}

/** Gives the place nearest to a point x y z; the answer is filled anew at every call. */
export type NearestSurface = (x: number, y: number, z: number) => NearestPlace

/** Finds nearest places by a tree of boxes; null where there are no triangles. */
export function nearestSurface(parts: readonly TriangleList[]): NearestSurface | null {
  const geometry = joinTriangles(parts)
  if (!geometry) return null
  const tree = new MeshBVH(geometry)
  const index = geometry.index!.array,
    positions = geometry.getAttribute('position').array as Float32Array
  const point = new Vector3(),
    hit: HitPointInfo = { point: new Vector3(), distance: 0, faceIndex: 0 }
  const place: NearestPlace = { distance: 0, corners: [0, 0, 0], weights: [0, 0, 0], normal: [0, 0, 0] }
  return (x, y, z) => {
    tree.closestPointToPoint(point.set(x, y, z), hit)
    place.distance = hit.distance
    for (let i = 0; i < 3; i++) place.corners[i] = index[hit.faceIndex * 3 + i]!
    weigh(positions, hit.point, place)
    return place
  }
}

/** Barycentric shares of a place within its triangle, and the triangle's normal. */
function weigh(p: Float32Array, at: Vector3, { corners, weights, normal }: NearestPlace): void {
  const [a, b, c] = corners.map((v) => v * 3) as [number, number, number]
  const ab = [p[b]! - p[a]!, p[b + 1]! - p[a + 1]!, p[b + 2]! - p[a + 2]!],
    ac = [p[c]! - p[a]!, p[c + 1]! - p[a + 1]!, p[c + 2]! - p[a + 2]!],
    ap = [at.x - p[a]!, at.y - p[a + 1]!, at.z - p[a + 2]!]
  const n = [
    ab[1]! * ac[2]! - ab[2]! * ac[1]!,
    ab[2]! * ac[0]! - ab[0]! * ac[2]!,
    ab[0]! * ac[1]! - ab[1]! * ac[0]!,
  ]
  const dot = (u: number[], v: number[]): number => u[0]! * v[0]! + u[1]! * v[1]! + u[2]! * v[2]!
  const length = Math.sqrt(dot(n, n))
  for (let i = 0; i < 3; i++) normal[i] = length > 0 ? n[i]! / length : 0
  const [d00, d01, d11, d20, d21] = [dot(ab, ab), dot(ab, ac), dot(ac, ac), dot(ap, ab), dot(ap, ac)]
  const under = d00 * d11 - d01 * d01
  weights[1] = under > 0 ? (d11 * d20 - d01 * d21) / under : 0
  weights[2] = under > 0 ? (d00 * d21 - d01 * d20) / under : 0
  weights[0] = 1 - weights[1] - weights[2]
}
