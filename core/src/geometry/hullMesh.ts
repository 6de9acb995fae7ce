import { Box3, Vector3 } from 'three'
import { hullFaces } from './convexHull'

/** A closed convex surface: places (x y z …) and triangles that face outward. */
export interface HullMesh {
  positions: Float32Array
  indices: Uint32Array
  /** Cubic metres. */
  volume: number
}

/**
 * Convex hull of points (x y z …) as a mesh of at most `most` corners. Where the whole hull has more, those points are
 * its corners that reach furthest in as many directions, spread evenly over a ball (a Fibonacci lattice; González
 * 2010); `rough`: without looking whether the whole one would do. Null where they lie in a plane.
 */
export function hullMesh(points: ArrayLike<number>, most: number, rough = false): HullMesh | null {
  const chosen = (rough ? null : wholeHull(points, most)) ?? furthest(points, most)
  if (chosen.length < 4) return null
  const numbers = new Map<Vector3, number>(),
    positions: number[] = [],
    indices: number[] = []
  const numberOf = (corner: Vector3): number => {
    const known = numbers.get(corner)
    if (known !== undefined) return known
    numbers.set(corner, numbers.size)
    positions.push(corner.x, corner.y, corner.z)
    return numbers.size - 1
  }
  let sixVolumes = 0
  for (const { around } of hullFaces(chosen)) {
    const corners = around.map(numberOf)
    for (let i = 1; i + 1 < corners.length; i++) {
      indices.push(corners[0]!, corners[i]!, corners[i + 1]!)
      sixVolumes += around[0]!.dot(new Vector3().crossVectors(around[i]!, around[i + 1]!))
    }
  }
  const size = new Box3().setFromPoints(chosen).getSize(new Vector3()).length()
  return sixVolumes > FLAT * size ** 3
    ? {
        positions: Float32Array.from(positions),
        indices: Uint32Array.from(indices),
        volume: sixVolumes / 6,
      }
    : null
}

/** What has less volume, of a cube as large as it is long, lies in a plane to the precision of its numbers. */
const FLAT = 1e-9
const GOLDEN = Math.PI * (3 - Math.sqrt(5))

/** Of more points the whole hull is not made only to count its corners. */
const MOST_WHOLE = 6000

/** Corners of the whole hull; null where they are more than wanted, or the points too many to try. */
function wholeHull(points: ArrayLike<number>, most: number): Vector3[] | null {
  const distinct = new Map<string, Vector3>()
  for (let k = 0; k + 2 < points.length; k += 3) {
    const [x, y, z] = [points[k]!, points[k + 1]!, points[k + 2]!]
    distinct.set(`${x},${y},${z}`, new Vector3(x, y, z))
    if (distinct.size > MOST_WHOLE) return null
  }
  const all = [...distinct.values()]
  if (all.length <= most) return all
  const corners = new Set(hullFaces(all).flatMap((f) => f.around))
  return corners.size >= 4 && corners.size <= most ? [...corners] : null
}

/** The point that reaches furthest in each of so many directions; each once. */
function furthest(points: ArrayLike<number>, count: number): Vector3[] {
  const found = new Set<number>()
  for (let i = 0; i < count; i++) {
    const y = 1 - (2 * (i + 0.5)) / count,
      r = Math.sqrt(1 - y * y)
    const x = r * Math.cos(GOLDEN * i),
      z = r * Math.sin(GOLDEN * i)
    let best = -1,
      reach = -Infinity
    for (let k = 0; k + 2 < points.length; k += 3) {
      const own = points[k]! * x + points[k + 1]! * y + points[k + 2]! * z
      if (own > reach) {
        reach = own
        best = k
      }
    }
    if (best >= 0) found.add(best)
  }
  const distinct = new Map<string, Vector3>()
  for (const k of found) {
    const at = new Vector3(points[k], points[k + 1], points[k + 2])
    distinct.set(at.toArray().join(), at)
  }
  return [...distinct.values()]
}

/** A box along the axes around points; null where they have no extent in some direction. */
export function boxMesh(points: ArrayLike<number>): HullMesh | null {
  const least = [Infinity, Infinity, Infinity],
    most = [-Infinity, -Infinity, -Infinity]
  for (let k = 0; k < points.length; k++) {
    least[k % 3] = Math.min(least[k % 3]!, points[k]!)
    most[k % 3] = Math.max(most[k % 3]!, points[k]!)
  }
  if (least.some((v, i) => !(most[i]! > v))) return null
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((n) =>
    [0, 1, 2].map((i) => ((n >> i) & 1 ? most[i]! : least[i]!)),
  )
  return hullMesh(corners, BOX_DIRECTIONS)
}
/** Enough directions that each corner of a box is the furthest in one of them. */
const BOX_DIRECTIONS = 64
