import { seededNumbers } from '../geometry/surfaceSamples'
import { alphaPlace, fullValue, type Pixels } from './pixels'
import { putUnit, reorient, vectorAt, type Vector } from './normalPixels'
import { linearToSrgb, srgbToLinear } from './transferCurves'

/** Values of one channel, or of all but alpha, brought from 0 … 1 to `least` … `most`: the same map, in another range. */
export function withRange(pixels: Pixels, channel: number | null, least: number, most: number): Pixels {
  const { channels } = pixels,
    full = fullValue(pixels)
  const alpha = alphaPlace(channels)
  const data = pixels.data.slice()
  for (let k = 0; k < data.length; k++) {
    const c = k % channels
    if (channel === null ? c === alpha : c !== channel) continue
    data[k] = Math.round(Math.min(1, Math.max(0, least + (most - least) * (data[k]! / full))) * full)
  }
  return { ...pixels, data }
}

/** Slopes of a normal map made so many times steeper or flatter; 0 is flat, 1 gives the same directions. */
export function withStrength(pixels: Pixels, strength: number): Pixels {
  const { channels } = pixels,
    half = fullValue(pixels) / 2
  const data = pixels.data.slice(),
    v: Vector = [0, 0, 1]
  for (let k = 0; k + 2 < data.length; k += channels) {
    vectorAt(pixels, k, half, v)
    // A slope is x / z: it grows with x and y alone. What points away from the sheet stays on its side
    v[0] *= strength
    v[1] *= strength
    putUnit(data, k, half, v)
  }
  return { ...pixels, data }
}

/** Normal map of three channels whose third is what the first two leave: z = √(1 − x² − y²). */
export function withThird(pixels: Pixels): Pixels {
  const { width, height, channels, depth } = pixels,
    half = fullValue(pixels) / 2
  const data = new (depth === 16 ? Uint16Array : Uint8Array)(width * height * 3)
  for (let t = 0; t < width * height; t++) {
    const x = pixels.data[t * channels]! / half - 1,
      y = pixels.data[t * channels + 1]! / half - 1
    const z = Math.sqrt(Math.max(0, 1 - x * x - y * y))
    data[t * 3] = pixels.data[t * channels]!
    data[t * 3 + 1] = pixels.data[t * channels + 1]!
    data[t * 3 + 2] = Math.round((z + 1) * half)
  }
  return { width, height, channels: 3, depth, data }
}

/**
 * A detail laid over a base normal map, vector by vector. The detail repeats so many times; its strength scales its
 * slopes first.
 */
export function withDetail(base: Pixels, detail: Pixels, repeats: number, strength: number): Pixels {
  const half = fullValue(base) / 2,
    own = fullValue(detail) / 2
  const data = base.data.slice()
  const t: Vector = [0, 0, 1],
    u: Vector = [0, 0, 1]
  for (let y = 0; y < base.height; y++)
    for (let x = 0; x < base.width; x++) {
      const k = (y * base.width + x) * base.channels
      const dx = Math.floor(((x + 0.5) / base.width) * repeats * detail.width) % detail.width,
        dy = Math.floor(((y + 0.5) / base.height) * repeats * detail.height) % detail.height
      vectorAt(base, k, half, t)
      vectorAt(detail, (dy * detail.width + dx) * detail.channels, own, u)
      reorient(t, u, strength, t)
      putUnit(data, k, half, t)
    }
  return { ...base, data }
}

/**
 * The picture with an alpha made of itself: of one channel as it stands, or of the grey of its colour (Rec. 709 in
 * linear light, given back under the sRGB curve as the eye takes it). `inverted` turns dark into opaque.
 */
export function withAlphaOf(pixels: Pixels, from: number | 'grey', inverted: boolean): Pixels {
  const { width, height, channels, depth, data: source } = pixels,
    full = fullValue(pixels)
  const colours = channels < 3 ? 1 : 3
  const data = new (depth === 16 ? Uint16Array : Uint8Array)(width * height * (colours + 1))
  for (let t = 0; t < width * height; t++) {
    const at = t * channels
    for (let c = 0; c < colours; c++) data[t * (colours + 1) + c] = source[at + c]!
    const value =
      from !== 'grey'
        ? source[at + Math.min(from, channels - 1)]!
        : colours === 1
          ? source[at]!
          : Math.round(
              linearToSrgb(
                0.2126 * srgbToLinear(source[at]! / full) +
                  0.7152 * srgbToLinear(source[at + 1]! / full) +
                  0.0722 * srgbToLinear(source[at + 2]! / full),
              ) * full,
            )
    data[t * (colours + 1) + colours] = inverted ? full - value : value
  }
  return { width, height, channels: colours + 1, depth, data }
}

const SEED = 20_261_130

/** 16 bits as 8, with a seeded dither of one step (triangular noise), so that soft slopes show no steps. */
export function toEightBits(pixels: Pixels): Pixels {
  if (pixels.depth === 8) return pixels
  const random = seededNumbers(SEED)
  const data = Uint8Array.from(pixels.data, (v) => {
    // The ends stay what they are: full is full, nothing is nothing
    if (v === 0 || v === 65535) return v / 257
    return Math.min(255, Math.max(0, Math.round(v / 257 + (random() + random() - 1))))
  })
  return { ...pixels, depth: 8, data }
}
