/** Vertices by place: `ids` gives each vertex the number of its point, `first` each point's first vertex. */
export interface PointIds { ids: Uint32Array; first: Uint32Array; count: number }

/**
 * Numbers the distinct places of vertices (x y z …), in the order of their first vertex. Places are the same only when all three coordinates are equal;
 * −0 equals 0, and what is no number equals nothing.
 */
export function pointIds(positions: Float32Array): PointIds {
  const vertices = Math.floor(positions.length / 3)
  const size = tableSize(vertices)
  const table = new Int32Array(size).fill(-1)
  const bits = new Int32Array(positions.buffer, positions.byteOffset, positions.length)
  const ids = new Uint32Array(vertices), first = new Uint32Array(vertices)
  let count = 0
  for (let v = 0; v < vertices; v++) {
    const k = v * 3
    const x = positions[k]!, y = positions[k + 1]!, z = positions[k + 2]!
    let slot = hashBits(x === 0 ? 0 : bits[k]!, y === 0 ? 0 : bits[k + 1]!, z === 0 ? 0 : bits[k + 2]!) & (size - 1)
    for (;;) {
      const point = table[slot]!
      if (point === -1) {
        table[slot] = count
        first[count] = v
        ids[v] = count++
        break
      }
      const other = first[point]! * 3
      if (positions[other] === x && positions[other + 1] === y && positions[other + 2] === z) {
        ids[v] = point
        break
      }
      slot = (slot + 1) & (size - 1)
    }
  }
  return { ids, first: first.slice(0, count), count }
}

/** A power of two that leaves a hash table of `entries` at most half full. */
export function tableSize(entries: number): number {
  let size = 16
  while (size < entries * 2) size *= 2
  return size
}

/** Mixes three integers to one of 32 bits. */
export function hashBits(a: number, b: number, c: number): number {
  let h = Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b) ^ Math.imul(c, 0xc2b2ae35)
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d)
  return (h ^ (h >>> 13)) >>> 0
}
