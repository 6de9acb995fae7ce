import { fullValue, type Pixels } from './pixels'
import { srgbToLinear } from './transferCurves'

/** Linear light by stored value of 8 bits. */
export const lightTable = (): Float64Array =>
  Float64Array.from({ length: 256 }, (_, v) => srgbToLinear(v / 255))

/**
 * A texel at a place of the sheet, 0 to 1: colour in linear light by a table, or as it is stored without one, and
 * plain alpha; without a picture all full. Grey counts for all colours.
 */
export function colourTexel(
  pixels: Pixels | null,
  u: number,
  v: number,
  light: Float64Array | null,
  out: number[],
): void {
  if (!pixels) return void out.fill(1)
  const { width, height, channels, data } = pixels,
    full = fullValue(pixels),
    at = (Math.floor(v * height) * width + Math.floor(u * width)) * channels
  const colours = channels < 3 ? 1 : 3
  for (let c = 0; c < 3; c++) {
    const value = data[at + Math.min(c, colours - 1)]!
    out[c] = !light ? value / full : full === 255 ? light[value]! : srgbToLinear(value / full)
  }
  out[3] = channels === 2 || channels === 4 ? data[at + channels - 1]! / full : 1
}
