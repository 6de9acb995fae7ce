import { secondOfThree, secondOfTwo, thirdOfThree, threeSubsets, twoSubsets } from './bc7Tables'
import { bitReader } from './bitReader'
import type { BlockFormat } from './decodeBc'

interface Mode { subsets: 1 | 2 | 3; partitionBits: number; rotationBits: number; choiceBits: number; colourBits: number; alphaBits: number; ownP: 0 | 1; sharedP: 0 | 1; indexBits: number; secondBits: number }

const mode = (subsets: 1 | 2 | 3, partitionBits: number, rotationBits: number, choiceBits: number, colourBits: number, alphaBits: number, ownP: 0 | 1, sharedP: 0 | 1, indexBits: number, secondBits: number): Mode =>
  ({ subsets, partitionBits, rotationBits, choiceBits, colourBits, alphaBits, ownP, sharedP, indexBits, secondBits })

/** Table 117 of the Khronos Data Format Specification 1.3. */
const modes: readonly Mode[] = [
  mode(3, 4, 0, 0, 4, 0, 1, 0, 3, 0), mode(2, 6, 0, 0, 6, 0, 0, 1, 3, 0), mode(3, 6, 0, 0, 5, 0, 0, 0, 2, 0), mode(2, 6, 0, 0, 7, 0, 1, 0, 2, 0),
  mode(1, 0, 2, 1, 5, 6, 0, 0, 2, 3), mode(1, 0, 2, 0, 7, 8, 0, 0, 2, 2), mode(1, 0, 0, 0, 7, 7, 1, 0, 4, 0), mode(2, 6, 0, 0, 5, 5, 1, 0, 2, 0),
]
const weights: Record<number, readonly number[]> = { 2: [0, 21, 43, 64], 3: [0, 9, 18, 27, 37, 46, 55, 64], 4: [0, 4, 9, 13, 17, 21, 26, 30, 34, 38, 43, 47, 51, 55, 60, 64] }

/** Block format of the Khronos Data Format Specification 1.3, chapter 20 (BPTC, RGBA). */
export const bc7Format: BlockFormat = { width: 4, height: 4, bytes: 16, channels: 4, values: 'bytes', decode: decodeBlock }

function decodeBlock(bytes: Uint8Array, at: number, out: Uint8Array): void {
  const number = bytes[at] === 0 ? 8 : Math.log2(bytes[at]! & -bytes[at]!)
  const m = modes[number]
  // No mode: the block is nothing
  if (!m) return void out.fill(0, 0, 64)
  const read = bitReader(bytes, at)
  read(number + 1)
  const partition = read(m.partitionBits), rotation = read(m.rotationBits), choice = read(m.choiceBits)
  const ends = readEnds(m, read)
  const subsetOf = (t: number): number => (m.subsets === 1 ? 0 : m.subsets === 2 ? (twoSubsets[partition]! >> t) & 1 : (threeSubsets[partition]! >>> (t * 2)) & 3)
  const isAnchor = (t: number): boolean => t === 0 || (m.subsets === 2 && t === secondOfTwo[partition]) || (m.subsets === 3 && (t === secondOfThree[partition] || t === thirdOfThree[partition]))
  const first = Array.from({ length: 16 }, (_, t) => read(m.indexBits - (isAnchor(t) ? 1 : 0)))
  const second = m.secondBits > 0 ? Array.from({ length: 16 }, (_, t) => read(m.secondBits - (t === 0 ? 1 : 0))) : null
  for (let t = 0; t < 16; t++) {
    const [low, high] = ends[subsetOf(t)]!
    const w = weights[m.indexBits]![first[t]!]!, w2 = second ? weights[m.secondBits]![second[t]!]! : w
    const [colour, alpha] = choice === 1 ? [w2, w] : [w, w2]
    for (let c = 0; c < 4; c++) {
      const weight = c === 3 ? alpha : colour
      out[t * 4 + c] = ((64 - weight) * low![c]! + weight * high![c]! + 32) >> 6
    }
    if (rotation > 0) {
      const swapped = out[t * 4 + 3]!
      out[t * 4 + 3] = out[t * 4 + rotation - 1]!
      out[t * 4 + rotation - 1] = swapped
    }
  }
}

/** Both ends of each subset as RGBA of 8 bits. */
function readEnds(m: Mode, read: (count: number) => number): number[][][] {
  const ends = Array.from({ length: m.subsets }, () => [[0, 0, 0, 0], [0, 0, 0, 0]])
  for (let c = 0; c < 3; c++) for (const pair of ends) for (const end of pair) end[c] = read(m.colourBits)
  if (m.alphaBits > 0) for (const pair of ends) for (const end of pair) end[3] = read(m.alphaBits)
  const extra = ends.map((pair) => {
    if (m.sharedP) {
      const p = read(1)
      return [p, p]
    }
    return m.ownP ? pair.map(() => read(1)) : [0, 0]
  })
  const more = m.ownP | m.sharedP
  const full = (v: number, bits: number, p: number): number => {
    const wide = ((more ? (v << 1) | p : v) << (8 - bits - more)) & 255
    return wide | (wide >> (bits + more))
  }
  return ends.map((pair, s) => pair.map((end, e) => end.map((v, c) => (c < 3 ? full(v, m.colourBits, extra[s]![e]!) : m.alphaBits > 0 ? full(v, m.alphaBits, extra[s]![e]!) : 255))))
}
