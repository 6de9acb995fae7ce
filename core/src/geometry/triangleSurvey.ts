import { append, BLOCK, inKernels, triangleBlocks } from '../kernels/inKernels'

/** A triangle counts as degenerate below this share of the squared bounds diagonal. */
export const DEGENERATE_AREA_SHARE = 1e-12

export interface TriangleSurvey {
  /** Sum of the areas, in the squared unit of the positions. */
  area: number
  /** Area of each triangle; 0 where indices are bad. */
  areas: Float32Array
  /** Triangle numbers whose area is below the limit, or that name a vertex twice. */
  degenerate: Uint32Array
  /** Triangle numbers that name a vertex which is not there. */
  badIndices: Uint32Array
}

/**
 * Walks a triangle list once. `positions` holds x y z for each vertex, `indices` three vertex numbers for
 * each triangle; indices are checked. `areaLimit` is absolute. Triangles with positions that are not finite
 * count neither as area nor as degenerate.
 */
export function triangleSurvey(
  positions: Float32Array,
  indices: Uint32Array,
  areaLimit: number,
): TriangleSurvey {
  const degenerate: number[] = [],
    badIndices: number[] = [],
    areas = new Float32Array(Math.floor(indices.length / 3))
  const area = inKernels((room) => {
    const { words } = room
    const points = room.hold(positions),
      block = Math.min(areas.length, BLOCK) * 4
    const own = room.space(block),
      small = room.space(block),
      bad = room.space(block),
      state = room.filled(16)
    triangleBlocks(room, indices, (at, from, count) => {
      room.run.surveyTriangles(
        points,
        Math.floor(positions.length / 3),
        at,
        count,
        from,
        areaLimit,
        own,
        small,
        bad,
        state,
      )
      areas.set(room.floats(own, count), from)
      const found = words(state + 8, 2)
      append(degenerate, words(small, found[0]!))
      append(badIndices, words(bad, found[1]!))
    })
    return room.doubles(state, 1)[0]!
  })
  return { area, areas, degenerate: Uint32Array.from(degenerate), badIndices: Uint32Array.from(badIndices) }
}

/** Number of points (x y z …) with a coordinate that is not finite. */
export function notFinitePoints(positions: Float32Array): number {
  let count = 0
  for (let k = 0; k + 2 < positions.length; k += 3)
    if (!Number.isFinite(positions[k]! + positions[k + 1]! + positions[k + 2]!)) count++
  return count
}
