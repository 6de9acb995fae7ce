import { makeUnit, storeLight, toLight, type Meaning } from './lightValues'
import type { Pixels } from './pixels'

/**
 * Returns the picture in another size, by separable Lanczos filtering (a = 3; when shrinking the filter is
 * widened by the same factor). Colour is mixed in linear light and weighted by alpha, vectors are made unit
 * long again. One flat value stays that value exactly.
 */
export function resizePixels(pixels: Pixels, width: number, height: number, meaning: Meaning): Pixels {
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
): Float32Array {
  const out = new Float32Array(count * wanted * channels)
  const scale = length / wanted,
    reach = 3 * Math.max(1, scale)
  for (let i = 0; i < wanted; i++) {
    const centre = (i + 0.5) * scale - 0.5
    const from = Math.ceil(centre - reach),
      to = Math.floor(centre + reach)
    const weights: number[] = []
    let sum = 0
    for (let s = from; s <= to; s++) {
      const w = lanczos((s - centre) / Math.max(1, scale))
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
