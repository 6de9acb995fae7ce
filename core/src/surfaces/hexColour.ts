import { linearToSrgb, srgbToLinear } from '../image/transferCurves'

type Rgb = [number, number, number]

/** A colour as it is typed, #rrggbb in sRGB, in linear light, 0 to 1. */
export const linearOfHex = (hex: string): Rgb =>
  [1, 3, 5].map((at) => srgbToLinear(Number.parseInt(hex.slice(at, at + 2), 16) / 255)) as Rgb

/** A colour in linear light as it is typed; what lies outside of 0 to 1 is cut. */
export const hexOfLinear = (rgb: readonly number[]): string =>
  `#${rgb
    .slice(0, 3)
    .map((v) =>
      Math.round(linearToSrgb(Math.min(1, Math.max(0, v))) * 255)
        .toString(16)
        .padStart(2, '0'),
    )
    .join('')}`
