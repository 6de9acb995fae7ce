// A first look at a crowd: bits tell which hashes came at all and which came more than once. Small enough for
// a processor's near memory, so that what stands alone, mostly nearly everything, needs no place in a table.
// Different things may fall on one bit: what is said to be alone is alone, what is said not to be may be.

/** Marks a hash; 1 when it, or another on its bit, was there before. */
export function markHash(taken: usize, crowded: usize, mask: u32, hash: u32): u32 {
  const bit = hash & mask,
    word = (<usize>(bit >> 5)) << 2,
    flag: u32 = 1 << (bit & 31)
  const there = load<u32>(taken + word)
  if (there & flag) {
    store<u32>(crowded + word, load<u32>(crowded + word) | flag)
    return 1
  }
  store<u32>(taken + word, there | flag)
  return 0
}

/** Whether the bit of a hash is set, in either list. */
export function isSet(bits: usize, mask: u32, hash: u32): boolean {
  const bit = hash & mask
  return ((load<u32>(bits + ((<usize>(bit >> 5)) << 2)) >> (bit & 31)) & 1) !== 0
}
