import type { GroundFacts } from '@stern-gate/contract'
import { GROUND_NEAR } from './groundCells'
import { fullValue, type Pixels } from './pixels'
import type { SampledTexels } from './sampledTexels'

/** What fills a texture outside of its islands, and which of the sampled texels it is. */
export interface Ground {
  facts: GroundFacts
  /** For each sampled texel 1 where it is ground. */
  mask: Uint8Array
  /** Sampled texels that are not. */
  used: number
}

/** The sampled texels that are not ground, one after the other. */
export function withoutGround(sample: SampledTexels, { mask, used }: Ground): SampledTexels {
  const size = sample.bytes.length / sample.texels,
    bytes = new Uint8Array(used * size)
  let to = 0
  for (let t = 0; t < sample.texels; t++) {
    if (mask[t]) continue
    for (let k = 0; k < size; k++) bytes[to++] = sample.bytes[t * size + k]!
  }
  return { windows: [], texels: used, bytes }
}

/** A smaller share is no ground worth to leave out. */
const LEAST_SHARE = 0.04
/** Less than this beside the ground is not enough to judge a texture by. */
const LEAST_USED = 0.01
/** Texels whose neighbours are equal: above this share of what is not ground, flat areas are what it is about. */
const MOST_FLAT = 0.6
/** A ground is one value: so many of its texels equal their neighbour. Plateaus of a soft picture are less even. */
const LEAST_EVEN = 0.9
/** And it ends at the islands: for each of its texels at most so many are nearly of its value and not quite. */
const MOST_NEARLY = 0.28
/** Nearly: within this of 255, and farther than GROUND_NEAR. */
const NEARLY = 10
/** About so many texels are asked for the commonest value. */
const ASKED = 40_000

/**
 * Finds the flat value that fills a texture outside of its islands: what is clear, or the commonest value among
 * texels that equal their neighbours. Null where there is none, where hardly anything else is there, and where
 * the rest is flat as well: a mask is made of flat values, and none of them is its ground.
 */
export function findGround(pixels: Pixels, sample: SampledTexels): Ground | null {
  const texels = texelReader(pixels, sample)
  const clear = clearMask(pixels, texels, sample.texels)
  if (clear) return groundOf(clear, { kind: 'transparent', value: [] }, texels, sample)
  const value = commonestFlat(texels, sample)
  if (!value) return null
  const mask = new Uint8Array(sample.texels),
    kind = kindOf(value)
  let near = 0,
    nearly = 0
  for (let t = 0; t < sample.texels; t++) {
    let apart = 0
    for (let c = 0; c < texels.colours; c++) apart = Math.max(apart, Math.abs(texels.at(t, c) - value[c]!))
    if (apart <= GROUND_NEAR) near += mask[t] = 1
    else if (apart <= NEARLY) nearly++
  }
  // Level parts of a normal map go over into its slopes, and are left out all the same
  if (kind !== 'flat-normal' && (nearly > near * MOST_NEARLY || evenShare(texels, sample, mask) < LEAST_EVEN))
    return null
  return groundOf(mask, { kind, value }, texels, sample)
}

/** Values of the sampled texels, brought to 0 … 255 whatever their depth. */
export interface TexelReader {
  at: (texel: number, channel: number) => number
  /** Channels without alpha. */
  colours: number
}

export function texelReader(pixels: Pixels, { bytes }: SampledTexels): TexelReader {
  const { channels, depth } = pixels,
    colours = channels === 2 ? 1 : channels === 4 ? 3 : channels
  if (depth === 8) return { colours, at: (texel, channel) => bytes[texel * channels + channel]! }
  const scale = 255 / fullValue(pixels)
  const values = new Uint16Array(
    bytes.byteOffset % 2 === 0 ? bytes.buffer : bytes.slice().buffer,
    bytes.byteOffset % 2 === 0 ? bytes.byteOffset : 0,
    bytes.length >> 1,
  )
  return { colours, at: (texel, channel) => values[texel * channels + channel]! * scale }
}

