import { fullValue, type Pixels } from './pixels'
import { resizePixels } from './resizePixels'

/** One channel of a picture: R, G, B, A of its own; of a grey one R, G and B are the same. */
export type ChannelName = 'R' | 'G' | 'B' | 'A'

/** What goes into one channel: that of a picture, the other way round or not, or one value from 0 to 1. */
export type ChannelSource = { pixels: Pixels; channel: ChannelName; inverted: boolean } | number

/** Place of a channel among those of a texel; −1: the picture has no such alpha, which is full then. */
function placeOf({ channels }: Pixels, channel: ChannelName): number {
  if (channel === 'A') return channels % 2 === 0 ? channels - 1 : -1
  return channels < 3 ? 0 : 'RGB'.indexOf(channel)
}

/** One channel of a picture as values from 0 to 65,535, so that 16 bits stay 16 bits. */
function channelValues(
  { pixels, channel, inverted }: Exclude<ChannelSource, number>,
  width: number,
  height: number,
) {
  const sized =
    pixels.width === width && pixels.height === height
      ? pixels
      : resizePixels(pixels, width, height, 'linear')
  const place = placeOf(sized, channel),
    step = sized.depth === 16 ? 1 : 257
  return Uint16Array.from({ length: width * height }, (_, t) => {
    const value = place < 0 ? 65535 : sized.data[t * sized.channels + place]! * step
    return inverted ? 65535 - value : value
  })
}

/**
 * Puts channels of several pictures into one picture of as many channels as there are sources. It is as large as
 * the largest of them, the others are brought to that by filtering; it has 16 bits where one of them has.
 */
export function packChannels(sources: readonly ChannelSource[]): Pixels {
  const pictures = sources.flatMap((s) => (typeof s === 'number' ? [] : [s.pixels]))
  const width = Math.max(1, ...pictures.map((p) => p.width)),
    height = Math.max(1, ...pictures.map((p) => p.height))
  const depth = pictures.some((p) => p.depth === 16) ? 16 : 8
  const channels = sources.length,
    count = width * height
  const data = depth === 16 ? new Uint16Array(count * channels) : new Uint8Array(count * channels)
  const full = fullValue({ depth } as Pixels)
  sources.forEach((source, c) => {
    const values = typeof source === 'number' ? null : channelValues(source, width, height)
    const same = typeof source === 'number' ? Math.round(source * full) : 0
    for (let t = 0; t < count; t++)
      data[t * channels + c] = values ? Math.round((values[t]! / 65535) * full) : same
  })
  return { width, height, channels, depth, data }
}

/** A value counts as none or full within this share of the range. */
const NEAR_END = 8 / 255
/** So much of a two-valued channel stands at its ends. */
const TWO_VALUED = 0.98

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
