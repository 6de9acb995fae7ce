import { channelStatistics } from './channelStatistics'
import { fullValue, type Pixels } from './pixels'

/** Returns the picture with its colour channels inverted, alpha kept. Twice gives the same bytes back. */
export function invertPixels(pixels: Pixels): Pixels {
  const full = fullValue(pixels),
    { channels } = pixels
  const data = pixels.data.slice()
  const colours = channels % 2 === 0 ? channels - 1 : channels
  for (let k = 0; k < data.length; k += channels)
    for (let c = 0; c < colours; c++) data[k + c] = full - data[k + c]!
  return { ...pixels, data }
}

/** Whether every texel is fully opaque; so is one without alpha. */
export function isAlphaFull(pixels: Pixels): boolean {
  const { channels, data } = pixels,
    full = fullValue(pixels)
  if (channels % 2 === 1) return true
  for (let k = channels - 1; k < data.length; k += channels) if (data[k] !== full) return false
  return true
}

/** Returns the picture without its alpha channel; one without alpha comes back as it is. */
export function dropAlphaChannel(pixels: Pixels): Pixels {
  const { channels, width, height } = pixels
  if (channels % 2 === 1) return pixels
  const kept = channels - 1
  const data = new (pixels.depth === 16 ? Uint16Array : Uint8Array)(width * height * kept)
  for (let t = 0; t < width * height; t++)
    for (let c = 0; c < kept; c++) data[t * kept + c] = pixels.data[t * channels + c]!
  return { ...pixels, channels: kept, data }
}

/** Returns a picture of `side` × `side` texels that all have the mean value of each channel. */
export function constantPixels(pixels: Pixels, side: number): Pixels {
  const { channels } = pixels,
    full = fullValue(pixels)
  const mean = channelStatistics(pixels).map((c) => Math.round(c.mean * full))
  const data = new (pixels.depth === 16 ? Uint16Array : Uint8Array)(side * side * channels)
  for (let k = 0; k < data.length; k++) data[k] = mean[k % channels]!
  return { ...pixels, width: side, height: side, data }
}
