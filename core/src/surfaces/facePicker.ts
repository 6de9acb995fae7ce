import { DoubleSide, Ray, Vector3 } from 'three'
import { MeshBVH } from 'three-mesh-bvh'
import { joinTriangles } from '../geometry/joinTriangles'
import type { SightLine } from './brush'
import { faceNormal } from '../geometry/faceNormal'
import { pointIds } from '../geometry/pointIds'

/** How far a pick reaches: one face, all that bends by no more than an angle from face to face, a shell, a UV island. */
export type PickReach = { kind: 'face' | 'shell' | 'island' } | { kind: 'bend'; degrees: number }

/** A line drawn around what is to be picked, as it is seen. */
export interface Lasso {
  eye: readonly [number, number, number]
  /** From the world to the picture, sixteen numbers column by column: −1 to 1 from left to right and from the foot up. */
  matrix: readonly number[]
  /** Corners in the picture. */
  outline: readonly (readonly [number, number])[]
  /** Also what something else hides. */
  through: boolean
}

export interface FacePicker {
  /** Numbers of the triangles that a pick along a line gives; null where it meets nothing. */
  pick: (line: SightLine, reach: PickReach) => number[] | null
  /** Numbers of the triangles whose middle lies within a lasso, and is seen or may be hidden. */
  within: (lasso: Lasso) => number[]
}

/**
 * Picks triangles of a surface: x y z of each vertex in the world, u v of each (null: none), three vertices a triangle.
 * Null where it has none.
 */
export function createFacePicker(
  positions: Float32Array,
  uvs: Float32Array | null,
  indices: Uint32Array,
): FacePicker | null {
  const geometry = joinTriangles([{ positions, indices, turned: false }])
  if (!geometry) return null
  const tree = new MeshBVH(geometry, { indirect: true })
  // Triangles that draw nothing were left out on the way
  const numbers = numbersKept(positions, indices)
  const ray = new Ray()
  let places: Around | null = null,
    islands: Around | null = null
  return {
    pick({ origin, direction }, reach) {
      ray.origin.set(...origin)
      ray.direction.set(...direction)
      const hit = tree.raycastFirst(ray, DoubleSide)
      if (hit?.faceIndex == null) return null
      const first = numbers[hit.faceIndex]!
      if (reach.kind === 'face') return [first]
      const around =
        reach.kind === 'island'
          ? (islands ??= aroundOf(indices, keysOf(positions, uvs)))
          : (places ??= aroundOf(indices, keysOf(positions, null)))
      const least = reach.kind === 'bend' ? Math.cos((reach.degrees * Math.PI) / 180) : -Infinity
      return flood(first, around, (from, to) => cosine(positions, indices, from, to) >= least - 1e-6)
    },
    within({ eye, matrix, outline, through }) {
      ray.origin.set(...eye)
      const middle = new Vector3()
      return [...numbers.entries()].flatMap(([kept, t]) => {
        middleOf(positions, indices, t, middle)
        const seen = inPicture(matrix, middle)
        if (!seen || !isInside(outline, seen)) return []
        if (through) return [t]
        ray.direction.copy(middle).sub(ray.origin).normalize()
        // What lies as near is as much seen: two faces may share a place
        const hit = tree.raycastFirst(ray, DoubleSide)
        const isSeen =
          hit !== null &&
          (hit.faceIndex === kept || hit.distance >= middle.distanceTo(ray.origin) * (1 - NEAR))
        return isSeen ? [t] : []
      })
    },
  }
}

/** Share of the distance from the eye by which two places are as near. */
const NEAR = 1e-5

function middleOf(p: Float32Array, indices: Uint32Array, t: number, out: Vector3): void {
  out.set(0, 0, 0)
  for (let i = 0; i < 3; i++) {
    const v = indices[t * 3 + i]! * 3
    out.x += p[v]! / 3
    out.y += p[v + 1]! / 3
    out.z += p[v + 2]! / 3
  }
}

