import type { ChannelFacts } from '@stern-gate/contract'
import { fullValue, type Pixels } from './pixels'

const namesByCount: Record<number, ChannelFacts['name'][]> = { 1: ['grey'], 2: ['grey', 'A'], 3: ['R', 'G', 'B'], 4: ['R', 'G', 'B', 'A'] }

/** For each channel least, greatest, mean, deviation (0 to 1) and a histogram of 256 equal bins, over all texels. */
export function channelStatistics(pixels: Pixels): ChannelFacts[] {
  const names = namesByCount[pixels.channels] ?? []
  const full = fullValue(pixels)
  const texels = pixels.data.length / pixels.channels
  return countValues(pixels, full).map((counts, channel) => statisticsOf(counts, names[channel]!, full, texels))
}

function statisticsOf(counts: Uint32Array, name: ChannelFacts['name'], full: number, texels: number): ChannelFacts {
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

/** Exact and in one pass: how often each stored value occurs, by channel. */
function countValues({ data, channels }: Pixels, full: number): Uint32Array[] {
  const counts = Array.from({ length: channels }, () => new Uint32Array(full + 1))
  const [a, b, c, d] = counts as [Uint32Array, Uint32Array, Uint32Array, Uint32Array]
  const n = data.length
  // Written out by channel count: an inner loop over channels takes more than twice as long
  if (channels === 1) for (let k = 0; k < n; k++) a[data[k]!]!++
  else if (channels === 2)
    for (let k = 0; k < n; k += 2) {
      a[data[k]!]!++
      b[data[k + 1]!]!++
    }
  else if (channels === 3)
    for (let k = 0; k < n; k += 3) {
      a[data[k]!]!++
      b[data[k + 1]!]!++
      c[data[k + 2]!]!++
    }
  else
    for (let k = 0; k < n; k += 4) {
      a[data[k]!]!++
      b[data[k + 1]!]!++
      c[data[k + 2]!]!++
      d[data[k + 3]!]!++
    }
  return counts
}
