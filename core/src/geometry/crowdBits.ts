import { tableSize } from './hashBits'

/**
 * A first look at a crowd: bits tell which hashes came at all and which came more than once. Small enough for a processor's near memory, so that what stands alone, mostly nearly everything, needs no place in a
 * table. Different things may fall on one bit: what is said to be alone is alone, what is said not to be may be.
 */
export interface CrowdBits { taken: Uint32Array; crowded: Uint32Array; mask: number }

/** Bits for each entry. */
const BITS = 8

export function crowdBits(entries: number): CrowdBits {
  const bits = tableSize((entries * BITS) / 2)
  return { taken: new Uint32Array(Math.ceil(bits / 32)), crowded: new Uint32Array(Math.ceil(bits / 32)), mask: bits - 1 }
}

/** Marks a hash; 1 when it, or another on its bit, was there before. */
export function markHash({ taken, crowded, mask }: CrowdBits, hash: number): 0 | 1 {
  const bit = hash & mask, word = bit >>> 5, flag = 1 << (bit & 31)
  const there = (taken[word]! & flag) !== 0
  if (there) crowded[word]! |= flag
  else taken[word]! |= flag
  return there ? 1 : 0
}

/** Whether the bit of a hash was marked … */
export const isTaken = ({ taken, mask }: CrowdBits, hash: number): boolean => isSet(taken, hash & mask)
/** … and whether more than once. */
export const isCrowded = ({ crowded, mask }: CrowdBits, hash: number): boolean => isSet(crowded, hash & mask)

const isSet = (bits: Uint32Array, bit: number): boolean => ((bits[bit >>> 5]! >>> (bit & 31)) & 1) !== 0
