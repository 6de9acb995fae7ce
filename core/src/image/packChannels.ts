import { alphaPlace, fullValue, type Pixels } from './pixels'
import { resizePixels } from './resizePixels'

/** One channel of a picture: R, G, B, A of its own; of a grey one R, G and B are the same. */
export type ChannelName = 'R' | 'G' | 'B' | 'A'

/** What goes into one channel: that of a picture, the other way round or not, or one value from 0 to 1. */
export type ChannelSource = { pixels: Pixels; channel: ChannelName; inverted: boolean } | number

/** Place of a channel among those of a texel; −1: the picture has no such alpha, which is full then. */
function placeOf({ channels }: Pixels, channel: ChannelName): number {
  if (channel === 'A') return alphaPlace(channels)
  return channels < 3 ? 0 : 'RGB'.indexOf(channel)
}

/**
 * Puts channels of several pictures into one picture of as many channels as there are sources. It is as large as
 * the largest of them, the others are brought to that by filtering; it has 16 bits where one of them has.
 */
export function packChannels(sources: readonly ChannelSource[]): Pixels {
  const pictures = sources.flatMap((s) => (typeof s === 'number' ? [] : [s.pixels]))
  const width = Math.max(1, ...pictures.map((p) => p.width)),
    height = Math.max(1, ...pictures.map((p) => p.height)),
    depth = pictures.some((p) => p.depth === 16) ? 16 : 8
  const channels = sources.length,
    count = width * height
  const data = new (depth === 16 ? Uint16Array : Uint8Array)(count * channels)
  const packed: Pixels = { width, height, channels, depth, data }
  const sized = new Map([...new Set(pictures)].map((p) => [p, sizedTo(p, packed)]))
  sources.forEach((source, at) => {
    if (typeof source === 'number') {
      const value = Math.round(source * fullValue(packed))
      for (let k = at; k < data.length; k += channels) data[k] = value
    } else copyChannel(sized.get(source.pixels)!, source, packed, at)
  })
  return packed
}

const sizedTo = (pixels: Pixels, { width, height }: Pixels): Pixels =>
  pixels.width === width && pixels.height === height ? pixels : resizePixels(pixels, width, height, 'linear')

/** Copies one channel, turned where that is asked, from 8 to 16 bits where the target has them. */
function copyChannel(
  from: Pixels,
  { channel, inverted }: Exclude<ChannelSource, number>,
  target: Pixels,
  at: number,
): void {
  const place = placeOf(from, channel),
    full = fullValue(target),
    // 255 becomes 65,535
    scale = full / fullValue(from)
  for (let k = at, own = place; k < target.data.length; k += target.channels, own += from.channels) {
    const value = place < 0 ? full : from.data[own]! * scale
    target.data[k] = inverted ? full - value : value
  }
}

/** A value counts as none or full within this share of the range. */
const NEAR_END = 8 / 255
/** So much of a two-valued channel stands at its ends. */
export const TWO_VALUED = 0.98

/** What an alpha channel asks for: nothing where it is full, a cutout where it is two-valued, else blending. */
export function alphaModeOf(pixels: Pixels): 'opaque' | 'cutout' | 'blend' {
  const { channels, data } = pixels,
    full = fullValue(pixels)
  if (channels % 2 === 1) return 'opaque'
  let ends = 0,
    least = full
  for (let k = channels - 1; k < data.length; k += channels) {
    const value = data[k]!
    if (value < least) least = value
    if (value <= NEAR_END * full || value >= (1 - NEAR_END) * full) ends++
  }
  if (least === full) return 'opaque'
  return ends >= (TWO_VALUED * data.length) / channels ? 'cutout' : 'blend'
}
