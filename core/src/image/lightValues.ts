import { alphaPlace, fullValue, type Pixels } from './pixels'
import { linearToSrgb, srgbToLinear } from './transferCurves'

/**
 * What the values stand for while they are mixed: light under the sRGB curve, plain numbers, or unit vectors.
 */
export type Meaning = 'srgb' | 'linear' | 'vectors'

/** Values 0 to 1 as they are to be mixed: colour as linear light, multiplied by alpha. */
export function toLight(pixels: Pixels, meaning: Meaning): Float32Array {
  const { channels, data } = pixels
  const full = fullValue(pixels),
    alpha = alphaPlace(channels),
    isLight = meaning === 'srgb'
  const curve = Float32Array.from({ length: full + 1 }, (_, v) =>
    isLight ? srgbToLinear(v / full) : v / full,
  )
  const out = new Float32Array(data.length)
  for (let k = 0; k < out.length; k += channels) {
    const weight = alpha >= 0 ? data[k + alpha]! / full : 1
    for (let c = 0; c < channels; c++)
      out[k + c] = c === alpha ? weight : curve[data[k + c]!]! * (isLight ? weight : 1)
  }
  return out
}

/** Stores one mixed texel, whose channels begin at `from`, as values of `like`; cut to what fits. */
export function storeLight(
  values: ArrayLike<number>,
  from: number,
  like: Pixels,
  meaning: Meaning,
  into: Uint8Array | Uint16Array,
  at: number,
): void {
  const { channels } = like,
    full = fullValue(like),
    alpha = alphaPlace(channels)
  const weight = alpha >= 0 && meaning === 'srgb' ? Math.max(values[from + alpha]!, 1e-6) : 1
  for (let c = 0; c < channels; c++) {
    const v = values[from + c]!
    const own = c === alpha || meaning !== 'srgb' ? v : linearToSrgb(Math.min(1, Math.max(0, v / weight)))
    into[at + c] = Math.round(Math.min(1, Math.max(0, own)) * full)
  }
}

/** Makes the vector at `at` unit long; values 0 to 1 stand for −1 to 1, and nothing stays straight up. */
export function makeUnit(values: Float32Array | Float64Array, at: number): void {
  const x = values[at]! * 2 - 1,
    y = values[at + 1]! * 2 - 1,
    z = values[at + 2]! * 2 - 1
  const length = Math.sqrt(x * x + y * y + z * z)
  const [nx, ny, nz] = length > 1e-6 ? [x / length, y / length, z / length] : [0, 0, 1]
  values[at] = nx / 2 + 0.5
  values[at + 1] = ny / 2 + 0.5
  values[at + 2] = nz / 2 + 0.5
}
