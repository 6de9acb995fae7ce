import type { FloatFacts, Outcome, TextureHeader } from '@stern-gate/contract'

/**
 * A decoded picture: rows from the top, channels interleaved, 1 to 4 channels, values 0 … 255 or 0 … 65535.
 */
export interface Pixels {
  width: number
  height: number
  channels: number
  depth: 8 | 16
  data: Uint8Array | Uint16Array
  /** What the values were before they were cut to 0 … 1; only of floating-point formats. */
  floats?: FloatFacts
}

/**
 * Port: decoding is done outside core. Colour profiles and gamma must not be applied: the stored values are
 * wanted.
 */
export type DecodeImage = (bytes: Uint8Array, header: TextureHeader) => Promise<Outcome<Pixels>>

/** Port: writes a PNG of the pixels as they are, with no colour chunks. */
export type EncodePng = (pixels: Pixels) => Promise<Uint8Array>

/** Place of alpha among so many channels; −1: there is none. */
export const alphaPlace = (channels: number): number => (channels % 2 === 0 ? channels - 1 : -1)

/** Greatest value of a channel. */
export const fullValue = (pixels: Pixels): number => (pixels.depth === 16 ? 65535 : 255)
