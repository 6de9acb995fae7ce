import type { BlockFormat } from './decodeBc'
import { endsOf, isPlainMode, valuesOfMode, type Ends } from './astcEnds'
import { partitionChooser } from './astcPartition'
import {
  colourValue,
  ranges,
  readSequence,
  sequenceBits,
  weightValue,
  type Range,
  type ReadBit,
} from './astcSequences'

/** Sizes of blocks in the order of the Vulkan format numbers. */
export const astcSizes: readonly (readonly [number, number])[] = [
  [4, 4],
  [5, 4],
  [5, 5],
  [6, 5],
  [6, 6],
  [8, 5],
  [8, 6],
  [8, 8],
  [10, 5],
  [10, 6],
  [10, 8],
  [10, 10],
  [12, 10],
  [12, 12],
]

/**
 * Blocks of the Khronos Data Format Specification 1.3, chapter 23, in two dimensions and the profile for
 * values up to 1. `srgb` rounds as colours are.
 */
export const astcFormat = (width: number, height: number, srgb: boolean): BlockFormat => ({
  width,
  height,
  bytes: 16,
  channels: 4,
  values: 'bytes',
  decode: (bytes, at, out) => decodeBlock(bytes, at, out, { width, height, srgb }),
})

interface Size {
  width: number
  height: number
  srgb: boolean
}

/** What is not of this profile, or follows no rule. */
const WRONG: Ends = [
  [255, 0, 255, 255],
  [255, 0, 255, 255],
]

function wrong(out: Uint8Array): void {
  for (let t = 0; t * 4 < out.length; t++) out.set(WRONG[0], t * 4)
}

function decodeBlock(bytes: Uint8Array, at: number, out: Uint8Array, size: Size): void {
  const bit: ReadBit = (n) => (bytes[at + (n >> 3)]! >> (n & 7)) & 1
  const bits = (from: number, count: number): number => {
    let value = 0
    for (let i = 0; i < count; i++) value |= bit(from + i) << i
    return value
  }
  if (bits(0, 9) === 0x1fc) return oneColour(bits, out)
  const grid = gridOf(bits(0, 11))
  if (!grid || grid.width > size.width || grid.height > size.height) return wrong(out)
  const layout = layoutOf(bits, grid)
  if (!layout) return wrong(out)
  const numbers = readSequence(bit, layout.coloursAt, layout.count, layout.range).map((v) =>
    colourValue(v, layout.range),
  )
  let from = 0
  const ends = layout.modes.map((mode) => {
    const own = numbers.slice(from, (from += valuesOfMode(mode)))
    return isPlainMode(mode) ? endsOf(mode, own) : WRONG
  })
  // Weights stand at the end of the block, highest bit first
  const planes = grid.dual ? 2 : 1
  const stored = readSequence((n) => bit(127 - n), 0, grid.width * grid.height * planes, grid.range).map(
    (v) => weightValue(v, grid.range),
  )
  const choose = partitionChooser(layout.partition, layout.modes.length, size.width * size.height < 31)
  for (let y = 0; y < size.height; y++)
    for (let x = 0; x < size.width; x++) {
      const weights = Array.from({ length: planes }, (_, plane) =>
        weightAt(stored, grid, size, x, y, plane, planes),
      )
      putTexel(out, (y * size.width + x) * 4, ends[choose(x, y)]!, weights, layout.apart, size.srgb)
    }
}

/** The channel that has weights of its own, or −1. */
function putTexel(
  out: Uint8Array,
  at: number,
  [low, high]: Ends,
  weights: readonly number[],
  apart: number,
  srgb: boolean,
): void {
  for (let c = 0; c < 4; c++) {
    const w = c === apart ? weights[1]! : weights[0]!
    // Alpha is never a colour of that space, but is rounded with the others
    const a = srgb ? (low[c]! << 8) | 0x80 : low[c]! * 257,
      b = srgb ? (high[c]! << 8) | 0x80 : high[c]! * 257
    out[at + c] = ((a * (64 - w) + b * w + 32) >> 6) >> 8
  }
}

/** The whole block in one colour; values beyond 1 are not of this profile. */
function oneColour(bits: (from: number, count: number) => number, out: Uint8Array): void {
  if (bits(9, 1) === 1 || bits(10, 2) !== 3) return wrong(out)
  const [s0, s1, t0, t1] = [12, 25, 38, 51].map((from) => bits(from, 13)) as [number, number, number, number]
  const everywhere = s0 === 8191 && s1 === 8191 && t0 === 8191 && t1 === 8191
  if (!everywhere && (s0 >= s1 || t0 >= t1)) return wrong(out)
  const colour = [64, 80, 96, 112].map((from) => bits(from + 8, 8))
  for (let t = 0; t * 4 < out.length; t++) out.set(colour, t * 4)
}

