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
  if (data instanceof Uint8Array) countBytes(data, counts)
  else countSingly(data, counts, 0)
  return counts
}

const PAIRS = 65_536

/**
 * Counts pairs of neighbouring bytes, each pair in the table of its place in the texel, and takes the tables apart at the end: half the
 * reads and increments, and no waiting for the last increment of the same value in flat pictures.
 */
function countBytes(data: Uint8Array, counts: readonly Uint32Array[]): void {
  const channels = counts.length, tables = channels === 3 ? 3 : channels === 4 ? 2 : 1
  const pairs = data.byteOffset % 2 === 0 ? new Uint16Array(data.buffer, data.byteOffset, data.length >> 1) : new Uint16Array(data.slice().buffer, 0, data.length >> 1)
  const table = new Uint32Array(PAIRS * tables)
  const n = pairs.length - (pairs.length % tables)
  if (tables === 1) for (let i = 0; i < n; i++) table[pairs[i]!]!++
  else if (tables === 2)
    for (let i = 0; i < n; i += 2) {
      table[pairs[i]!]!++
      table[PAIRS + pairs[i + 1]!]!++
    }
  else
    for (let i = 0; i < n; i += 3) {
      table[pairs[i]!]!++
      table[PAIRS + pairs[i + 1]!]!++
      table[2 * PAIRS + pairs[i + 2]!]!++
    }
  for (let t = 0; t < tables; t++) takeApart(table.subarray(t * PAIRS, (t + 1) * PAIRS), counts[(2 * t) % channels]!, counts[(2 * t + 1) % channels]!)
  countSingly(data, counts, n * 2)
}

/** The low byte of a pair stands first: every machine with a JavaScript engine stores little end first. */
function takeApart(table: Uint32Array, first: Uint32Array, second: Uint32Array): void {
  for (let pair = 0; pair < PAIRS; pair++)
    if (table[pair] !== 0) {
      first[pair & 255]! += table[pair]!
      second[pair >> 8]! += table[pair]!
    }
}

function countSingly(data: Pixels['data'], counts: readonly Uint32Array[], from: number): void {
  for (let k = from, channel = from % counts.length; k < data.length; k++) {
    counts[channel]![data[k]!]!++
    if (++channel === counts.length) channel = 0
  }
}