/** Where a place is in the picture; null behind the eye. */
function inPicture(m: readonly number[], { x, y, z }: Vector3): [number, number] | null {
  const w = m[3]! * x + m[7]! * y + m[11]! * z + m[15]!
  if (w <= 0) return null
  return [(m[0]! * x + m[4]! * y + m[8]! * z + m[12]!) / w, (m[1]! * x + m[5]! * y + m[9]! * z + m[13]!) / w]
}

/** Whether a point lies inside an outline: an odd number of its edges lies to the right. */
function isInside(
  outline: readonly (readonly [number, number])[],
  [x, y]: readonly [number, number],
): boolean {
  let inside = false
  for (let i = 0, j = outline.length - 1; i < outline.length; j = i++) {
    const [ax, ay] = outline[i]!,
      [bx, by] = outline[j]!
    if (ay > y !== by > y && x < ((bx - ax) * (y - ay)) / (by - ay) + ax) inside = !inside
  }
  return inside
}

/** Triangles whose corners are all there and are places, by the number that they have once the others are left out. */
function numbersKept(positions: Float32Array, indices: Uint32Array): number[] {
  // A corner that is not there has no number either
  const isPlace = (v: number): boolean =>
    Number.isFinite(positions[v * 3]! + positions[v * 3 + 1]! + positions[v * 3 + 2]!)
  const kept: number[] = []
  for (let t = 0; t * 3 + 2 < indices.length; t++)
    if ([0, 1, 2].every((i) => isPlace(indices[t * 3 + i]!))) kept.push(t)
  return kept
}

/** For each vertex a number that those in the same place, and with the same UVs where they count, share. */
function keysOf(positions: Float32Array, uvs: Float32Array | null): ArrayLike<number> {
  const { ids } = pointIds(positions)
  if (!uvs) return ids
  // Kernels number places of three numbers
  const flat = new Float32Array(ids.length * 3)
  for (let v = 0; v < ids.length; v++) flat.set([uvs[v * 2]!, uvs[v * 2 + 1]!, 0], v * 3)
  const onSheet = pointIds(flat)
  return Float64Array.from(ids, (id, v) => id * onSheet.count + onSheet.ids[v]!)
}

/** Which triangles meet at which edges. */
interface Around {
  edges: ReadonlyMap<string, number[]>
  edgesOf: (triangle: number) => string[]
}

function aroundOf(indices: Uint32Array, keys: ArrayLike<number>): Around {
  const edges = new Map<string, number[]>()
  const edgesOf = (t: number): string[] =>
    [0, 1, 2].map((i) => {
      const a = keys[indices[t * 3 + i]!]!,
        b = keys[indices[t * 3 + ((i + 1) % 3)]!]!
      return a < b ? `${a} ${b}` : `${b} ${a}`
    })
  for (let t = 0; t * 3 + 2 < indices.length; t++)
    for (const edge of edgesOf(t)) {
      const there = edges.get(edge)
      if (there) there.push(t)
      else edges.set(edge, [t])
    }
  return { edges, edgesOf }
}

function flood(
  first: number,
  { edges, edgesOf }: Around,
  goesOn: (from: number, to: number) => boolean,
): number[] {
  const found = new Set([first]),
    next = [first]
  for (let from = next.pop(); from !== undefined; from = next.pop())
    for (const edge of edgesOf(from))
      for (const to of edges.get(edge) ?? [])
        if (!found.has(to) && goesOn(from, to)) {
          found.add(to)
          next.push(to)
        }
  return [...found].sort((a, b) => a - b)
}

function cosine(p: Float32Array, indices: Uint32Array, s: number, t: number): number {
  const normalOf = (n: number) => faceNormal(p, indices[n * 3]!, indices[n * 3 + 1]!, indices[n * 3 + 2]!)
  const a = normalOf(s),
    b = normalOf(t)
  return a[0] * b[0] + a[1] * b[1] + a[2] * b[2]
}
