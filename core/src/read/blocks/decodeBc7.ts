import { secondOfThree, secondOfTwo, thirdOfThree, threeSubsets, twoSubsets } from './bc7Tables'
import { bitReader } from './bitReader'
import type { BlockFormat } from './decodeBc'

interface Mode {
  subsets: 1 | 2 | 3
  partitionBits: number
  rotationBits: number
  choiceBits: number
  colourBits: number
  alphaBits: number
  ownP: 0 | 1
  sharedP: 0 | 1
  indexBits: number
  secondBits: number
}

const mode = (
  subsets: 1 | 2 | 3,
  partitionBits: number,
  rotationBits: number,
  choiceBits: number,
  colourBits: number,
  alphaBits: number,
  ownP: 0 | 1,
  sharedP: 0 | 1,
  indexBits: number,
  secondBits: number,
): Mode => ({
  subsets,
  partitionBits,
  rotationBits,
  choiceBits,
  colourBits,
  alphaBits,
  ownP,
  sharedP,
  indexBits,
  secondBits,
})

/** Table 117 of the Khronos Data Format Specification 1.3. */
const modes: readonly Mode[] = [
  mode(3, 4, 0, 0, 4, 0, 1, 0, 3, 0),
  mode(2, 6, 0, 0, 6, 0, 0, 1, 3, 0),
  mode(3, 6, 0, 0, 5, 0, 0, 0, 2, 0),
  mode(2, 6, 0, 0, 7, 0, 1, 0, 2, 0),
  mode(1, 0, 2, 1, 5, 6, 0, 0, 2, 3),
  mode(1, 0, 2, 0, 7, 8, 0, 0, 2, 2),
  mode(1, 0, 0, 0, 7, 7, 1, 0, 4, 0),
  mode(2, 6, 0, 0, 5, 5, 1, 0, 2, 0),
]
/** Shares of the second end in 64 parts, by the bits of an index (section 20.1). */
const weights: readonly Uint8Array[] = [
  [],
  [],
  [0, 21, 43, 64],
  [0, 9, 18, 27, 37, 46, 55, 64],
  [0, 4, 9, 13, 17, 21, 26, 30, 34, 38, 43, 47, 51, 55, 60, 64],
].map((w) => Uint8Array.from(w))

/** Block format of the Khronos Data Format Specification 1.3, chapter 20 (BPTC, RGBA). */
export const bc7Format: BlockFormat = {
  width: 4,
  height: 4,
  bytes: 16,
  channels: 4,
  values: 'bytes',
  decode: decodeBlock,
}

// Millions of blocks are decoded one after the other: what one needs is there once
const bits = bitReader()
/** RGBA of 8 bits of both ends of each subset. */
const ends = new Int32Array(3 * 8)
const first = new Uint8Array(16),
  second = new Uint8Array(16)

function decodeBlock(bytes: Uint8Array, at: number, out: Uint8Array): void {
  const number = 31 - Math.clz32(bytes[at]! & -bytes[at]!)
  const m = modes[number]
  // No mode: the block is nothing
  if (!m) return void out.fill(0, 0, 64)
  bits.begin(bytes, at)
  bits.take(number + 1)
  const partition = bits.take(m.partitionBits),
    rotation = bits.take(m.rotationBits),
    choice = bits.take(m.choiceBits)
  readEnds(m)
  readIndices(m, partition)
  const own = weights[m.indexBits]!,
    other = m.secondBits > 0 ? weights[m.secondBits]! : own,
    otherIndex = m.secondBits > 0 ? second : first
  for (let t = 0; t < 16; t++) {
    const low = subsetOf(m, partition, t) * 8,
      high = low + 4
    const w = own[first[t]!]!,
      w2 = other[otherIndex[t]!]!,
      colour = choice === 1 ? w2 : w,
      alpha = choice === 1 ? w : w2
    for (let c = 0; c < 3; c++)
      out[t * 4 + c] = ((64 - colour) * ends[low + c]! + colour * ends[high + c]! + 32) >> 6
    out[t * 4 + 3] = ((64 - alpha) * ends[low + 3]! + alpha * ends[high + 3]! + 32) >> 6
    if (rotation > 0) {
      const swapped = out[t * 4 + 3]!
      out[t * 4 + 3] = out[t * 4 + rotation - 1]!
      out[t * 4 + rotation - 1] = swapped
    }
  }
}

const subsetOf = (m: Mode, partition: number, texel: number): number =>
  m.subsets === 1
    ? 0
    : m.subsets === 2
      ? (twoSubsets[partition]! >> texel) & 1
      : (threeSubsets[partition]! >>> (texel * 2)) & 3

/** The index of one texel of each subset has a bit less. */
function readIndices(m: Mode, partition: number): void {
  const anchor = m.subsets === 2 ? secondOfTwo[partition]! : m.subsets === 3 ? secondOfThree[partition]! : 0,
    another = m.subsets === 3 ? thirdOfThree[partition]! : 0
  for (let t = 0; t < 16; t++)
    first[t] = bits.take(t === 0 || t === anchor || t === another ? m.indexBits - 1 : m.indexBits)
  if (m.secondBits > 0)
    for (let t = 0; t < 16; t++) second[t] = bits.take(t === 0 ? m.secondBits - 1 : m.secondBits)
}

/** Reads both ends of each subset, and the lowest bits that they have of their own or share. */
function readEnds(m: Mode): void {
  const count = m.subsets * 2,
    more = m.ownP | m.sharedP
  for (let c = 0; c < 3; c++) for (let e = 0; e < count; e++) ends[e * 4 + c] = bits.take(m.colourBits)
  for (let e = 0; e < count; e++) ends[e * 4 + 3] = bits.take(m.alphaBits)
  let p = 0
  for (let e = 0; e < count; e++) {
    if (m.ownP || (m.sharedP && e % 2 === 0)) p = bits.take(1)
    for (let c = 0; c < 3; c++) ends[e * 4 + c] = widened(ends[e * 4 + c]!, m.colourBits, more, p)
    ends[e * 4 + 3] = m.alphaBits > 0 ? widened(ends[e * 4 + 3]!, m.alphaBits, more, p) : 255
  }
}

/** Spreads a value over 8 bits, after the lowest bit that came apart. */
function widened(value: number, own: number, more: number, lowest: number): number {
  const wide = ((more ? (value << 1) | lowest : value) << (8 - own - more)) & 255
  return wide | (wide >> (own + more))
}
