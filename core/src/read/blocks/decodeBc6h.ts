import { halfValue } from '../../image/cutFloats'
import { bitReader } from './bitReader'
import { secondOfTwo, twoSubsets } from './bc7Tables'
import type { BlockFormat } from './decodeBc'

/** Bits of the first end, bits of the others by channel, and the order in which bits stand: channel and end, then from which bit to which. */
interface Mode { bits: number; deltas: readonly [number, number, number]; subsets: 1 | 2; changes: boolean; fields: readonly Field[] }
interface Field { channel: number; end: number; from: number; to: number }

/** `r0.0-9` are bits 0 to 9 of the red of the first end, `g2.4` is one bit, `r0.11-10` come highest first. */
const fieldsOf = (text: string): Field[] => text.split(' ').map((word) => {
  const [name, range] = word.split('.') as [string, string], [from, to = from] = range.split('-').map(Number) as [number, number?]
  return { channel: 'rgb'.indexOf(name[0]!), end: Number(name[1]), from, to: to! }
})
const mode = (bits: number, deltas: readonly [number, number, number], subsets: 1 | 2, changes: boolean, text: string): Mode => ({ bits, deltas, subsets, changes, fields: fieldsOf(text) })

/** Table 124 of the Khronos Data Format Specification 1.3, by the mode's bits. */
const modes: Partial<Record<number, Mode>> = {
  0b00: mode(10, [5, 5, 5], 2, true, 'g2.4 b2.4 b3.4 r0.0-9 g0.0-9 b0.0-9 r1.0-4 g3.4 g2.0-3 g1.0-4 b3.0 g3.0-3 b1.0-4 b3.1 b2.0-3 r2.0-4 b3.2 r3.0-4 b3.3'),
  0b01: mode(7, [6, 6, 6], 2, true, 'g2.5 g3.4 g3.5 r0.0-6 b3.0 b3.1 b2.4 g0.0-6 b2.5 b3.2 g2.4 b0.0-6 b3.3 b3.5 b3.4 r1.0-5 g2.0-3 g1.0-5 g3.0-3 b1.0-5 b2.0-3 r2.0-5 r3.0-5'),
  0b00010: mode(11, [5, 4, 4], 2, true, 'r0.0-9 g0.0-9 b0.0-9 r1.0-4 r0.10 g2.0-3 g1.0-3 g0.10 b3.0 g3.0-3 b1.0-3 b0.10 b3.1 b2.0-3 r2.0-4 b3.2 r3.0-4 b3.3'),
  0b00110: mode(11, [4, 5, 4], 2, true, 'r0.0-9 g0.0-9 b0.0-9 r1.0-3 r0.10 g3.4 g2.0-3 g1.0-4 g0.10 g3.0-3 b1.0-3 b0.10 b3.1 b2.0-3 r2.0-3 b3.0 b3.2 r3.0-3 g2.4 b3.3'),
  0b01010: mode(11, [4, 4, 5], 2, true, 'r0.0-9 g0.0-9 b0.0-9 r1.0-3 r0.10 b2.4 g2.0-3 g1.0-3 g0.10 b3.0 g3.0-3 b1.0-4 b0.10 b2.0-3 r2.0-3 b3.1 b3.2 r3.0-3 b3.4 b3.3'),
  0b01110: mode(9, [5, 5, 5], 2, true, 'r0.0-8 b2.4 g0.0-8 g2.4 b0.0-8 b3.4 r1.0-4 g3.4 g2.0-3 g1.0-4 b3.0 g3.0-3 b1.0-4 b3.1 b2.0-3 r2.0-4 b3.2 r3.0-4 b3.3'),
  0b10010: mode(8, [6, 5, 5], 2, true, 'r0.0-7 g3.4 b2.4 g0.0-7 b3.2 g2.4 b0.0-7 b3.3 b3.4 r1.0-5 g2.0-3 g1.0-4 b3.0 g3.0-3 b1.0-4 b3.1 b2.0-3 r2.0-5 r3.0-5'),
  0b10110: mode(8, [5, 6, 5], 2, true, 'r0.0-7 b3.0 b2.4 g0.0-7 g2.5 g2.4 b0.0-7 g3.5 b3.4 r1.0-4 g3.4 g2.0-3 g1.0-5 g3.0-3 b1.0-4 b3.1 b2.0-3 r2.0-4 b3.2 r3.0-4 b3.3'),
  0b11010: mode(8, [5, 5, 6], 2, true, 'r0.0-7 b3.1 b2.4 g0.0-7 b2.5 g2.4 b0.0-7 b3.5 b3.4 r1.0-4 g3.4 g2.0-3 g1.0-4 b3.0 g3.0-3 b1.0-5 b2.0-3 r2.0-4 b3.2 r3.0-4 b3.3'),
  0b11110: mode(6, [6, 6, 6], 2, false, 'r0.0-5 g3.4 b3.0 b3.1 b2.4 g0.0-5 g2.5 b2.5 b3.2 g2.4 b0.0-5 g3.5 b3.3 b3.5 b3.4 r1.0-5 g2.0-3 g1.0-5 g3.0-3 b1.0-5 b2.0-3 r2.0-5 r3.0-5'),
  0b00011: mode(10, [10, 10, 10], 1, false, 'r0.0-9 g0.0-9 b0.0-9 r1.0-9 g1.0-9 b1.0-9'),
  0b00111: mode(11, [9, 9, 9], 1, true, 'r0.0-9 g0.0-9 b0.0-9 r1.0-8 r0.10 g1.0-8 g0.10 b1.0-8 b0.10'),
  0b01011: mode(12, [8, 8, 8], 1, true, 'r0.0-9 g0.0-9 b0.0-9 r1.0-7 r0.11-10 g1.0-7 g0.11-10 b1.0-7 b0.11-10'),
  0b01111: mode(16, [4, 4, 4], 1, true, 'r0.0-9 g0.0-9 b0.0-9 r1.0-3 r0.15-10 g1.0-3 g0.15-10 b1.0-3 b0.15-10'),
}
const weights = { 3: [0, 9, 18, 27, 37, 46, 55, 64], 4: [0, 4, 9, 13, 17, 21, 26, 30, 34, 38, 43, 47, 51, 55, 60, 64] } as const

