/** Mixes three integers to one of 32 bits. */
export function hashBits(a: number, b: number, c: number): number {
  let h = Math.imul(a, 0x9e3779b1) ^ Math.imul(b, 0x85ebca6b) ^ Math.imul(c, 0xc2b2ae35)
  h = Math.imul(h ^ (h >>> 15), 0x2c1b3c6d)
  return (h ^ (h >>> 13)) >>> 0
}

/** A power of two that leaves a hash table of `entries` at most half full. */
export function tableSize(entries: number): number {
  let size = 16
  while (size < entries * 2) size *= 2
  return size
}
