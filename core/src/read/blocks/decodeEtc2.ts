import type { BlockFormat } from './decodeBc'
import { unsignedWord } from './signedValues'

/**
 * Tables 83 and 88 of the Khronos Data Format Specification 1.3: what is added to a colour, and distances of
 * the T and H modes.
 */
const modifiers: readonly (readonly [number, number])[] = [
  [2, 8],
  [5, 17],
  [9, 29],
  [13, 42],
  [18, 60],
  [24, 80],
  [33, 106],
  [47, 183],
]
const distances = [3, 6, 11, 16, 23, 32, 41, 64]
/** Table 93: what is added to a value of an EAC block. */
const valueModifiers: readonly (readonly number[])[] = [
  [-3, -6, -9, -15, 2, 5, 8, 14],
  [-3, -7, -10, -13, 2, 6, 9, 12],
  [-2, -5, -8, -13, 1, 4, 7, 12],
  [-2, -4, -6, -13, 1, 3, 5, 12],
  [-3, -6, -8, -12, 2, 5, 7, 11],
  [-3, -7, -9, -11, 2, 6, 8, 10],
  [-4, -7, -8, -11, 3, 6, 7, 10],
  [-3, -5, -8, -11, 2, 4, 7, 10],
  [-2, -6, -8, -10, 1, 5, 7, 9],
  [-2, -5, -8, -10, 1, 4, 7, 9],
  [-2, -4, -8, -10, 1, 3, 7, 9],
  [-2, -5, -7, -10, 1, 4, 6, 9],
  [-3, -4, -7, -10, 2, 3, 6, 9],
  [-1, -2, -3, -10, 0, 1, 2, 9],
  [-4, -6, -8, -9, 3, 5, 7, 8],
  [-3, -5, -7, -9, 2, 4, 6, 8],
]

type Colour = readonly [number, number, number]
type Alpha = 'none' | 'one bit' | 'beside'

const block = { width: 4, height: 4 } as const
/** Block formats of the Khronos Data Format Specification 1.3, chapters 21 (ETC1) and 22 (ETC2 and EAC). */
export const etcFormats: Record<
  'RGB' | 'RGBA1' | 'RGBA' | 'R11' | 'RG11' | 'R11 signed' | 'RG11 signed',
  BlockFormat
> = {
  RGB: {
    ...block,
    bytes: 8,
    channels: 3,
    values: 'bytes',
    decode: (bytes, at, out) => colourBlock(bytes, at, out, 3, 'none'),
  },
  RGBA1: {
    ...block,
    bytes: 8,
    channels: 4,
    values: 'bytes',
    decode: (bytes, at, out) => colourBlock(bytes, at, out, 4, 'one bit'),
  },
  RGBA: {
    ...block,
    bytes: 16,
    channels: 4,
    values: 'bytes',
    decode(bytes, at, out) {
      colourBlock(bytes, at + 8, out, 4, 'beside')
      const base = bytes[at]!,
        times = bytes[at + 1]! >> 4
      eachValue(bytes, at, (t, modifier) => {
        out[t * 4 + 3] = clamp(base + modifier * times)
      })
    },
  },
  R11: {
    ...block,
    bytes: 8,
    channels: 1,
    values: 'words',
    decode: (bytes, at, out) => elevenBits(bytes, at, out, 0, 1),
  },
  RG11: {
    ...block,
    bytes: 16,
    channels: 2,
    values: 'words',
    decode(bytes, at, out) {
      elevenBits(bytes, at, out, 0, 2)
      elevenBits(bytes, at + 8, out, 1, 2)
    },
  },
  'R11 signed': {
    ...block,
    bytes: 8,
    channels: 1,
    values: 'words',
    decode: (bytes, at, out) => signedElevenBits(bytes, at, out, 0, 1),
  },
  'RG11 signed': {
    ...block,
    bytes: 16,
    channels: 2,
    values: 'words',
    decode(bytes, at, out) {
      signedElevenBits(bytes, at, out, 0, 2)
      signedElevenBits(bytes, at + 8, out, 1, 2)
    },
  },
}

