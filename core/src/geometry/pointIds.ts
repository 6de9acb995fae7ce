import { crowdOf } from './crowd'
import { tableSize } from './hashBits'
import { inBlocks, inKernels, triangleBlocks } from '../kernels/inKernels'

/** Vertices by place: `ids` gives each vertex the number of its point, `first` each point's first vertex. */
export interface PointIds {
  ids: Uint32Array
  first: Uint32Array
  count: number
}

/**
 * Numbers the distinct places of vertices (x y z …), in the order of their first vertex. Places are the same
 * only when all three coordinates are equal;
 * −0 equals 0, and what is no number equals nothing.
 */
export function pointIds(positions: Float32Array): PointIds {
  const vertices = Math.floor(positions.length / 3)
  return inKernels((room) => {
    const { run, words } = room
    const at = room.hold(positions),
      { taken, crowded, mask } = crowdOf(room, vertices)
    let again = 0
    inBlocks(vertices, (from, to) => {
      again += run.markPlaces(at, from, to, taken, crowded, mask)
    })
    // Of those that share a bit there are at most twice as many as came again
    const slots = tableSize(Math.min(again * 2, vertices)),
      table = room.filled(slots * 8)
    const ids = room.space(vertices * 4),
      first = room.space(vertices * 4)
    let count = 0
    inBlocks(vertices, (from, to) => {
      count = run.numberPlaces(at, from, to, crowded, mask, table, slots - 1, ids, first, count)
    })
    return { ids: words(ids, vertices).slice(), first: words(first, count).slice(), count }
  })
}

/** The place of each numbered point. */
export function placesOf(positions: Float32Array, { first, count }: PointIds): Float32Array {
  const places = new Float32Array(count * 3)
  for (let p = 0; p < count; p++) {
    const v = first[p]! * 3
    places[p * 3] = positions[v]!
    places[p * 3 + 1] = positions[v + 1]!
    places[p * 3 + 2] = positions[v + 2]!
  }
  return places
}

/**
 * Point numbers of whole triangles, three each, by the numbers of their vertices; a vertex that is not there
 * gets a number that no point has. Writes to `corners` and gives how many.
 */
export function pointsOfTriangles(indices: Uint32Array, ids: Uint32Array, corners: Uint32Array): number {
  return inKernels((room) => {
    const held = room.hold(ids)
    triangleBlocks(room, indices, (at, from, count) => {
      room.run.lookUp(at, count * 3, held, ids.length, at)
      corners.set(room.words(at, count * 3), from * 3)
    })
    return indices.length - (indices.length % 3)
  })
}