/** Texels whose alpha is nothing; null without an alpha channel, and where none is clear. */
function clearMask({ channels }: Pixels, { at, colours }: TexelReader, n: number): Uint8Array | null {
  if (channels !== 2 && channels !== 4) return null
  const mask = new Uint8Array(n)
  let found = false
  for (let t = 0; t < n; t++)
    if (at(t, colours) < 0.5) {
      mask[t] = 1
      found = true
    }
  return found ? mask : null
}

function groundOf(
  mask: Uint8Array,
  { kind, value }: Pick<GroundFacts, 'kind' | 'value'>,
  texels: TexelReader,
  sample: SampledTexels,
): Ground | null {
  const share = count(mask) / sample.texels
  if (share < LEAST_SHARE || share > 1 - LEAST_USED) return null
  if (kind !== 'transparent' && flatShare(texels, sample, mask) > MOST_FLAT) return null
  const wide = widened(mask, sample),
    left = sample.texels - count(wide)
  // Islands of a few texels would be gone with their border
  const kept = left >= (sample.texels * (1 - share)) / 4 ? wide : mask
  return { facts: { kind, value, share, cells: null }, mask: kept, used: sample.texels - count(kept) }
}

const count = (mask: Uint8Array): number => mask.reduce((sum, m) => sum + m, 0)

/** Blocks of lossy packing mix an island's border with the ground. */
const BORDER = 4

/** The ground with a border of a few texels around it, within each window. */
function widened(mask: Uint8Array, { windows }: SampledTexels): Uint8Array {
  const out = mask.slice()
  let from = 0
  for (const { width, height } of windows) {
    spread(out, from, width, height, 1, width)
    spread(out, from, height, width, width, 1)
    from += width * height
  }
  return out
}

/** Spreads what is set along lines of `length` texels that lie `step` apart; in place. */
function spread(
  mask: Uint8Array,
  from: number,
  length: number,
  lines: number,
  step: number,
  next: number,
): void {
  for (let line = 0; line < lines; line++)
    for (const way of [1, -1]) {
      let since = BORDER + 1
      for (let k = way > 0 ? 0 : length - 1; k >= 0 && k < length; k += way) {
        const at = from + line * next + k * step
        if (mask[at] === 1) since = 0
        else if (++since <= BORDER) mask[at] = 2
      }
    }
  for (let line = 0; line < lines; line++)
    for (let k = 0; k < length; k++) {
      const at = from + line * next + k * step
      if (mask[at] === 2) mask[at] = 1
    }
}

function kindOf(value: readonly number[]): GroundFacts['kind'] {
  if (value.every((v) => v <= GROUND_NEAR)) return 'black'
  if (value.every((v) => v >= 255 - GROUND_NEAR)) return 'white'
  const [r, g, b] = value
  if (b !== undefined && Math.abs(r! - 127.5) <= 2 && Math.abs(g! - 127.5) <= 2 && b >= 250)
    return 'flat-normal'
  return 'flat'
}

/** Flat areas are at least so wide; the crest of a wave is not. */
const FLAT_WIDTH = 4

/** Walks sampled texels that have `reach` others to the left and above, every `step`-th of them. */
function eachInside(
  { windows }: SampledTexels,
  { step, reach }: { step: number; reach: number },
  visit: (texel: number, left: number, above: number) => void,
): void {
  let from = 0,
    turn = 0
  for (const { width, height } of windows) {
    for (let y = reach; y < height; y++)
      for (let x = reach; x < width; x++) {
        if (turn++ % step !== 0) continue
        const t = from + y * width + x
        visit(t, t - reach, t - reach * width)
      }
    from += width * height
  }
}

const isSame = ({ at, colours }: TexelReader, a: number, b: number, within: number): boolean => {
  for (let c = 0; c < colours; c++) if (Math.abs(at(a, c) - at(b, c)) > within) return false
  return true
}

