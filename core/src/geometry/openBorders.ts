import { disjointSets } from './disjointSets'

/** A ring of at most so many edges … */
export const HOLE_EDGES = 8
/** … in a shell of at least so many triangles for each of them was hardly left open on purpose. */
export const HOLE_TRIANGLES = 10

/**
 * Counts the rings that open edges form: edges belong to one ring when they share a point. `edges` holds two
 * points and the triangle of each, `shell` gives each triangle its shell, `trianglesOf` how many a shell has.
 */
export function openBorders(
  edges: Uint32Array,
  shell: Uint32Array,
  trianglesOf: (shell: number) => number,
): { borders: number; holes: number } {
  const numbers = new Map<number, number>()
  const number = (point: number): number => numbers.get(point) ?? numbers.set(point, numbers.size).get(point)!
  const ends = new Uint32Array((edges.length / 3) * 2)
  for (let e = 0; e * 3 < edges.length; e++)
    for (let i = 0; i < 2; i++) ends[e * 2 + i] = number(edges[e * 3 + i]!)
  const sets = disjointSets(numbers.size)
  for (let e = 0; e < ends.length; e += 2) sets.join(ends[e]!, ends[e + 1]!)
  const lengths = new Uint32Array(numbers.size),
    owners = new Uint32Array(numbers.size)
  for (let e = 0; e * 2 < ends.length; e++) {
    const ring = sets.find(ends[e * 2]!)
    lengths[ring]!++
    owners[ring] = shell[edges[e * 3 + 2]!]!
  }
  let borders = 0,
    holes = 0
  for (let ring = 0; ring < lengths.length; ring++) {
    if (lengths[ring] === 0) continue
    borders++
    if (lengths[ring]! <= HOLE_EDGES && trianglesOf(owners[ring]!) >= lengths[ring]! * HOLE_TRIANGLES) holes++
  }
  return { borders, holes }
}
