import { fullValue, type Pixels } from './pixels'
import { linearToSrgb, srgbToLinear } from './transferCurves'

/**
 * What the values stand for while they are mixed: light under the sRGB curve, plain numbers, or unit vectors.
 */
export type Meaning = 'srgb' | 'linear' | 'vectors'

/**
 * Returns the picture in another size, by separable Lanczos filtering (a = 3; when shrinking the filter is
 * widened by the same factor). Colour is mixed in linear light and weighted by alpha, vectors are made unit
 * long again. One flat value stays that value exactly.
 */
export function resizePixels(pixels: Pixels, width: number, height: number, meaning: Meaning): Pixels {
  const linear = toFloats(pixels, meaning)
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
  return fromFloats(down, { ...pixels, width, height }, meaning)
}

const alphaOf = (channels: number): number => (channels % 2 === 0 ? channels - 1 : -1)

function toFloats(pixels: Pixels, meaning: Meaning): Float32Array {
  const full = fullValue(pixels),
    alpha = alphaOf(pixels.channels)
  const curve = Float32Array.from({ length: full + 1 }, (_, v) =>
    meaning === 'srgb' ? srgbToLinear(v / full) : v / full,
  )
  const out = new Float32Array(pixels.data.length)
  for (let k = 0; k < out.length; k += pixels.channels) {
    const weight = alpha >= 0 ? pixels.data[k + alpha]! / full : 1
    for (let c = 0; c < pixels.channels; c++)
      out[k + c] = c === alpha ? weight : curve[pixels.data[k + c]!]! * (meaning === 'srgb' ? weight : 1)
  }
  return out
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

function fromFloats(columns: Float32Array, target: Pixels, meaning: Meaning): Pixels {
  const { width, height, channels } = target
  const full = fullValue(target),
    alpha = alphaOf(channels)
  const data = new (target.depth === 16 ? Uint16Array : Uint8Array)(width * height * channels)
  const texel = new Float64Array(channels)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) {
      for (let c = 0; c < channels; c++) texel[c] = columns[(x * height + y) * channels + c]!
      if (meaning === 'vectors' && channels >= 3) makeUnit(texel)
      const weight = alpha >= 0 && meaning === 'srgb' ? Math.max(texel[alpha]!, 1e-6) : 1
      for (let c = 0; c < channels; c++) {
        const v =
          c === alpha
            ? texel[c]!
            : meaning === 'srgb'
              ? linearToSrgb(Math.max(0, texel[c]! / weight))
              : texel[c]!
        data[(y * width + x) * channels + c] = Math.round(Math.min(1, Math.max(0, v)) * full)
      }
    }
  return { ...target, data }
}

/** Values 0 to 1 that stand for −1 to 1; nothing stays straight up. */
function makeUnit(texel: Float64Array): void {
  const x = texel[0]! * 2 - 1,
    y = texel[1]! * 2 - 1,
    z = texel[2]! * 2 - 1
  const length = Math.hypot(x, y, z)
  const [nx, ny, nz] = length > 1e-6 ? [x / length, y / length, z / length] : [0, 0, 1]
  texel[0] = nx / 2 + 0.5
  texel[1] = ny / 2 + 0.5
  texel[2] = nz / 2 + 0.5
}
