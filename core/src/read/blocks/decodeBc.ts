import { unsignedWord } from './signedValues'

/** Writes the texels of a block, rows from the top, into `out` at `channels` numbers each. */
type DecodeBlock<Values> = (bytes: Uint8Array, at: number, out: Values) => void

/**
 * One format of blocks: texels across and down, bytes of a block, channels that a texel has, and what its
 * values are: 0 … 255, 0 … 65535, or numbers that may go beyond 1.
 */
export type BlockFormat = { width: number; height: number; bytes: number; channels: 1 | 2 | 3 | 4 } & (
  | { values: 'bytes'; decode: DecodeBlock<Uint8Array> }
  | { values: 'words'; decode: DecodeBlock<Uint16Array> }
  | { values: 'floats'; decode: DecodeBlock<Float32Array> }
)

const square = { width: 4, height: 4, values: 'bytes' } as const

/** The signed kin of BC4 and BC5: −127 to 127, kept as 16 bits without a sign. */
export const signedBcFormats: Record<'BC4 signed' | 'BC5 signed', BlockFormat> = {
  'BC4 signed': {
    ...square,
    values: 'words',
    bytes: 8,
    channels: 1,
    decode: (bytes, at, out) => signedBlock(bytes, at, out, 0, 1),
  },
  'BC5 signed': {
    ...square,
    values: 'words',
    bytes: 16,
    channels: 2,
    decode(bytes, at, out) {
      signedBlock(bytes, at, out, 0, 2)
      signedBlock(bytes, at + 8, out, 1, 2)
    },
  },
}

/** Block formats of the Khronos Data Format Specification 1.3, chapter 18 (S3TC) and 19 (RGTC). */
export const bcFormats: Record<
  'BC1' | 'BC2' | 'BC3' | 'BC4' | 'BC5',
  Extract<BlockFormat, { values: 'bytes' }>
> = {
  BC1: {
    ...square,
    bytes: 8,
    channels: 4,
    decode: (bytes, at, out) => colourBlock(bytes, at, out, 'may be transparent'),
  },
  BC2: {
    ...square,
    bytes: 16,
    channels: 4,
    decode(bytes, at, out) {
      colourBlock(bytes, at + 8, out, 'opaque')
      for (let t = 0; t < 16; t++) out[t * 4 + 3] = ((bytes[at + (t >> 1)]! >> ((t & 1) * 4)) & 15) * 17
    },
  },
  BC3: {
    ...square,
    bytes: 16,
    channels: 4,
    decode(bytes, at, out) {
      colourBlock(bytes, at + 8, out, 'opaque')
      valueBlock(bytes, at, out, 3, 4)
    },
  },
  BC4: { ...square, bytes: 8, channels: 1, decode: (bytes, at, out) => valueBlock(bytes, at, out, 0, 1) },
  BC5: {
    ...square,
    bytes: 16,
    channels: 2,
    decode(bytes, at, out) {
      valueBlock(bytes, at, out, 0, 2)
      valueBlock(bytes, at + 8, out, 1, 2)
    },
  },
}

const five = (v: number): number => (v << 3) | (v >> 2)
const six = (v: number): number => (v << 2) | (v >> 4)

// Millions of blocks are decoded one after the other: what one needs is there once
const colours = new Uint8Array(16),
  steps = new Float64Array(8),
  indices = new Uint8Array(16)

/**
 * Two colours of 5, 6 and 5 bits, and two bits a texel between them. With the first not above the second
 * there are three colours and one that is nothing.
 */
function colourBlock(
  bytes: Uint8Array,
  at: number,
  out: Uint8Array,
  alpha: 'opaque' | 'may be transparent',
): void {
  const a = bytes[at]! | (bytes[at + 1]! << 8),
    b = bytes[at + 2]! | (bytes[at + 3]! << 8)
  const four = a > b || alpha === 'opaque'
  setColours(0, five(a >> 11), five(b >> 11), four)
  setColours(1, six((a >> 5) & 63), six((b >> 5) & 63), four)
  setColours(2, five(a & 31), five(b & 31), four)
  for (let k = 0; k < 4; k++) colours[k * 4 + 3] = k === 3 && !four ? 0 : 255
  for (let t = 0; t < 16; t++) {
    const from = ((bytes[at + 4 + (t >> 2)]! >> ((t & 3) * 2)) & 3) * 4
    for (let c = 0; c < 4; c++) out[t * 4 + c] = colours[from + c]!
  }
}

/** One channel of the four colours of a block. */
function setColours(channel: number, first: number, second: number, four: boolean): void {
  colours[channel] = first
  colours[4 + channel] = second
  colours[8 + channel] = four ? (2 * first + second) / 3 : (first + second) >> 1
  colours[12 + channel] = four ? (first + 2 * second) / 3 : 0
}

/** Two values and three bits a texel between them: eight steps, or six with 0 and 255. */
function valueBlock(bytes: Uint8Array, at: number, out: Uint8Array, channel: number, stride: number): void {
  for (let k = 0; k < 8; k++) steps[k] = Math.floor(valueAt(bytes[at]!, bytes[at + 1]!, 0, 255, k))
  readIndices(bytes, at)
  for (let t = 0; t < 16; t++) out[t * stride + channel] = steps[indices[t]!]!
}

/** The same of values with a sign; −128 stands for −127. */
function signedBlock(bytes: Uint8Array, at: number, out: Uint16Array, channel: number, stride: number): void {
  const a = Math.max(-127, (bytes[at]! << 24) >> 24),
    b = Math.max(-127, (bytes[at + 1]! << 24) >> 24)
  for (let k = 0; k < 8; k++) steps[k] = unsignedWord(valueAt(a, b, -127, 127, k) / 127)
  readIndices(bytes, at)
  for (let t = 0; t < 16; t++) out[t * stride + channel] = steps[indices[t]!]!
}

/** Three bits of each texel, rows from the top, after the two values: eight texels are three bytes. */
function readIndices(bytes: Uint8Array, at: number): void {
  for (let half = 0; half < 2; half++) {
    const from = at + 2 + half * 3,
      three = bytes[from]! | (bytes[from + 1]! << 8) | (bytes[from + 2]! << 16)
    for (let t = 0; t < 8; t++) indices[half * 8 + t] = (three >> (t * 3)) & 7
  }
}

function valueAt(a: number, b: number, least: number, greatest: number, index: number): number {
  if (index === 0) return a
  if (index === 1) return b
  if (a > b) return ((8 - index) * a + (index - 1) * b) / 7
  return index === 6 ? least : index === 7 ? greatest : ((6 - index) * a + (index - 1) * b) / 5
}
