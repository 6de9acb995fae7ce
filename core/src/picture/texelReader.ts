import { alphaPlace, fullValue, type Pixels } from '../image/pixels'
import { srgbToLinear } from '../image/transferCurves'

/** Writes red, green, blue and alpha at a place of a picture. */
export type TexelReader = (u: number, v: number, out: number[]) => void

/** Reads a picture between its texels, repeated over the sheet, 0 to 1; colours in linear light. Grey counts for all. */
export function texelReader(picture: Pixels, isColour: boolean): TexelReader {
  const { width, height, channels, data } = picture,
    full = fullValue(picture),
    alpha = alphaPlace(channels)
  const linear = Float32Array.from({ length: full + 1 }, (_, value) =>
    isColour ? srgbToLinear(value / full) : value / full,
  )
  const place = (c: number): number => (c === 3 ? alpha : channels < 3 ? 0 : c)
  const round = (n: number, size: number): number => ((n % size) + size) % size
  return (u, v, out) => {
    const x = u * width - 0.5,
      y = v * height - 0.5
    const x0 = Math.floor(x),
      y0 = Math.floor(y)
    const [fx, fy] = [x - x0, y - y0]
    const columns = [round(x0, width), round(x0 + 1, width)],
      rows = [round(y0, height), round(y0 + 1, height)]
    for (let c = 0; c < 4; c++) {
      const from = place(c)
      if (from < 0) {
        out[c] = 1
        continue
      }
      const at = (column: number, row: number): number => {
        const value = data[(rows[row]! * width + columns[column]!) * channels + from]!
        return c === 3 ? value / full : linear[value]!
      }
      const top = at(0, 0) + (at(1, 0) - at(0, 0)) * fx,
        bottom = at(0, 1) + (at(1, 1) - at(0, 1)) * fx
      out[c] = top + (bottom - top) * fy
    }
  }
}
