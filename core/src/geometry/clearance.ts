import { DoubleSide, Matrix4, Ray, Vector3 } from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import { joinTriangles, type TriangleList } from './joinTriangles'

/** How one surface stands to another. */
export interface Clearance {
  /** Least distance of the two surfaces, in metres; 0 where they touch or cross. */
  least: number
  /** Where that is: the place on the first surface. */
  at: [number, number, number]
  /** How deep a vertex of the first lies inside the second, in metres; 0 where none does. */
  deepest: number
  /** The deepest vertex; null where none lies inside. */
  deepestAt: [number, number, number] | null
  /** Share of the first's vertices that lie inside the second. */
  inside: number
  /**
   * Distance of each vertex of the first to the second in metres, below 0 inside it; of the lists one after the other.
   * NaN where no triangle uses it. Null where there are too many vertices.
   */
  map: Float32Array | null
}

/** A host is looked at from a point in these directions; most of them decide whether it lies inside. */
const DIRECTIONS = [
  [0.577, 0.682, 0.449],
  [-0.795, 0.31, 0.521],
  [0.267, -0.535, -0.802],
] as const
/** Of more vertices every n-th is looked at, and there is no map. */
const MOST_VERTICES = 150_000

/**
 * The least distance of a surface to a host, exactly (triangle against triangle), and how deep its vertices lie inside
 * the host: behind an odd number of its faces, seen in most of three directions. A host that is open has no inside to
 * speak of. Null where one of them has no triangle.
 */
export function clearanceTo(own: readonly TriangleList[], host: readonly TriangleList[]): Clearance | null {
  const ownGeometry = joinTriangles(own),
    hostGeometry = joinTriangles(host)
  if (!ownGeometry || !hostGeometry) return null
  const tree = new MeshBVH(hostGeometry),
    ownTree = new MeshBVH(ownGeometry)
  const onHost = { point: new Vector3(), distance: 0, faceIndex: 0 },
    onOwn = { point: new Vector3(), distance: 0, faceIndex: 0 }
  // The library asks two trees of each other wrongly where the first is a single leaf: it then measures against the box
  // of an earlier question. Such a host has few triangles, and needs no tree
  const asLeaf = isOneLeaf(tree)
  if (!asLeaf) ownGeometry.boundsTree = ownTree
  const found = asLeaf
    ? ownTree.closestPointToGeometry(hostGeometry, new Matrix4(), onOwn, onHost)
    : tree.closestPointToGeometry(ownGeometry, new Matrix4(), onHost, onOwn)
  return {
    least: found?.distance ?? 0,
    at: onOwn.point.toArray(),
    ...depthIn(tree, ownGeometry.getAttribute('position').array as Float32Array, ownGeometry.index!.array),
  }
}

function isOneLeaf(tree: MeshBVH): boolean {
  let nodes = 0
  tree.traverse(() => {
    nodes++
    return false
  })
  return nodes === 1
}

function depthIn(
  tree: MeshBVH,
  positions: Float32Array,
  corners: ArrayLike<number>,
): Pick<Clearance, 'deepest' | 'deepestAt' | 'inside' | 'map'> {
  // What no triangle uses is not there to be seen
  const vertices = [...new Set(Array.from(corners))],
    step = Math.max(1, Math.ceil(vertices.length / MOST_VERTICES))
  const point = new Vector3(),
    hit = { point: new Vector3(), distance: 0, faceIndex: 0 }
  let inside = 0,
    looked = 0,
    deepest = 0,
    deepestAt: Clearance['deepestAt'] = null
  const map = step === 1 ? new Float32Array(positions.length / 3).fill(NaN) : null
  for (let n = 0; n < vertices.length; n += step) {
    looked++
    point.fromArray(positions, vertices[n]! * 3)
    tree.closestPointToPoint(point, hit)
    const isIn = isInside(tree, point)
    if (map) map[vertices[n]!] = isIn ? -hit.distance : hit.distance
    if (!isIn) continue
    inside++
    if (hit.distance <= deepest) continue
    deepest = hit.distance
    deepestAt = point.toArray()
  }
  return { deepest, deepestAt, inside: looked === 0 ? 0 : inside / looked, map }
}

function isInside(tree: MeshBVH, point: Vector3): boolean {
  const ray = new Ray(point.clone())
  let votes = 0
  for (const direction of DIRECTIONS) {
    ray.direction.fromArray(direction).normalize()
    if (tree.raycast(ray, DoubleSide).length % 2 === 1) votes++
  }
  return votes >= 2
}
