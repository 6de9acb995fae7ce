import type { ContentFacts } from '@stern-gate/contract'
import { texelReader, type Ground } from './findGround'
import type { Pixels } from './pixels'
import type { SampledTexels } from './sampledTexels'

/** About so many texels are looked at: every n-th row of the sample. */
const LOOKED_AT = 65_536
/** Channels within this of each other are alike; values within twice this of an end are at it. Of 255. */
const ALIKE = 6
const AT_END = 12
/** Neighbours that differ by a quarter stand on two sides of an edge. */
const EDGE = 64

/** Sums over the texels looked at; values of 0 … 255. */
interface Sums {
  n: number
  grey: number
  colourful: number
  low: number
  high: number
  sum: number[]
  squares: number[]
  products: number[]
  extreme: number[]
}

/** Figures that tell what a texture carries, over those sampled texels that are not its ground. */
export function contentSurvey(pixels: Pixels, sample: SampledTexels, ground: Ground | null): ContentFacts {
  const { at, colours } = texelReader(pixels, sample)
  const isUsed = (t: number): boolean => ground === null || ground.mask[t] === 0
  const every = Math.max(1, Math.floor(sample.texels / LOOKED_AT))
  const sums: Sums = {
    n: 0,
    grey: 0,
    colourful: 0,
    low: 0,
    high: 0,
    sum: [0, 0, 0],
    squares: [0, 0, 0],
    products: [0, 0, 0],
    extreme: [0, 0, 0],
  }
  const slopes = { pairs: 0, detail: [0, 0, 0], first: 0, second: 0, apart: 0, differ: 0 }
  let from = 0,
    row = 0
  for (const { width, height } of sample.windows) {
    for (let y = 0; y < height; y++) {
      if (row++ % every !== 0) continue
      for (let x = 0; x < width; x++) {
        const t = from + y * width + x
        if (!isUsed(t)) continue
        addTexel(sums, at, t, colours)
        if (x >= 2 && isUsed(t - 1) && isUsed(t - 2)) addSlopes(slopes, at, t, colours)
      }
    }
    from += width * height
  }
  const n = Math.max(1, sums.n),
    pairs = Math.max(1, slopes.pairs)
  const channels = Array.from({ length: colours }, (_, c) => c)
  const mean = channels.map((c) => sums.sum[c]! / n)
  const variance = channels.map((c) => Math.max(0, sums.squares[c]! / n - mean[c]! ** 2))
  const together = (k: number, a: number, b: number): number =>
    variance[a]! < 1 || variance[b]! < 1
      ? 0
      : (sums.products[k]! / n - mean[a]! * mean[b]!) / Math.sqrt(variance[a]! * variance[b]!)
  return {
    grey: sums.grey / n,
    colourful: sums.colourful / n / 255,
    mean: mean.map((v) => v / 255),
    deviation: variance.map((v) => Math.sqrt(v) / 255),
    extreme: channels.map((c) => sums.extreme[c]! / n),
    low: sums.low / n,
    high: sums.high / n,
    correlation: colours < 3 ? [0, 0, 0] : [together(0, 0, 1), together(1, 0, 2), together(2, 1, 2)],
    detail: channels.map((c) => slopes.detail[c]! / pairs / 255),
    bend: slopes.first > 0 ? slopes.second / slopes.first : 0,
    apart: slopes.apart / pairs,
    channelsDiffer: slopes.differ / pairs / 255,
    used: ground ? ground.used / sample.texels : 1,
    alphaVaries: varies(pixels, sample),
  }
}

type At = (texel: number, channel: number) => number

function addTexel(sums: Sums, at: At, t: number, colours: number): void {
  const r = at(t, 0),
    g = colours === 3 ? at(t, 1) : r,
    b = colours === 3 ? at(t, 2) : r
  const least = Math.min(r, g, b),
    most = Math.max(r, g, b)
  sums.n++
  if (most - least <= ALIKE) sums.grey++
  sums.colourful += most - least
  if (most <= AT_END) sums.low++
  if (least >= 255 - AT_END) sums.high++
  addValue(sums, 0, r)
  if (colours === 3) {
    addValue(sums, 1, g)
    addValue(sums, 2, b)
  }
  sums.products[0]! += r * g
  sums.products[1]! += r * b
  sums.products[2]! += g * b
}

function addValue({ sum, squares, extreme }: Sums, channel: number, value: number): void {
  sum[channel]! += value
  squares[channel]! += value * value
  if (value <= AT_END || value >= 255 - AT_END) extreme[channel]!++
}

function addSlopes(
  slopes: { pairs: number; detail: number[]; first: number; second: number; apart: number; differ: number },
  at: At,
  t: number,
  colours: number,
): void {
  slopes.pairs++
  let least = Infinity,
    most = -Infinity
  for (let c = 0; c < colours; c++) {
    const d = at(t, c) - at(t - 1, c)
    slopes.detail[c]! += Math.abs(d)
    least = Math.min(least, d)
    most = Math.max(most, d)
    if (c > 0) continue
    const before = at(t - 1, c) - at(t - 2, c)
    slopes.first += Math.abs(d)
    slopes.second += Math.abs(d - before)
    if (Math.abs(d) >= EDGE) slopes.apart++
  }
  slopes.differ += most - least
}

function varies({ channels }: Pixels, sample: SampledTexels): boolean {
  if (channels !== 2 && channels !== 4) return false
  const size = sample.bytes.length / sample.texels,
    alpha = size - size / channels
  const first = sample.bytes[alpha]
  for (let t = 0; t < sample.texels; t += 7) if (sample.bytes[t * size + alpha] !== first) return true
  return false
}
