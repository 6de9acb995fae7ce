import { makeUnit, storeLight, toLight, type Meaning } from './lightValues'
import type { Pixels } from './pixels'

/** How texels are mixed, from the sharpest to none at all. */
export const resizeFilters = ['lanczos', 'mitchell', 'mean', 'nearest'] as const
export type ResizeFilter = (typeof resizeFilters)[number]

/**
 * Returns the picture in another size, by separable filtering: Lanczos (a = 3), Mitchell and Netravali (1988, B = C =
 * ⅓), the mean of what a texel covers, or the nearest texel; when shrinking the first two are widened by the same
 * factor. Colour is mixed in linear light and weighted by alpha, vectors are made unit long again. One flat value stays
 * that value exactly.
 */
export function resizePixels(
  pixels: Pixels,
  width: number,
  height: number,
  meaning: Meaning,
  filter: ResizeFilter = 'lanczos',
): Pixels {
  if (filter === 'nearest') return nearestTexels(pixels, width, height)
  const weigh = kernels[filter]
  const linear = toLight(pixels, meaning)
  const across = resample(
    linear,
    {
      length: pixels.width,
      count: pixels.height,
      channels: pixels.channels,
      step: pixels.channels,
      stride: pixels.width * pixels.channels,
    },
    width,
    weigh,
  )
  const down = resample(
    across,
    {
      length: pixels.height,
      count: width,
      channels: pixels.channels,
      step: width * pixels.channels,
      stride: pixels.channels,
    },
    height,
    weigh,
  )
  // The second pass writes column after column; it is turned back while values are rounded
  return fromColumns(down, { ...pixels, width, height }, meaning)
}

interface Lines {
  length: number
  count: number
  channels: number
  step: number
  stride: number
}

/** Filters each of `count` lines to `wanted` texels; the result holds line after line. */
function resample(
  source: Float32Array,
  { length, count, channels, step, stride }: Lines,
  wanted: number,
  { reach: texels, weight }: Kernel,
): Float32Array {
  const out = new Float32Array(count * wanted * channels)
  const scale = length / wanted,
    widened = Math.max(1, scale),
    reach = texels(scale)
  for (let i = 0; i < wanted; i++) {
    const centre = (i + 0.5) * scale - 0.5
    const from = Math.ceil(centre - reach - TOUCHING),
      to = Math.floor(centre + reach + TOUCHING)
    const weights: number[] = []
    let sum = 0
    for (let s = from; s <= to; s++) {
      const w = weight(s - centre, scale, widened)
      weights.push(w)
      sum += w
    }
    for (let line = 0; line < count; line++)
      for (let c = 0; c < channels; c++) {
        let value = 0
        for (let s = from; s <= to; s++)
          value +=
            weights[s - from]! * source[line * stride + Math.min(length - 1, Math.max(0, s)) * step + c]!
        out[(line * wanted + i) * channels + c] = value / sum
      }
  }
  return out
}

/** Rounding must not leave out a texel that the edge of the reach touches. */
const TOUCHING = 1e-9

/** A filter: how many texels of the source it reaches to either side, and what one of them weighs there. */
interface Kernel {
  reach: (scale: number) => number
  weight: (from: number, scale: number, widened: number) => number
}
const kernels: Record<Exclude<ResizeFilter, 'nearest'>, Kernel> = {
  lanczos: {
    reach: (scale) => 3 * Math.max(1, scale),
    weight: (from, _, widened) => lanczos(from / widened),
  },
  mitchell: {
    reach: (scale) => 2 * Math.max(1, scale),
    weight: (from, _, widened) => mitchell(from / widened),
  },
  // The part of a texel that lies in the one that is made of it
  mean: {
    reach: (scale) => (scale + 1) / 2,
    weight: (from, scale) => Math.max(0, Math.min(from + 0.5, scale / 2) - Math.max(from - 0.5, -scale / 2)),
  },
}

function nearestTexels(pixels: Pixels, width: number, height: number): Pixels {
  const { channels, data: source } = pixels
  const data = new (pixels.depth === 16 ? Uint16Array : Uint8Array)(width * height * channels)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from =
        Math.floor(((y + 0.5) * pixels.height) / height) * pixels.width +
        Math.floor(((x + 0.5) * pixels.width) / width)
      for (let c = 0; c < channels; c++) data[(y * width + x) * channels + c] = source[from * channels + c]!
    }
  return { ...pixels, width, height, data }
}

function mitchell(x: number): number {
  const a = Math.abs(x)
  if (a < 1) return (7 * a * a * a - 12 * a * a + 16 / 3) / 6
  return a < 2 ? ((-7 / 3) * a * a * a + 12 * a * a - 20 * a + 32 / 3) / 6 : 0
}

const lanczos = (x: number): number => {
  if (x === 0) return 1
  if (Math.abs(x) >= 3) return 0
  const p = Math.PI * x
  return (3 * Math.sin(p) * Math.sin(p / 3)) / (p * p)
}

/** Turns the columns back to rows and stores them; vectors are made unit long again. */
function fromColumns(columns: Float32Array, target: Pixels, meaning: Meaning): Pixels {
  const { width, height, channels } = target
  const data = new (target.depth === 16 ? Uint16Array : Uint8Array)(width * height * channels)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      const from = (x * height + y) * channels
      if (meaning === 'vectors' && channels >= 3) makeUnit(columns, from)
      storeLight(columns, from, target, meaning, data, (y * width + x) * channels)
    }
  return { ...target, data }
}
