import { halfValues } from '../../image/cutFloats'
import { bitReader } from './bitReader'
import { secondOfTwo, twoSubsets } from './bc7Tables'
import type { BlockFormat } from './decodeBc'

/**
 * Bits of the first end, bits of the others by channel, and the order in which bits stand: channel and end,
 * then from which bit to which.
 */
interface Mode {
  bits: number
  deltas: readonly [number, number, number]
  subsets: 1 | 2
  changes: boolean
  fields: readonly Field[]
}
/**
 * Three numbers an end; where the bits go, the lowest of them, how many, and whether the highest comes first.
 */
interface Field {
  at: number
  lowest: number
  count: number
  turned: boolean
}

/** `r0.0-9` are bits 0 to 9 of the red of the first end, `g2.4` is one bit, `r0.11-10` come highest first. */
const fieldsOf = (text: string): Field[] =>
  text.split(' ').map((word) => {
    const [name, range] = word.split('.') as [string, string],
      [from, to = from] = range.split('-').map(Number) as [number, number?]
    return {
      at: Number(name[1]) * 3 + 'rgb'.indexOf(name[0]!),
      lowest: Math.min(from!, to!),
      count: Math.abs(from! - to!) + 1,
      turned: from! > to!,
    }
  })
const mode = (
  bits: number,
  deltas: readonly [number, number, number],
  subsets: 1 | 2,
  changes: boolean,
  text: string,
): Mode => ({ bits, deltas, subsets, changes, fields: fieldsOf(text) })

/** Table 124 of the Khronos Data Format Specification 1.3, by the mode's bits. */
const modes: Partial<Record<number, Mode>> = {
  0b00: mode(
    10,
    [5, 5, 5],
    2,
    true,
    'g2.4 b2.4 b3.4 r0.0-9 g0.0-9 b0.0-9 r1.0-4 g3.4 g2.0-3 g1.0-4 b3.0 g3.0-3 b1.0-4 b3.1 b2.0-3 r2.0-4 b3.2 r3.0-4 b3.3',
  ),
  0b01: mode(
    7,
    [6, 6, 6],
    2,
    true,
    'g2.5 g3.4 g3.5 r0.0-6 b3.0 b3.1 b2.4 g0.0-6 b2.5 b3.2 g2.4 b0.0-6 b3.3 b3.5 b3.4 r1.0-5 g2.0-3 ' +
      'g1.0-5 g3.0-3 b1.0-5 b2.0-3 r2.0-5 r3.0-5',
  ),
  0b00010: mode(
    11,
    [5, 4, 4],
    2,
    true,
    'r0.0-9 g0.0-9 b0.0-9 r1.0-4 r0.10 g2.0-3 g1.0-3 g0.10 b3.0 g3.0-3 b1.0-3 b0.10 b3.1 b2.0-3 r2.0-4 b3.2 r3.0-4 b3.3',
  ),
  0b00110: mode(
    11,
    [4, 5, 4],
    2,
    true,
    'r0.0-9 g0.0-9 b0.0-9 r1.0-3 r0.10 g3.4 g2.0-3 g1.0-4 g0.10 g3.0-3 b1.0-3 b0.10 b3.1 b2.0-3 ' +
      'r2.0-3 b3.0 b3.2 r3.0-3 g2.4 b3.3',
  ),
  0b01010: mode(
    11,
    [4, 4, 5],
    2,
    true,
    'r0.0-9 g0.0-9 b0.0-9 r1.0-3 r0.10 b2.4 g2.0-3 g1.0-3 g0.10 b3.0 g3.0-3 b1.0-4 b0.10 b2.0-3 ' +
      'r2.0-3 b3.1 b3.2 r3.0-3 b3.4 b3.3',
  ),
  0b01110: mode(
    9,
    [5, 5, 5],
    2,
    true,
    'r0.0-8 b2.4 g0.0-8 g2.4 b0.0-8 b3.4 r1.0-4 g3.4 g2.0-3 g1.0-4 b3.0 g3.0-3 b1.0-4 b3.1 b2.0-3 r2.0-4 b3.2 r3.0-4 b3.3',
  ),
  0b10010: mode(
    8,
    [6, 5, 5],
    2,
    true,
    'r0.0-7 g3.4 b2.4 g0.0-7 b3.2 g2.4 b0.0-7 b3.3 b3.4 r1.0-5 g2.0-3 g1.0-4 b3.0 g3.0-3 b1.0-4 b3.1 b2.0-3 r2.0-5 r3.0-5',
  ),
  0b10110: mode(
    8,
    [5, 6, 5],
    2,
    true,
    'r0.0-7 b3.0 b2.4 g0.0-7 g2.5 g2.4 b0.0-7 g3.5 b3.4 r1.0-4 g3.4 g2.0-3 g1.0-5 g3.0-3 b1.0-4 b3.1 ' +
      'b2.0-3 r2.0-4 b3.2 r3.0-4 b3.3',
  ),
  0b11010: mode(
    8,
    [5, 5, 6],
    2,
    true,
    'r0.0-7 b3.1 b2.4 g0.0-7 b2.5 g2.4 b0.0-7 b3.5 b3.4 r1.0-4 g3.4 g2.0-3 g1.0-4 b3.0 g3.0-3 b1.0-5 ' +
      'b2.0-3 r2.0-4 b3.2 r3.0-4 b3.3',
  ),
  0b11110: mode(
    6,
    [6, 6, 6],
    2,
    false,
    'r0.0-5 g3.4 b3.0 b3.1 b2.4 g0.0-5 g2.5 b2.5 b3.2 g2.4 b0.0-5 g3.5 b3.3 b3.5 b3.4 r1.0-5 g2.0-3 ' +
      'g1.0-5 g3.0-3 b1.0-5 b2.0-3 r2.0-5 r3.0-5',
  ),
  0b00011: mode(10, [10, 10, 10], 1, false, 'r0.0-9 g0.0-9 b0.0-9 r1.0-9 g1.0-9 b1.0-9'),
  0b00111: mode(11, [9, 9, 9], 1, true, 'r0.0-9 g0.0-9 b0.0-9 r1.0-8 r0.10 g1.0-8 g0.10 b1.0-8 b0.10'),
  0b01011: mode(
    12,
    [8, 8, 8],
    1,
    true,
    'r0.0-9 g0.0-9 b0.0-9 r1.0-7 r0.11-10 g1.0-7 g0.11-10 b1.0-7 b0.11-10',
  ),
  0b01111: mode(
    16,
    [4, 4, 4],
    1,
    true,
    'r0.0-9 g0.0-9 b0.0-9 r1.0-3 r0.15-10 g1.0-3 g0.15-10 b1.0-3 b0.15-10',
  ),
}
const weights = {
  3: Uint8Array.of(0, 9, 18, 27, 37, 46, 55, 64),
  4: Uint8Array.of(0, 4, 9, 13, 17, 21, 26, 30, 34, 38, 43, 47, 51, 55, 60, 64),
} as const

