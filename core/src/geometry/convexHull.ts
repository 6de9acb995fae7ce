import { Vector3 } from 'three'
import { ConvexHull } from 'three/examples/jsm/math/ConvexHull.js'

/** A convex hull as planes: for each face nx ny nz and distance, so that n · p ≤ distance inside. */
export interface Hull {
  volume: number
  corners: number
  faces: number
  planes: Float64Array
}

/** Two planes are the same when the cosine between them is nearer to 1 than this: a twelfth of a degree. */
const SAME_PLANE = 1e-6

/**
 * Hull of points (x y z …); null for fewer than four, or when they lie in a plane or hold what is no number.
 */
export function convexHull(points: Float32Array): Hull | null {
  const distinct = new Map<string, Vector3>()
  for (let k = 0; k + 2 < points.length; k += 3) {
    const x = points[k]!,
      y = points[k + 1]!,
      z = points[k + 2]!
    if (!Number.isFinite(x + y + z)) return null
    distinct.set(`${x},${y},${z}`, new Vector3(x, y, z))
  }
  if (distinct.size < 4) return null
  const planes: number[] = []
  const normals = new Map<Vector3, Vector3[]>()
  let sixVolumes = 0,
    faces = 0
  for (const { around, normal, distance } of hullFaces([...distinct.values()])) {
    for (const corner of around) normals.set(corner, [...(normals.get(corner) ?? []), normal])
    for (let i = 1; i + 1 < around.length; i++)
      sixVolumes += around[0]!.dot(new Vector3().crossVectors(around[i]!, around[i + 1]!))
    planes.push(normal.x, normal.y, normal.z, distance)
    faces++
  }
  const volume = Math.abs(sixVolumes) / 6
  return faces < 4 || !(volume > 0)
    ? null
    : {
        volume,
        corners: [...normals.values()].filter(isCorner).length,
        faces,
        planes: Float64Array.from(planes),
      }
}

export interface HullFace {
  /** Corners, seen from outside against the clock. */
  around: Vector3[]
  normal: Vector3
  /** Of its plane from the origin. */
  distance: number
}

/** Points nearer to each other than this share of their extent count as one: single precision tells no more. */
const ONE_POINT = 2 ** -22

/**
 * Points by where they lie on a grid that is a little coarser than single precision, the first of each place: of
 * two that nearly touch the library makes faces that look nowhere.
 */
function onGrid(points: readonly Vector3[]): Map<Vector3, Vector3> {
  const min = new Vector3(Infinity, Infinity, Infinity),
    max = min.clone().negate()
  for (const point of points) {
    min.min(point)
    max.max(point)
  }
  const step = Math.max(max.x - min.x, max.y - min.y, max.z - min.z) * ONE_POINT
  if (!(step > 0) || !Number.isFinite(step)) return new Map()
  const places = new Map<string, { at: Vector3; point: Vector3 }>()
  for (const point of points) {
    const cell = point.clone().sub(min).divideScalar(step).round(),
      key = `${cell.x},${cell.y},${cell.z}`
    if (!places.has(key)) places.set(key, { at: cell.multiplyScalar(step).add(min), point })
  }
  return new Map([...places.values()].map(({ at, point }) => [at, point]))
}

/**
 * Faces of the hull of points, whose corners are the points themselves; none where the library gives up, as it does on
 * points that differ by less than its numbers can tell. Planes are right to a millionth of the points' extent.
 */
export function hullFaces(points: readonly Vector3[]): HullFace[] {
  try {
    const places = onGrid(points)
    return new ConvexHull().setFromPoints([...places.keys()]).faces.map((face) => {
      const around: Vector3[] = []
      let edge = face.edge
      do {
        around.push(places.get(edge.head().point)!)
        edge = edge.next
      } while (edge !== face.edge)
      return { around, normal: face.normal, distance: face.constant }
    })
  } catch {
    return []
  }
}

/** Where at least three planes meet; points within a face or an edge of the hull are no corners. */
function isCorner(normals: readonly Vector3[]): boolean {
  const distinct: Vector3[] = []
  for (const n of normals) if (!distinct.some((d) => d.dot(n) > 1 - SAME_PLANE)) distinct.push(n)
  return distinct.length >= 3
}

/**
 * How far a point stands out of a hull; 0 or less inside. For points beyond an edge or corner it is the
 * distance to the farthest plane, a little less than the true one.
 */
export function outOfHull({ planes }: Hull, x: number, y: number, z: number): number {
  let out = -Infinity
  for (let k = 0; k < planes.length; k += 4)
    out = Math.max(out, planes[k]! * x + planes[k + 1]! * y + planes[k + 2]! * z - planes[k + 3]!)
  return out
}
