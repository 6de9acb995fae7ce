import type { ChannelFacts } from '@stern-gate/contract'
import { seededNumbers } from '../geometry/surfaceSamples'
import { byteSums } from './byteSums'
import { fullValue, type Pixels } from './pixels'

const namesByCount: Record<number, ChannelFacts['name'][]> = { 1: ['grey'], 2: ['grey', 'A'], 3: ['R', 'G', 'B'], 4: ['R', 'G', 'B', 'A'] }

/** Histograms of pictures up to this many texels are counted whole. */
const WHOLE_UP_TO = 2048 * 2048
/** Of larger ones one run of 96 texels in each stretch of sixteen such runs, at a seeded place. */
const RUN = 96
const STRETCH = 16
const SEED = 104_729

/**
 * For each channel least, greatest, mean, deviation (0 to 1), exact over all texels, and a histogram of 256 equal bins. The histogram of a picture of 8 bits with more than 2048² texels is that of a sixteenth of them: a share p of it
 * deviates from the true one by at most √(p (1 − p) / n) with n runs, 0.5 % for 4096², and by less where the texels of a run differ.
 */
export function channelStatistics(pixels: Pixels): ChannelFacts[] {
  const names = namesByCount[pixels.channels] ?? []
  const full = fullValue(pixels)
  const texels = pixels.data.length / pixels.channels
  const { data } = pixels
  if (data instanceof Uint8Array && texels > WHOLE_UP_TO) return sampledStatistics(data, names, texels)
  return countValues(pixels, full).map((counts, channel) => statisticsOf(counts, names[channel]!, full, texels))
}

function sampledStatistics(data: Uint8Array, names: readonly ChannelFacts['name'][], texels: number): ChannelFacts[] {
  const counts = countRuns(data, names.length)
  return byteSums(data, names.length).map(({ least, greatest, sum, squares }, channel) => {
    const mean = sum / texels
    return { name: names[channel]!, min: least / 255, max: greatest / 255, mean: mean / 255, deviation: Math.sqrt(Math.max(0, squares / texels - mean * mean)) / 255, histogram: Array.from(counts[channel]!) }
  })
}

function countRuns(data: Uint8Array, channels: number): Uint32Array[] {
  const counts = Array.from({ length: channels }, () => new Uint32Array(256))
  const counter = pairCounter(data, channels), random = seededNumbers(SEED), run = RUN * channels
  for (let from = 0; from + run * STRETCH <= data.length; from += run * STRETCH) {
    const at = from + Math.floor(random() * STRETCH) * run
    counter.count(at / 2, (at + run) / 2)
  }
  counter.takeApart(counts)
  return counts
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
 * reads and increments, and no waiting for the last increment of the same value in flat pictures. What is counted begins with a texel and ends with one.
 */
function pairCounter(data: Uint8Array, channels: number): { pairs: number; count: (from: number, to: number) => void; takeApart: (counts: readonly Uint32Array[]) => void } {
  const tables = channels === 3 ? 3 : channels === 4 ? 2 : 1
  const pairs = data.byteOffset % 2 === 0 ? new Uint16Array(data.buffer, data.byteOffset, data.length >> 1) : new Uint16Array(data.slice().buffer, 0, data.length >> 1)
  const table = new Uint32Array(PAIRS * tables)
  return {
    pairs: pairs.length - (pairs.length % tables),
    count: (from, to) => countPairs(pairs, from, to, table, tables),
    takeApart(counts) {
      for (let t = 0; t < tables; t++) takeApart(table.subarray(t * PAIRS, (t + 1) * PAIRS), counts[(2 * t) % channels]!, counts[(2 * t + 1) % channels]!)
    },
  }
}

function countBytes(data: Uint8Array, counts: readonly Uint32Array[]): void {
  const counter = pairCounter(data, counts.length)
  counter.count(0, counter.pairs)
  counter.takeApart(counts)
  countSingly(data, counts, counter.pairs * 2)
}

function countPairs(pairs: Uint16Array, from: number, to: number, table: Uint32Array, tables: number): void {
  if (tables === 1) for (let i = from; i < to; i++) table[pairs[i]!]!++
  else if (tables === 2)
    for (let i = from; i < to; i += 2) {
      table[pairs[i]!]!++
      table[PAIRS + pairs[i + 1]!]!++
    }
  else
    for (let i = from; i < to; i += 3) {
      table[pairs[i]!]!++
      table[PAIRS + pairs[i + 1]!]!++
      table[2 * PAIRS + pairs[i + 2]!]!++
    }
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
