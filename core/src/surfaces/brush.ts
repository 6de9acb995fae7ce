import { DoubleSide, Ray, Vector3 } from 'three'
import { CONTAINED, INTERSECTED, MeshBVH, NOT_INTERSECTED } from 'three-mesh-bvh'
import { disjointSets } from '../geometry/disjointSets'
import { joinTriangles } from '../geometry/joinTriangles'
import { pointIds } from '../geometry/pointIds'

/** A line of sight into the world; the direction has length 1. */
export interface SightLine {
  origin: readonly [number, number, number]
  direction: readonly [number, number, number]
}

/** One touch of the brush. Touches of one stroke do not add up: each vertex takes the strongest. */
export interface Dab {
  line: SightLine
  stroke: number
  /** Metres. */
  radius: number
  /** Share of the radius that has the whole strength; from there it fades to nothing. */
  hardness: number
  /** 0 to 1. */
  strength: number
  /** Towards 0 in place of 1. */
  erases: boolean
}

/** Vertices with a new value, 0 to 1. */
export interface Repainted {
  vertices: Uint32Array
  values: Float32Array
}

/** Paints values onto the vertices of a surface. */
export interface Brush {
  /** Paints where the line meets the surface, on what is turned to the eye as the place it meets; null: nowhere. */
  dab: (dab: Dab) => Repainted | null
  /** Gives every vertex a value. */
  fill: (value: number) => Repainted
  /** Gives a value to all that hangs together with the place that the line meets; null: it meets none. */
  fillShell: (line: SightLine, value: number) => Repainted | null
  /** Takes back the last stroke or fill; null: there is none. */
  undo: () => Repainted | null
  values: () => Float32Array
}

/** How much of a touch is left at a distance, by a smooth step from the hard part to the rim. */
export function falloff(distance: number, radius: number, hardness: number): number {
  const from = radius * hardness
  if (distance <= from) return 1
  if (distance >= radius) return 0
  const x = (radius - distance) / (radius - from)
  return x * x * (3 - 2 * x)
}

const MOST_UNDO = 50

/**
 * A brush for a surface: x y z of each vertex in the world, three vertices a triangle, and the values that it has.
 * Null where it has no triangle.
 */
export function createBrush(
  positions: Float32Array,
  indices: Uint32Array,
  first: Float32Array,
): Brush | null {
  const geometry = joinTriangles([{ positions, indices, turned: false }])
  if (!geometry) return null
  const tree = new MeshBVH(geometry),
    corners = geometry.index!.array
  const values = first.slice(),
    /** What each step changed, with the values from before. */
    steps: { stroke: number | null; before: Map<number, number>; reached: Map<number, number> }[] = []
  const ray = new Ray(),
    at = new Vector3(),
    face = new Vector3()
  let shells: Uint32Array | null = null

  const meet = ({ origin, direction }: SightLine) => {
    ray.origin.set(...origin)
    ray.direction.set(...direction)
    return tree.raycastFirst(ray, DoubleSide)
  }
  const set = (before: Map<number, number>, vertex: number, value: number): void => {
    if (!before.has(vertex)) before.set(vertex, values[vertex]!)
    values[vertex] = value
  }
  const repainted = (vertices: Iterable<number>): Repainted => {
    const list = Uint32Array.from(vertices)
    return { vertices: list, values: Float32Array.from(list, (v) => values[v]!) }
  }
  /** The step of a stroke; of a fill (null) always a new one. */
  const begin = (stroke: number | null) => {
    const last = steps.at(-1)
    if (last && stroke !== null && last.stroke === stroke) return last
    const step = { stroke, before: new Map<number, number>(), reached: new Map<number, number>() }
    steps.push(step)
    if (steps.length > MOST_UNDO) steps.shift()
    return step
  }
  const fillAll = (vertices: Iterable<number>, value: number): Repainted => {
    const { before } = begin(null)
    for (const v of vertices) set(before, v, value)
    return repainted(before.keys())
  }
  return {
    values: () => values.slice(),
    fill: (value) => fillAll(values.keys(), value),
    dab({ line, stroke, radius, hardness, strength, erases }) {
      const hit = meet(line)
      if (!hit?.face) return null
      at.copy(hit.point)
      const side = Math.sign(hit.face.normal.dot(ray.direction)) || -1
      const { before, reached } = begin(stroke),
        touched = new Set<number>()
      tree.shapecast({
        intersectsBounds: (box) =>
          box.distanceToPoint(at) > radius
            ? NOT_INTERSECTED
            : furthestOf(box.min, box.max, at) < radius
              ? CONTAINED
              : INTERSECTED,
        intersectsTriangle(triangle, number) {
          triangle.getNormal(face)
          if (face.dot(ray.direction) * side <= 0) return false
          for (let i = 0; i < 3; i++) {
            const vertex = corners[number * 3 + i]!,
              corner = i === 0 ? triangle.a : i === 1 ? triangle.b : triangle.c
            const weight = falloff(corner.distanceTo(at), radius, hardness) * strength
            if (weight <= (reached.get(vertex) ?? 0)) continue
            reached.set(vertex, weight)
            const from = before.get(vertex) ?? values[vertex]!
            set(before, vertex, from + ((erases ? 0 : 1) - from) * weight)
            touched.add(vertex)
          }
          return false
        },
      })
      return repainted(touched)
    },
    fillShell(line, value) {
      const hit = meet(line)
      if (!hit?.face) return null
      shells ??= shellsOf(positions, corners)
      const wanted = shells[hit.face.a]!
      return fillAll(
        [...values.keys()].filter((v) => shells![v] === wanted),
        value,
      )
    },
    undo() {
      const step = steps.pop()
      if (!step) return null
      for (const [v, value] of step.before) values[v] = value
      return repainted(step.before.keys())
    },
  }
}

function furthestOf(min: Vector3, max: Vector3, at: Vector3): number {
  return Math.hypot(
    Math.max(at.x - min.x, max.x - at.x),
    Math.max(at.y - min.y, max.y - at.y),
    Math.max(at.z - min.z, max.z - at.z),
  )
}

/** For each vertex a number of what hangs together by triangles and by vertices in the same place. */
function shellsOf(positions: Float32Array, corners: ArrayLike<number>): Uint32Array {
  const { ids, count } = pointIds(positions),
    sets = disjointSets(count)
  for (let k = 0; k + 2 < corners.length; k += 3) {
    sets.join(ids[corners[k]!]!, ids[corners[k + 1]!]!)
    sets.join(ids[corners[k]!]!, ids[corners[k + 2]!]!)
  }
  return ids.map((id) => sets.find(id))
}
