import { unsignedWord } from './signedValues'

/** Writes the texels of a block, rows from the top, into `out` at `channels` numbers each. */
type DecodeBlock<Values> = (bytes: Uint8Array, at: number, out: Values) => void

/** One format of blocks: texels across and down, bytes of a block, channels that a texel has, and what its values are: 0 … 255, 0 … 65535, or numbers that may go beyond 1. */
export type BlockFormat = { width: number; height: number; bytes: number; channels: 1 | 2 | 3 | 4 } &
  ({ values: 'bytes'; decode: DecodeBlock<Uint8Array> } | { values: 'words'; decode: DecodeBlock<Uint16Array> } | { values: 'floats'; decode: DecodeBlock<Float32Array> })

const square = { width: 4, height: 4, values: 'bytes' } as const

/** The signed kin of BC4 and BC5: −127 to 127, kept as 16 bits without a sign. */
export const signedBcFormats: Record<'BC4 signed' | 'BC5 signed', BlockFormat> = {
  'BC4 signed': { ...square, values: 'words', bytes: 8, channels: 1, decode: (bytes, at, out) => signedBlock(bytes, at, out, 0, 1) },
  'BC5 signed': {
    ...square, values: 'words', bytes: 16, channels: 2,
    decode(bytes, at, out) {
      signedBlock(bytes, at, out, 0, 2)
      signedBlock(bytes, at + 8, out, 1, 2)
    },
  },
}

/** Block formats of the Khronos Data Format Specification 1.3, chapter 18 (S3TC) and 19 (RGTC). */
export const bcFormats: Record<'BC1' | 'BC2' | 'BC3' | 'BC4' | 'BC5', Extract<BlockFormat, { values: 'bytes' }>> = {
  BC1: { ...square, bytes: 8, channels: 4, decode: (bytes, at, out) => colourBlock(bytes, at, out, 'may be transparent') },
  BC2: {
    ...square, bytes: 16, channels: 4,
    decode(bytes, at, out) {
      colourBlock(bytes, at + 8, out, 'opaque')
      for (let t = 0; t < 16; t++) out[t * 4 + 3] = ((bytes[at + (t >> 1)]! >> ((t & 1) * 4)) & 15) * 17
    },
  },
  BC3: {
    ...square, bytes: 16, channels: 4,
    decode(bytes, at, out) {
      colourBlock(bytes, at + 8, out, 'opaque')
      valueBlock(bytes, at, out, 3, 4)
    },
  },
  BC4: { ...square, bytes: 8, channels: 1, decode: (bytes, at, out) => valueBlock(bytes, at, out, 0, 1) },
  BC5: {
    ...square, bytes: 16, channels: 2,
    decode(bytes, at, out) {
      valueBlock(bytes, at, out, 0, 2)
      valueBlock(bytes, at + 8, out, 1, 2)
    },
  },
}

const five = (v: number): number => (v << 3) | (v >> 2)
const six = (v: number): number => (v << 2) | (v >> 4)

/** Two colours of 5, 6 and 5 bits, and two bits a texel between them. With the first not above the second there are three colours and one that is nothing. */
function colourBlock(bytes: Uint8Array, at: number, out: Uint8Array, alpha: 'opaque' | 'may be transparent'): void {
  const a = bytes[at]! | (bytes[at + 1]! << 8), b = bytes[at + 2]! | (bytes[at + 3]! << 8)
  const ends = [[five(a >> 11), six((a >> 5) & 63), five(a & 31)], [five(b >> 11), six((b >> 5) & 63), five(b & 31)]] as const
  const four = a > b || alpha === 'opaque'
  for (let t = 0; t < 16; t++) {
    const index = (bytes[at + 4 + (t >> 2)]! >> ((t & 3) * 2)) & 3
    const clear = index === 3 && !four
    for (let c = 0; c < 3; c++) {
      const [x, y] = [ends[0][c]!, ends[1][c]!]
      out[t * 4 + c] = clear ? 0 : index === 0 ? x : index === 1 ? y : four ? Math.floor(index === 2 ? (2 * x + y) / 3 : (x + 2 * y) / 3) : (x + y) >> 1
    }
    out[t * 4 + 3] = clear ? 0 : 255
  }
}

/** Two values and three bits a texel between them: eight steps, or six with 0 and 255. */
function valueBlock(bytes: Uint8Array, at: number, out: Uint8Array, channel: number, stride: number): void {
  const a = bytes[at]!, b = bytes[at + 1]!
  for (let t = 0; t < 16; t++) out[t * stride + channel] = Math.floor(valueAt(a, b, 0, 255, indexAt(bytes, at, t)))
}

/** The same of values with a sign; −128 stands for −127. */
function signedBlock(bytes: Uint8Array, at: number, out: Uint16Array, channel: number, stride: number): void {
  const [a, b] = [bytes[at]!, bytes[at + 1]!].map((v) => Math.max(-127, (v << 24) >> 24)) as [number, number]
  for (let t = 0; t < 16; t++) out[t * stride + channel] = unsignedWord(valueAt(a, b, -127, 127, indexAt(bytes, at, t)) / 127)
}

/** Three bits of a texel, rows from the top, after the two values. */
function indexAt(bytes: Uint8Array, at: number, texel: number): number {
  const bit = texel * 3, byte = at + 2 + (bit >> 3)
  return ((bytes[byte]! | ((byte + 1 < at + 8 ? bytes[byte + 1]! : 0) << 8)) >> (bit & 7)) & 7
}

function valueAt(a: number, b: number, least: number, greatest: number, index: number): number {
  if (index === 0) return a
  if (index === 1) return b
  if (a > b) return ((8 - index) * a + (index - 1) * b) / 7
  return index === 6 ? least : index === 7 ? greatest : ((6 - index) * a + (index - 1) * b) / 5
}