/** Block format of the Khronos Data Format Specification 1.3, chapter 20 (BPTC, floating point). */
export const bc6hFormat = (sign: 'signed' | 'unsigned'): BlockFormat => ({ width: 4, height: 4, bytes: 16, channels: 3, values: 'floats', decode: (bytes, at, out) => decodeBlock(bytes, at, out, sign === 'signed') })

function decodeBlock(bytes: Uint8Array, at: number, out: Float32Array, signed: boolean): void {
  const read = bitReader(bytes, at)
  let number = read(2)
  if (number > 1) number |= read(3) << 2
  const m = modes[number]
  // Reserved modes are black
  if (!m) return void out.fill(0, 0, 48)
  const ends = readEnds(m, read, signed).map((end) => end.map((v) => (signed ? spreadSigned(v, m.bits) : spread(v, m.bits))))
  const partition = m.subsets === 2 ? read(5) : 0, indexBits = m.subsets === 2 ? 3 : 4
  for (let t = 0; t < 16; t++) {
    const anchor = t === 0 || (m.subsets === 2 && t === secondOfTwo[partition])
    const weight = weights[indexBits][read(indexBits - (anchor ? 1 : 0))]!
    const subset = m.subsets === 2 ? (twoSubsets[partition]! >> t) & 1 : 0
    for (let c = 0; c < 3; c++) {
      const value = ((64 - weight) * ends[subset * 2]![c]! + weight * ends[subset * 2 + 1]![c]! + 32) >> 6
      out[t * 3 + c] = halfValue(signed ? (value < 0 ? 0x8000 | ((-value * 31) >> 5) : (value * 31) >> 5) : (value * 31) >> 6)
    }
  }
}

/** The ends of each subset, as they are stored in the bits of the first. */
function readEnds(m: Mode, read: (count: number) => number, signed: boolean): number[][] {
  const ends = Array.from({ length: m.subsets * 2 }, () => [0, 0, 0])
  for (const { channel, end, from, to } of m.fields)
    for (let bit = from; ; bit += from < to ? 1 : -1) {
      ends[end]![channel]! |= read(1) << bit
      if (bit === to) break
    }
  return ends.map((end, e) => end.map((v, c) => {
    if (e === 0) return signed ? withSign(v, m.bits) : v
    if (!m.changes) return signed ? withSign(v, m.bits) : v
    const sum = (ends[0]![c]! + withSign(v, m.deltas[c]!)) & ((1 << m.bits) - 1)
    return signed ? withSign(sum, m.bits) : sum
  }))
}

const withSign = (v: number, bits: number): number => (v & (1 << (bits - 1)) ? v - (1 << bits) : v)

/** Spreads a value over 16 bits. */
function spread(v: number, bits: number): number {
  if (bits >= 15 || v === 0) return v
  return v === (1 << bits) - 1 ? 0xffff : ((v << 15) + 0x4000) >> (bits - 1)
}

function spreadSigned(v: number, bits: number): number {
  if (bits >= 16 || v === 0) return v
  const size = Math.abs(v), wide = size >= (1 << (bits - 1)) - 1 ? 0x7fff : ((size << 15) + 0x4000) >> (bits - 1)
  return v < 0 ? -wide : wide
}