const stepOf = (sample: SampledTexels): number => Math.max(1, Math.floor(sample.texels / ASKED))

/** The commonest value among texels that equal both neighbours, where it covers enough; in 0 … 255. */
function commonestFlat(texels: TexelReader, sample: SampledTexels): number[] | null {
  const counts = new Map<number, { count: number; sums: number[] }>()
  let asked = 0
  eachInside(sample, { step: stepOf(sample), reach: FLAT_WIDTH }, (t, left, above) => {
    asked++
    if (!isSame(texels, t, left, 0) || !isSame(texels, t, above, 0) || !isSame(texels, t, t - 1, 0)) return
    let key = 0
    for (let c = 0; c < texels.colours; c++) key = key * 64 + (Math.round(texels.at(t, c)) >> 2)
    const known = counts.get(key) ?? { count: 0, sums: Array<number>(texels.colours).fill(0) }
    known.count++
    for (let c = 0; c < texels.colours; c++) known.sums[c]! += texels.at(t, c)
    counts.set(key, known)
  })
  const common = [...counts.values()]
    .filter((entry) => entry.count >= asked * LEAST_SHARE)
    .sort((a, b) => b.count - a.count)
    .map((entry) => entry.sums.map((s) => s / entry.count))
  // Level parts of a normal map are common, too: another value is more likely to be its ground
  return common.find((value) => kindOf(value) !== 'flat-normal') ?? common[0] ?? null
}

const isLevel = ({ at, colours }: TexelReader, t: number): boolean =>
  colours === 3 && Math.abs(at(t, 0) - 127.5) <= 2 && Math.abs(at(t, 1) - 127.5) <= 2 && at(t, 2) >= 250

/** How far a vector's length may be from 1. */
const LENGTH_ERROR = 0.05
/** A picture of a few flat colours has fewer different ones that are vectors by chance. */
const MANY = 24

/** Blue above this was given up: the vector is told by red and green alone. */
const BLUE_GIVEN_UP = 0.96

/** A vector that faces out of the sheet, of unit length or without its blue: an even part of a normal map that leans. */
function isVector({ at, colours }: TexelReader, t: number): boolean {
  if (colours !== 3) return false
  const [x, y, z] = [0, 1, 2].map((c) => at(t, c) / 127.5 - 1) as [number, number, number]
  const isShort = z >= BLUE_GIVEN_UP && Math.hypot(x, y) <= 1
  return isShort || (z > 0 && Math.abs(Math.hypot(x, y, z) - 1) <= LENGTH_ERROR)
}

/** Among masked texels whose left neighbour is masked: the share that equals it. */
function evenShare(texels: TexelReader, sample: SampledTexels, mask: Uint8Array): number {
  let even = 0,
    all = 0
  eachInside(sample, { step: stepOf(sample), reach: 1 }, (t, left) => {
    if (!mask[t] || !mask[left]) return
    all++
    if (isSame(texels, t, left, 0)) even++
  })
  return all === 0 ? 1 : even / all
}

/**
 * Among texels that are not masked: the share that equals its left neighbour, which is not masked either. Even
 * parts of a normal map are no mask: level ones, and vectors of many directions.
 */
function flatShare(texels: TexelReader, sample: SampledTexels, mask: Uint8Array): number {
  const vectors = new Set<number>()
  let flat = 0,
    flatVectors = 0,
    all = 0
  eachInside(sample, { step: stepOf(sample), reach: 1 }, (t, left) => {
    if (mask[t] || mask[left] || isLevel(texels, t)) return
    all++
    if (!isSame(texels, t, left, 0)) return
    flat++
    if (!isVector(texels, t)) return
    flatVectors++
    vectors.add(((texels.at(t, 0) << 16) | (texels.at(t, 1) << 8) | texels.at(t, 2)) >>> 0)
  })
  if (vectors.size >= MANY) flat -= flatVectors
  return all === 0 ? 1 : flat / all
}
