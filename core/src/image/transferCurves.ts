/** sRGB value (0 to 1) to linear light; IEC 61966-2-1. */
export const srgbToLinear = (v: number): number => (v <= 0.04045 ? v / 12.92 : ((v + 0.055) / 1.055) ** 2.4)

/** Linear light (0 to 1) to sRGB value; IEC 61966-2-1. */
export const linearToSrgb = (v: number): number =>
  v <= 0.0031308 ? v * 12.92 : 1.055 * v ** (1 / 2.4) - 0.055