/** Block format of the Khronos Data Format Specification 1.3, chapter 20 (BPTC, floating point). */
export const bc6hFormat = (sign: 'signed' | 'unsigned'): BlockFormat => ({
  width: 4,
  height: 4,
  bytes: 16,
  channels: 3,
  values: 'floats',
  decode: (bytes, at, out) => decodeBlock(bytes, at, out, sign === 'signed'),
})

// Millions of blocks are decoded one after the other: what one needs is there once
const bits = bitReader()
/** RGB of both ends of each subset. */
const ends = new Int32Array(4 * 3)

function decodeBlock(bytes: Uint8Array, at: number, out: Float32Array, signed: boolean): void {
  bits.begin(bytes, at)
  let number = bits.take(2)
  if (number > 1) number |= bits.take(3) << 2
  const m = modes[number]
  // Reserved modes are black
  if (!m) return void out.fill(0, 0, 48)
  readEnds(m, signed)
  const partition = m.subsets === 2 ? bits.take(5) : 0,
    indexBits = m.subsets === 2 ? 3 : 4
  const own = weights[indexBits],
    anchor = m.subsets === 2 ? secondOfTwo[partition]! : 0,
    values = halfValues()
  for (let t = 0; t < 16; t++) {
    const weight = own[bits.take(t === 0 || t === anchor ? indexBits - 1 : indexBits)]!
    const low = m.subsets === 2 ? ((twoSubsets[partition]! >> t) & 1) * 6 : 0
    for (let c = 0; c < 3; c++) {
      const value = ((64 - weight) * ends[low + c]! + weight * ends[low + 3 + c]! + 32) >> 6
      out[t * 3 + c] =
        values[signed ? (value < 0 ? 0x8000 | ((-value * 31) >> 5) : (value * 31) >> 5) : (value * 31) >> 6]!
    }
  }
}

/** The ends of each subset: stored, or as differences from the first, then spread over 16 bits. */
function readEnds(m: Mode, signed: boolean): void {
  ends.fill(0)
  for (const { at, lowest, count, turned } of m.fields)
    if (!turned) ends[at]! |= bits.take(count) << lowest
    else for (let bit = lowest + count - 1; bit >= lowest; bit--) ends[at]! |= bits.take(1) << bit
  const count = m.subsets * 6
  for (let k = 3; k < count; k++)
    if (m.changes) ends[k] = (ends[k % 3]! + withSign(ends[k]!, m.deltas[k % 3]!)) & ((1 << m.bits) - 1)
  for (let k = 0; k < count; k++)
    ends[k] = signed ? spreadSigned(withSign(ends[k]!, m.bits), m.bits) : spread(ends[k]!, m.bits)
}

const withSign = (v: number, bits: number): number => (v & (1 << (bits - 1)) ? v - (1 << bits) : v)

/** Spreads a value over 16 bits. */
function spread(v: number, bits: number): number {
  if (bits >= 15 || v === 0) return v
  return v === (1 << bits) - 1 ? 0xffff : ((v << 15) + 0x4000) >> (bits - 1)
}

function spreadSigned(v: number, bits: number): number {
  if (bits >= 16 || v === 0) return v
  const size = Math.abs(v),
    wide = size >= (1 << (bits - 1)) - 1 ? 0x7fff : ((size << 15) + 0x4000) >> (bits - 1)
  return v < 0 ? -wide : wide
}
