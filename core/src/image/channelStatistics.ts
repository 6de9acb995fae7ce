import type { ChannelFacts } from '@stern-gate/contract'
import { fullValue, type Pixels } from './pixels'

const namesByCount: Record<number, ChannelFacts['name'][]> = { 1: ['grey'], 2: ['grey', 'A'], 3: ['R', 'G', 'B'], 4: ['R', 'G', 'B', 'A'] }

/** For each channel least, greatest, mean, deviation (0 to 1) and a histogram of 256 equal bins, over all texels. */
export function channelStatistics(pixels: Pixels): ChannelFacts[] {
  const names = namesByCount[pixels.channels] ?? []
  return names.map((name, channel) => statisticsOf(pixels, channel, name))
}

function statisticsOf(pixels: Pixels, channel: number, name: ChannelFacts['name']): ChannelFacts {
  const { data, channels } = pixels
  const full = fullValue(pixels)
  const counts = countValues(data, channel, channels, full)
  const texels = data.length / channels
  let min = -1, max = 0, sum = 0
  const histogram = new Array<number>(256).fill(0)
  for (let v = 0; v <= full; v++) {
    const n = counts[v]!
    if (n === 0) continue
    if (min < 0) min = v
    max = v
    sum += v * n
    histogram[full === 255 ? v : v >> 8]! += n
  }
  const mean = sum / texels
  let spread = 0
  for (let v = 0; v <= full; v++) if (counts[v]) spread += counts[v]! * (v - mean) ** 2
  return { name, min: Math.max(0, min) / full, max: max / full, mean: mean / full, deviation: Math.sqrt(spread / texels) / full, histogram }
}

/** Exact and in one pass: how often each stored value occurs. */
function countValues(data: Uint8Array | Uint16Array, channel: number, stride: number, full: number): Uint32Array {
  const counts = new Uint32Array(full + 1)
  for (let k = channel; k < data.length; k += stride) counts[data[k]!]!++
  return counts
}
