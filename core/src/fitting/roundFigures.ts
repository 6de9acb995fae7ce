/** Steps that a person writes limits in. */
const STEPS = [1, 1.2, 1.5, 2, 2.5, 3, 4, 5, 6, 8, 10]

/** The least such figure that is not below. Positive values. */
export function figureAbove(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value))
  const step = STEPS.find((s) => s * power >= value * (1 - 1e-9))!
  return Number((step * power).toPrecision(2))
}

/** The greatest such figure that is not above. */
export function figureBelow(value: number): number {
  const power = 10 ** Math.floor(Math.log10(value))
  const step = [...STEPS].reverse().find((s) => s * power <= value * (1 + 1e-9))!
  return Number((step * power).toPrecision(2))
}

/** Nearest power of two. */
export const nearestPowerOfTwo = (value: number): number => 2 ** Math.round(Math.log2(value))

/** Value below which this share of them lies; of a list that is not empty. */
export function quantile(values: readonly number[], share: number): number {
  const sorted = [...values].sort((a, b) => a - b)
  return sorted[Math.min(sorted.length - 1, Math.ceil(share * sorted.length) - 1)]!
}
