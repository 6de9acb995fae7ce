import { fullValue, type Pixels } from './pixels'

/**
 * Returns the picture with one channel turned: v becomes full − v. Twice gives the same bytes back. The input
 * is not changed.
 */
export function flipChannel(pixels: Pixels, channel: number): Pixels {
  const full = fullValue(pixels)
  const data = pixels.data.slice()
  for (let k = channel; k < data.length; k += pixels.channels) data[k] = full - data[k]!
  return { ...pixels, data }
}
