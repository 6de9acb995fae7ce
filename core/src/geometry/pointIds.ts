import { crowdBits, isCrowded, markHash } from './crowdBits'
import { hashBits, tableSize } from './hashBits'

/** Vertices by place: `ids` gives each vertex the number of its point, `first` each point's first vertex. */
export interface PointIds { ids: Uint32Array; first: Uint32Array; count: number }

/**
 * Numbers the distinct places of vertices (x y z …), in the order of their first vertex. Places are the same only when all three coordinates are equal;
 * −0 equals 0, and what is no number equals nothing.
 */
export function pointIds(positions: Float32Array): PointIds {
  const vertices = Math.floor(positions.length / 3)
  const bits = new Int32Array(positions.buffer, positions.byteOffset, positions.length)
  const crowd = crowdBits(vertices)
  let again = 0
  for (let v = 0; v < vertices; v++) again += markHash(crowd, hashPlace(bits, v))
  // Of those that share a bit there are at most twice as many as came again
  const mask = tableSize(Math.min(again * 2, vertices)) - 1
  // Two numbers a slot: what a place mixes to, and its point plus one
  const table = new Int32Array((mask + 1) * 2)
  const ids = new Uint32Array(vertices), first = new Uint32Array(vertices)
  let count = 0
  for (let v = 0; v < vertices; v++) {
    const mixed = hashPlace(bits, v)
    if (!isCrowded(crowd, mixed)) {
      first[count] = v
      ids[v] = count++
      continue
    }
    const x = positions[v * 3]!, y = positions[v * 3 + 1]!, z = positions[v * 3 + 2]!
    let slot = mixed & mask, found = -1
    // What is no number takes no slot, for it is never found again
    const number = x === x && y === y && z === z
    for (; number && table[slot * 2 + 1] !== 0; slot = (slot + 1) & mask) {
      if (table[slot * 2] !== mixed) continue
      const point = table[slot * 2 + 1]! - 1, other = first[point]! * 3
      if (positions[other] !== x || positions[other + 1] !== y || positions[other + 2] !== z) continue
      found = point
      break
    }
    if (found === -1) {
      found = count++
      first[found] = v
      if (number) {
        table[slot * 2] = mixed
        table[slot * 2 + 1] = found + 1
      }
    }
    ids[v] = found
  }
  return { ids, first: first.slice(0, count), count }
}

/** Mixes the three numbers of a vertex's place, bit by bit; −0 as 0. */
function hashPlace(bits: Int32Array, vertex: number): number {
  const x = bits[vertex * 3]!, y = bits[vertex * 3 + 1]!, z = bits[vertex * 3 + 2]!
  return hashBits(x << 1 === 0 ? 0 : x, y << 1 === 0 ? 0 : y, z << 1 === 0 ? 0 : z) | 0
}
