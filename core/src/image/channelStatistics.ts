import type { ChannelFacts } from '@stern-gate/contract'
import { seededNumbers } from '../geometry/surfaceSamples'
import { byteSums } from './byteSums'
import { countBytes } from './countBytes'
import { fullValue, type Pixels } from './pixels'

const namesByCount: Record<number, ChannelFacts['name'][]> = {
  1: ['grey'],
  2: ['grey', 'A'],
  3: ['R', 'G', 'B'],
  4: ['R', 'G', 'B', 'A'],
}

/** Histograms of pictures up to this many texels are counted whole. */
const WHOLE_UP_TO = 2048 * 2048
/** Of larger ones one run of 96 texels in each stretch of sixteen such runs, at a seeded place. */
const RUN = 96
const STRETCH = 16
const SEED = 104_729

/**
 * For each channel least, greatest, mean, deviation (0 to 1), exact over all texels, and a histogram of 256
 * equal bins. The histogram of a picture of 8 bits with more than 2048² texels is that of a sixteenth of
 * them: a share p of it deviates from the true one by at most √(p (1 − p) / n) with n runs, 0.5 % for 4096²,
 * and by less where the texels of a run differ. Two channels are grey with alpha, unless they are said to be a pair.
 */
export function channelStatistics(
  pixels: Pixels,
  two: 'grey and alpha' | 'pair' = 'grey and alpha',
): ChannelFacts[] {
  const names: readonly ChannelFacts['name'][] =
    two === 'pair' && pixels.channels === 2 ? ['R', 'G'] : (namesByCount[pixels.channels] ?? [])
  const full = fullValue(pixels)
  const texels = pixels.data.length / pixels.channels
  const { data } = pixels
  if (data instanceof Uint8Array && texels > WHOLE_UP_TO) return sampledStatistics(data, names, texels)
  return countValues(pixels, full).map((counts, channel) =>
    statisticsOf(counts, names[channel]!, full, texels),
  )
}

function sampledStatistics(
  data: Uint8Array,
  names: readonly ChannelFacts['name'][],
  texels: number,
): ChannelFacts[] {
  const random = seededNumbers(SEED),
    run = RUN * names.length
  const { sums, counts } = byteSums(data, names.length, {
    every: run * STRETCH,
    length: run,
    next: () => Math.floor(random() * STRETCH) * run,
  })
  return sums.map(({ least, greatest, sum, squares }, channel) => {
    const mean = sum / texels
    return {
      name: names[channel]!,
      min: least / 255,
      max: greatest / 255,
      mean: mean / 255,
      deviation: Math.sqrt(Math.max(0, squares / texels - mean * mean)) / 255,
      histogram: Array.from(counts[channel]!),
    }
  })
}

function statisticsOf(
  counts: Uint32Array,
  name: ChannelFacts['name'],
  full: number,
  texels: number,
): ChannelFacts {
  let min = -1,
    max = 0,
    sum = 0
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
  return {
    name,
    min: Math.max(0, min) / full,
    max: max / full,
    mean: mean / full,
    deviation: Math.sqrt(spread / texels) / full,
    histogram,
  }
}

/** Exact and in one pass: how often each stored value occurs, by channel. */
function countValues({ data, channels }: Pixels, full: number): Uint32Array[] {
  if (data instanceof Uint8Array) return countBytes(data, channels)
  const counts = Array.from({ length: channels }, () => new Uint32Array(full + 1))
  for (let k = 0, channel = 0; k < data.length; k++) {
    counts[channel]![data[k]!]!++
    if (++channel === channels) channel = 0
  }
  return counts
}
