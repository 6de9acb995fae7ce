import { alphaPlace, fullValue, type Pixels } from '../image/pixels'

/** Red, green, blue and alpha, 0 to 255. */
export type Texel = [number, number, number, number]

/** Gives the nearest texel of a picture that is repeated over the sheet; the answer is filled anew at every call. */
export function repeatedTexels(picture: Pixels): (u: number, v: number) => Texel {
  const { width, height, channels, data } = picture,
    scale = 255 / fullValue(picture),
    alpha = alphaPlace(channels),
    [green, blue] = channels < 3 ? [0, 0] : [1, 2]
  const texel: Texel = [0, 0, 0, 255]
  return (u, v) => {
    const x = Math.min(width - 1, Math.floor((u - Math.floor(u)) * width)),
      y = Math.min(height - 1, Math.floor((v - Math.floor(v)) * height))
    const at = (y * width + x) * channels
    texel[0] = (data[at] ?? 0) * scale
    texel[1] = (data[at + green!] ?? 0) * scale
    texel[2] = (data[at + blue!] ?? 0) * scale
    if (alpha >= 0) texel[3] = (data[at + alpha] ?? 0) * scale
    return texel
  }
}