const clamp = (v: number): number => (v < 0 ? 0 : v > 255 ? 255 : v)
const four = (v: number): number => v * 17
const five = (v: number): number => (v << 3) | (v >> 2)
const six = (v: number): number => (v << 2) | (v >> 4)
const seven = (v: number): number => (v << 1) | (v >> 6)

/** Texels stand in columns: the sixteen three-bit numbers of an EAC block, highest bits first. */
function eachValue(bytes: Uint8Array, at: number, visit: (texel: number, modifier: number) => void): void {
  const table = valueModifiers[bytes[at + 1]! & 15]!
  for (let i = 0; i < 16; i++) {
    const bit = 45 - i * 3
    let index = 0
    for (let b = 2; b >= 0; b--)
      index = (index << 1) | ((bytes[at + 7 - ((bit + b) >> 3)]! >> ((bit + b) & 7)) & 1)
    visit((i & 3) * 4 + (i >> 2), table[index]!)
  }
}

/** Values of 11 bits, spread over 16. */
function elevenBits(bytes: Uint8Array, at: number, out: Uint16Array, channel: number, stride: number): void {
  const base = bytes[at]! * 8 + 4,
    times = bytes[at + 1]! >> 4
  eachValue(bytes, at, (t, modifier) => {
    const v = Math.min(2047, Math.max(0, base + modifier * (times === 0 ? 1 : times * 8)))
    out[t * stride + channel] = (v << 5) | (v >> 6)
  })
}

/** −1023 to 1023, kept as 16 bits without a sign; a base of −128 stands for −127. */
function signedElevenBits(
  bytes: Uint8Array,
  at: number,
  out: Uint16Array,
  channel: number,
  stride: number,
): void {
  const base = Math.max(-127, (bytes[at]! << 24) >> 24) * 8,
    times = bytes[at + 1]! >> 4
  eachValue(bytes, at, (t, modifier) => {
    out[t * stride + channel] = unsignedWord((base + modifier * (times === 0 ? 1 : times * 8)) / 1023)
  })
}

function colourBlock(bytes: Uint8Array, at: number, out: Uint8Array, stride: 3 | 4, alpha: Alpha): void {
  const b = bytes.subarray(at, at + 8)
  const differs = (b[3]! & 2) !== 0,
    opaque = alpha !== 'one bit' || differs
  const put = (t: number, [r, g, bl]: Colour, a: number): void => {
    out[t * stride] = r
    out[t * stride + 1] = g
    out[t * stride + 2] = bl
    if (stride === 4 && alpha !== 'beside') out[t * 4 + 3] = a
  }
  if (alpha !== 'one bit' && !differs)
    return subBlocks(
      b,
      [
        [four(b[0]! >> 4), four(b[1]! >> 4), four(b[2]! >> 4)],
        [four(b[0]! & 15), four(b[1]! & 15), four(b[2]! & 15)],
      ],
      true,
      put,
    )
  const first = [b[0]! >> 3, b[1]! >> 3, b[2]! >> 3] as const
  const second = first.map((v, c) => v + ((b[c]! & 7) ^ 4) - 4) as unknown as Colour
  const out5 = (v: number): boolean => v < 0 || v > 31
  // A sum that does not fit tells another mode
  if (out5(second[0])) return painted(b, paintOfT(b), opaque, put)
  if (out5(second[1])) return painted(b, paintOfH(b), opaque, put)
  if (out5(second[2])) return planar(b, put)
  subBlocks(b, [first.map(five) as unknown as Colour, second.map(five) as unknown as Colour], opaque, put)
}

/** Index of a texel, by columns: its high bit and its low bit lie in two rows of sixteen. */
const indexOf = (b: Uint8Array, i: number): number =>
  (((b[5 - (i >> 3)]! >> (i & 7)) & 1) << 1) | ((b[7 - (i >> 3)]! >> (i & 7)) & 1)

type Put = (texel: number, colour: Colour, alpha: number) => void
const CLEAR: Colour = [0, 0, 0]

