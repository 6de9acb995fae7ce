import type { FloatFacts } from '@stern-gate/contract'
import type { Pixels } from './pixels'

/**
 * Pixels of floating-point values, rows from the top: cut to 0 … 1 and kept in 16 bits; how far they went
 * beyond stands beside.
 */
export function cutFloats(
  width: number,
  height: number,
  channels: number,
  values: ArrayLike<number>,
): Pixels {
  const data = new Uint16Array(width * height * channels)
  const floats: FloatFacts = { min: Infinity, max: -Infinity, above: 0, below: 0, notFinite: 0 }
  for (let k = 0; k < data.length; k++) {
    const value = values[k]!
    if (!Number.isFinite(value)) floats.notFinite++
    else {
      if (value < floats.min) floats.min = value
      if (value > floats.max) floats.max = value
      if (value > 1) floats.above++
      if (value < 0) floats.below++
    }
    data[k] = value > 0 ? Math.round(Math.min(1, value) * 65535) : 0
  }
  const none = floats.min === Infinity
  return {
    width,
    height,
    channels,
    depth: 16,
    data,
    floats: {
      ...floats,
      min: none ? 0 : floats.min,
      max: none ? 0 : floats.max,
      above: floats.above / data.length,
      below: floats.below / data.length,
    },
  }
}

/** Value of a 16-bit floating-point number (IEEE 754 binary16). */
function halfValue(bits: number): number {
  const exponent = (bits >> 10) & 31,
    fraction = bits & 1023,
    sign = bits & 0x8000 ? -1 : 1
  if (exponent === 0) return sign * fraction * 2 ** -24
  if (exponent === 31) return fraction === 0 ? sign * Infinity : NaN
  return sign * (1024 + fraction) * 2 ** (exponent - 25)
}

let halves: Float32Array | null = null

/** The values of all 16-bit floating-point numbers, by their bits. */
export const halfValues = (): Float32Array =>
  (halves ??= Float32Array.from({ length: 65536 }, (_, bits) => halfValue(bits)))
