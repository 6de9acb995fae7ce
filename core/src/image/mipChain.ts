import { makeUnit, storeLight, toLight, type Meaning } from './lightValues'
import { alphaPlace, fullValue, type Pixels } from './pixels'

/**
 * All levels of a picture down to 1 × 1, itself first. Each is the mean of the texels that it stands for: colour in
 * linear light and weighted by alpha, vectors made unit long again, data as they are; an odd side takes three texels by
 * their share. With `cutoff` (0 to 1) alpha is scaled on every level so that as much of it is drawn as on the first.
 */
export function mipChain(pixels: Pixels, meaning: Meaning, cutoff: number | null = null): Pixels[] {
  const levels = [pixels]
  const alpha = alphaPlace(pixels.channels)
  const wanted = cutoff !== null && alpha >= 0 ? coverage(pixels, cutoff) : null
  let level: Level = { ...pixels, values: toLight(pixels, meaning) }
  while (level.width > 1 || level.height > 1) {
    level = halved(halved(level, 'across'), 'down')
    if (meaning === 'vectors' && level.channels >= 3)
      for (let k = 0; k < level.values.length; k += level.channels) makeUnit(level.values, k)
    const packedLevel = packed(level, pixels, meaning)
    levels.push(wanted !== null && wanted > 0 ? withCoverage(packedLevel, cutoff!, wanted) : packedLevel)
  }
  return levels
}

/** Share of texels that a cutout draws. */
export function coverage({ data, channels, depth }: Pixels, cutoff: number): number {
  const alpha = alphaPlace(channels)
  if (alpha < 0) return 1
  const least = cutoff * (depth === 16 ? 65535 : 255)
  let drawn = 0
  for (let k = alpha; k < data.length; k += channels) if (data[k]! >= least) drawn++
  return drawn / (data.length / channels)
}

/** Values 0 to 1 as they are mixed; colour multiplied by alpha. */
interface Level {
  width: number
  height: number
  channels: number
  values: Float32Array
}

/** Half as many texels one way, rounded down; one stays one. */
function halved({ width, height, channels, values }: Level, way: 'across' | 'down'): Level {
  const from = way === 'across' ? width : height
  if (from === 1) return { width, height, channels, values }
  const to = from >> 1
  const out = way === 'across' ? { width: to, height } : { width, height: to }
  const result = new Float32Array(out.width * out.height * channels)
  const step = way === 'across' ? channels : width * channels
  const lines = way === 'across' ? height : width,
    stride = way === 'across' ? width * channels : channels,
    outStep = way === 'across' ? channels : out.width * channels,
    outStride = way === 'across' ? out.width * channels : channels
  for (let i = 0; i < to; i++) {
    // Of an odd side each texel takes (from / to) of the ones before it: parts of three
    const [a, b, c] = from % 2 === 0 ? [0.5, 0.5, 0] : [(to - i) / from, to / from, (i + 1) / from]
    for (let line = 0; line < lines; line++) {
      const at = line * stride + 2 * i * step,
        into = line * outStride + i * outStep
      for (let k = 0; k < channels; k++)
        result[into + k] =
          a! * values[at + k]! + b! * values[at + step + k]! + (c ? c * values[at + 2 * step + k]! : 0)
    }
  }
  return { ...out, channels, values: result }
}

function packed({ width, height, channels, values }: Level, like: Pixels, meaning: Meaning): Pixels {
  const data = new (like.depth === 16 ? Uint16Array : Uint8Array)(values.length)
  for (let k = 0; k < values.length; k += channels) storeLight(values, k, like, meaning, data, k)
  return { ...like, width, height, data }
}

/** Alpha scaled until as much is drawn as is wanted, or as near as its values allow. */
function withCoverage(pixels: Pixels, cutoff: number, wanted: number): Pixels {
  const full = fullValue(pixels),
    alpha = alphaPlace(pixels.channels)
  const count = pixels.data.length / pixels.channels
  const sorted = new Float64Array(count)
  for (let t = 0; t < count; t++) sorted[t] = pixels.data[t * pixels.channels + alpha]!
  sorted.sort()
  // The value that so many texels reach has to come to lie on the threshold
  const reached = sorted[Math.min(count - 1, Math.max(0, count - Math.round(wanted * count)))]!
  if (reached <= 0 || Math.round(wanted * count) === 0) return pixels
  const scale = (cutoff * full) / reached
  const data = pixels.data.slice()
  for (let k = alpha; k < data.length; k += pixels.channels)
    data[k] = Math.min(full, Math.ceil(data[k]! * scale - 1e-9))
  return { ...pixels, data }
}