/** Two halves, beside or above one another, each with a colour and a row of modifiers. */
function subBlocks(b: Uint8Array, colours: readonly [Colour, Colour], opaque: boolean, put: Put): void {
  const tables = [modifiers[b[3]! >> 5]!, modifiers[(b[3]! >> 2) & 7]!],
    flipped = (b[3]! & 1) !== 0
  for (let i = 0; i < 16; i++) {
    const x = i >> 2,
      y = i & 3,
      half = (flipped ? y : x) >> 1,
      index = indexOf(b, i),
      t = y * 4 + x
    if (!opaque && index === 2) {
      put(t, CLEAR, 0)
      continue
    }
    const [small, large] = tables[half]!
    const by = index & 1 ? large : opaque ? small : 0,
      add = index & 2 ? -by : by
    put(t, colours[half]!.map((v) => clamp(v + add)) as unknown as Colour, 255)
  }
}

const shifted = (colour: Colour, by: number): Colour => colour.map((v) => clamp(v + by)) as unknown as Colour

function paintOfT(b: Uint8Array): Colour[] {
  const one: Colour = [four((((b[0]! >> 3) & 3) << 2) | (b[0]! & 3)), four(b[1]! >> 4), four(b[1]! & 15)],
    two: Colour = [four(b[2]! >> 4), four(b[2]! & 15), four(b[3]! >> 4)]
  const d = distances[(((b[3]! >> 2) & 3) << 1) | (b[3]! & 1)]!
  return [one, shifted(two, d), two, shifted(two, -d)]
}

function paintOfH(b: Uint8Array): Colour[] {
  const one = [
    (b[0]! >> 3) & 15,
    ((b[0]! & 7) << 1) | ((b[1]! >> 4) & 1),
    (b[1]! & 8) | ((b[1]! & 3) << 1) | (b[2]! >> 7),
  ] as const
  const two = [(b[2]! >> 3) & 15, ((b[2]! & 7) << 1) | (b[3]! >> 7), (b[3]! >> 3) & 15] as const
  const number = (c: Colour): number => (c[0] << 8) | (c[1] << 4) | c[2]
  // The order of the two colours is the last bit of the distance
  const d = distances[(((b[3]! >> 2) & 1) << 2) | ((b[3]! & 1) << 1) | (number(one) >= number(two) ? 1 : 0)]!
  const [c1, c2] = [one.map(four) as unknown as Colour, two.map(four) as unknown as Colour]
  return [shifted(c1, d), shifted(c1, -d), shifted(c2, d), shifted(c2, -d)]
}

function painted(b: Uint8Array, paint: readonly Colour[], opaque: boolean, put: Put): void {
  for (let i = 0; i < 16; i++) {
    const index = indexOf(b, i),
      t = (i & 3) * 4 + (i >> 2)
    if (!opaque && index === 2) put(t, CLEAR, 0)
    else put(t, paint[index]!, 255)
  }
}

/** A colour at the origin and one at the end of each side; between them planes. */
function planar(b: Uint8Array, put: Put): void {
  const o: Colour = [
    six((b[0]! >> 1) & 63),
    seven(((b[0]! & 1) << 6) | ((b[1]! >> 1) & 63)),
    six(((b[1]! & 1) << 5) | (b[2]! & 0x18) | ((b[2]! & 3) << 1) | (b[3]! >> 7)),
  ]
  const h: Colour = [
    six((((b[3]! >> 2) & 31) << 1) | (b[3]! & 1)),
    seven(b[4]! >> 1),
    six(((b[4]! & 1) << 5) | (b[5]! >> 3)),
  ]
  const v: Colour = [
    six(((b[5]! & 7) << 3) | (b[6]! >> 5)),
    seven(((b[6]! & 31) << 2) | (b[7]! >> 6)),
    six(b[7]! & 63),
  ]
  for (let t = 0; t < 16; t++)
    put(
      t,
      [0, 1, 2].map((c) =>
        clamp(((t & 3) * (h[c]! - o[c]!) + (t >> 2) * (v[c]! - o[c]!) + 4 * o[c]! + 2) >> 2),
      ) as unknown as Colour,
      255,
    )
}
