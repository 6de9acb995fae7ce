/**
 * Stored values have no sign here: −1 becomes 0, 0 the middle, 1 the greatest number of 16 bits, as a normal
 * map without signs writes them.
 */
export const unsignedWord = (value: number): number =>
  Math.round(((Math.max(-1, Math.min(1, value)) + 1) / 2) * 65535)