interface Grid {
  width: number
  height: number
  dual: boolean
  range: Range
  bits: number
}

/**
 * Size and range of the weights, from the eleven bits of the block's mode (section 23.10); null where they
 * are not to be used.
 */
function gridOf(mode: number): Grid | null {
  const low = mode & 3,
    next = (mode >> 2) & 3,
    a = (mode >> 5) & 3,
    b = (mode >> 7) & 3
  let range = (mode >> 4) & 1,
    width: number,
    height: number,
    dual = (mode >> 10) & 1,
    precise = (mode >> 9) & 1
  if (low !== 0) {
    range |= low << 1
    ;[width, height] =
      next === 0
        ? [b + 4, a + 2]
        : next === 1
          ? [b + 8, a + 2]
          : next === 2
            ? [a + 2, b + 8]
            : b & 2
              ? [(b & 1) + 2, a + 2]
              : [a + 2, (b & 1) + 6]
  } else {
    if (next === 0) return null
    range |= next << 1
    const wide = (mode >> 9) & 3
    if (b === 0) [width, height] = [12, a + 2]
    else if (b === 1) [width, height] = [a + 2, 12]
    else if (b === 2) {
      ;[width, height] = [a + 6, wide + 6]
      dual = precise = 0
    } else if (a === 0) [width, height] = [6, 10]
    else if (a === 1) [width, height] = [10, 6]
    else return null
  }
  const found = range < 2 ? undefined : ranges[range - 2 + 6 * precise]
  const count = width * height * (dual + 1)
  if (!found || count > 64) return null
  const bits = sequenceBits(count, found)
  return bits < 24 || bits > 96 ? null : { width, height, dual: dual === 1, range: found, bits }
}

interface Layout {
  partition: number
  modes: number[]
  coloursAt: number
  count: number
  range: Range
  /** Channel with weights of its own, or −1. */ apart: number
}

/**
 * Partitions, end point modes, and where the colours stand (sections 23.8 and 23.11); null where they do not
 * fit.
 */
function layoutOf(bits: (from: number, count: number) => number, grid: Grid): Layout | null {
  const partitions = bits(11, 2) + 1
  if (partitions === 4 && grid.dual) return null
  let below = 128 - grid.bits,
    modes: number[]
  if (partitions === 1) modes = [bits(13, 4)]
  else if (bits(23, 2) === 0) modes = Array.from({ length: partitions }, () => bits(25, 4))
  else {
    // Modes of each partition: some of their bits stand right below the weights
    const extra = 3 * partitions - 4,
      all = bits(23, 6) | (bits((below -= extra), extra) << 6),
      lowest = (all & 3) - 1
    modes = Array.from(
      { length: partitions },
      (_, p) => ((((all >> (2 + p)) & 1) + lowest) << 2) | ((all >> (2 + partitions + p * 2)) & 3),
    )
  }
  const apart = grid.dual ? bits((below -= 2), 2) : -1
  const coloursAt = partitions === 1 ? 17 : 29,
    count = modes.reduce((sum, m) => sum + valuesOfMode(m), 0)
  if (count > 18) return null
  const range = finestRange(count, below - coloursAt)
  return range ? { partition: bits(13, 10), modes, coloursAt, count, range, apart } : null
}

/** The finest range whose sequence fits; six levels are the least. */
function finestRange(count: number, bits: number): Range | null {
  for (let k = ranges.length - 1; k >= 4; k--) if (sequenceBits(count, ranges[k]!) <= bits) return ranges[k]!
  return null
}

/** The weight of a texel, between the four of the grid around it (section 23.18). */
function weightAt(
  stored: readonly number[],
  grid: Grid,
  size: Size,
  x: number,
  y: number,
  plane: number,
  planes: number,
): number {
  const place = (at: number, texels: number, weights: number): number =>
    (Math.floor((1024 + (texels >> 1)) / (texels - 1)) * at * (weights - 1) + 32) >> 6
  const gx = place(x, size.width, grid.width),
    gy = place(y, size.height, grid.height)
  const jx = gx >> 4,
    jy = gy >> 4,
    fx = gx & 15,
    fy = gy & 15
  const corner = (fx * fy + 8) >> 4
  const at = (dx: number, dy: number): number =>
    stored[((jy + dy) * grid.width + jx + dx) * planes + plane] ?? 0
  return (
    (at(0, 0) * (16 - fx - fy + corner) +
      at(1, 0) * (fx - corner) +
      at(0, 1) * (fy - corner) +
      at(1, 1) * corner +
      8) >>
    4
  )
}
