import type { ResolutionFacts } from '@stern-gate/contract'
import { fullValue, type Pixels } from './pixels'
import { sampleWindows, type Window } from './sampleWindows'

/** From this on a picture is the same to the eye when its finest detail is taken away, in dB. */
const SAME = 45
/** A picture that is looked at in windows first has to be clearer: confirming it takes as long as all else together. */
const CLEARLY_SAME = 50
/** No window may lose more than this, or detail is gone where it stands. */
const WORST = 40
/** What is lost is so much less than what the picture shows at all, in dB: a map of low contrast is no empty one. */
const BELOW_CONTENT = 25
const SCALES = [2, 4, 8] as const
/** Side of a window in texels. */
const SIDE = 32

/**
 * How much smaller a picture can be and still carry the same. Each window of 32 × 32 texels is taken apart into cosines
 * (the orthonormal DCT-II, Ahmed, Natarajan and Rao 1974); a picture of half the size has no room for the upper half of
 * them, and what they hold is what shrinking loses: by Parseval's theorem the sum of their squares is the squared error.
 * Looked for in seeded windows; that no other window loses more is confirmed on the whole picture. `times` is 1 where
 * nothing is empty.
 */
export function emptyResolution(pixels: Pixels): ResolutionFacts {
  const nothing: ResolutionFacts = { times: 1, psnr: null, worst: null }
  if (pixels.width < SIDE || pixels.height < SIDE) return nothing
  const looked = windowsOf(sampleWindows(pixels.width, pixels.height), pixels)
  const whole = windowsOf([{ x: 0, y: 0, width: pixels.width, height: pixels.height }], pixels)
  const losses = lossesIn(pixels, looked),
    budget = { exact: MOST_EXACT }
  for (let s = SCALES.length - 1; losses && s >= 0; s--) {
    const { mean, worst } = losses[s]!
    const isWhole = looked.length === whole.length
    if (!mean.carries || decibel(worst) < WORST) continue
    if (!isWhole && decibel(mean.square) < CLEARLY_SAME) continue
    const most = isWhole ? worst : worstOfAll(pixels, whole, s, worst, budget)
    if (most !== null)
      return { times: SCALES[s]!, psnr: told(decibel(mean.square)), worst: told(decibel(most)) }
  }
  return nothing
}

/** Cuts large windows into ones of the right side; those at the edge are moved inward. */
const windowsOf = (windows: readonly Window[], { width, height }: Pixels): [x: number, y: number][] =>
  windows.flatMap((w) =>
    Array.from({ length: Math.ceil(w.height / SIDE) }, (_, row) =>
      Array.from({ length: Math.ceil(w.width / SIDE) }, (_, column): [number, number] => [
        Math.min(width - SIDE, w.x + column * SIDE),
        Math.min(height - SIDE, w.y + row * SIDE),
      ]),
    ).flat(),
  )

interface Loss {
  /** Mean square of what is lost, and whether the rest is the same to the eye. */
  mean: { square: number; carries: boolean }
  /** Of the window that loses most. */
  worst: number
}

/** What each scale loses in these windows; null where even half the size loses something. */
function lossesIn(pixels: Pixels, windows: readonly (readonly [number, number])[]): Loss[] | null {
  const transform = windowTransform(pixels)
  const sums = SCALES.map(() => 0),
    worst = SCALES.map(() => 0),
    own = SCALES.map(() => 0)
  const values = SIDE * SIDE * pixels.channels
  for (const [x, y] of windows) {
    own.fill(0)
    for (let c = 0; c < pixels.channels; c++) transform(x, y, c, own)
    for (let s = 0; s < SCALES.length; s++) {
      sums[s]! += own[s]!
      worst[s] = Math.max(worst[s]!, own[s]! / values)
    }
    if (decibel(worst[0]!) < WORST) return null
  }
  const least = Math.max(SAME, decibel(varianceIn(pixels, windows)) + BELOW_CONTENT)
  return SCALES.map((_, s) => {
    const square = sums[s]! / (windows.length * values)
    return { mean: { square, carries: decibel(square) >= least }, worst: worst[s]! }
  })
}

/**
 * So many windows are taken apart on the whole picture, all scales together: those of 2048 × 2048 texels. Where more are
 * in doubt nothing is claimed.
 */
const MOST_EXACT = 4096

/**
 * What the window loses that loses most; null where one loses too much. Second differences bound it from above and
 * are quick: the cosine of number k is changed by them by 2 − 2 cos(πk/32), so that what lies above a cosine is at most
 * their square over the square of that. Only where the bound does not do a window is taken apart.
 */
function worstOfAll(
  pixels: Pixels,
  windows: readonly (readonly [number, number])[],
  scale: number,
  known: number,
  budget: { exact: number },
): number | null {
  const transform = windowTransform(pixels),
    own = SCALES.map(() => 0),
    values = SIDE * SIDE * pixels.channels
  const first = SIDE / SCALES[scale]!
  const factor = (2 - 2 * Math.cos((Math.PI * first) / SIDE)) ** 2
  let worst = known
  for (const [x, y] of windows) {
    if (decibel(secondDifferences(pixels, x, y) / factor / values) >= WORST) continue
    if (budget.exact-- <= 0) return null
    own.fill(0)
    for (let c = 0; c < pixels.channels; c++) transform(x, y, c, own)
    worst = Math.max(worst, own[scale]! / values)
    if (decibel(worst) < WORST) return null
  }
  return worst
}

/** Sum of the squares of second differences along rows and columns of a window, mirrored at its edge; values 0 to 1. */
function secondDifferences(pixels: Pixels, x: number, y: number): number {
  const { width, channels } = pixels,
    data: ArrayLike<number> = pixels.data,
    full = fullValue(pixels)
  const line = width * channels,
    wide = SIDE * channels
  let sum = 0
  for (let j = 0; j < SIDE; j++) {
    const row = ((y + j) * width + x) * channels,
      up = j === 0 ? 0 : -line,
      down = j === SIDE - 1 ? 0 : line
    for (let i = 0; i < wide; i++) {
      const at = row + i,
        v = 2 * data[at]!
      const across =
        v - data[i < channels ? at : at - channels]! - data[i >= wide - channels ? at : at + channels]!
      const along = v - data[at + up]! - data[at + down]!
      sum += across * across + along * along
    }
  }
  return sum / (full * full)
}

/** Mean square of what differs from the mean, over all channels of all windows; values 0 to 1. */
function varianceIn(pixels: Pixels, windows: readonly (readonly [number, number])[]): number {
  const { width, channels, data } = pixels
  const full = fullValue(pixels),
    count = windows.length * SIDE * SIDE
  let sum = 0
  for (let c = 0; c < channels; c++) {
    let values = 0,
      squares = 0
    for (const [x, y] of windows)
      for (let j = 0; j < SIDE; j++)
        for (let i = 0, at = ((y + j) * width + x) * channels + c; i < SIDE; i++, at += channels) {
          const v = data[at]! / full
          values += v
          squares += v * v
        }
    sum += Math.max(0, squares / count - (values / count) ** 2)
  }
  return sum / channels
}

/** What lies below is noise of the numbers. */
const NOTHING = 1e-10
const decibel = (square: number): number => (square < NOTHING ? Infinity : -10 * Math.log10(square))
const told = (value: number): number | null => (value === Infinity ? null : value)

/** Waves that half the size has room for; the others are what is left of the whole. */
const KEPT = SIDE / SCALES[0]
const HALF = SIDE / 2

let cosines: Float64Array | null = null
/** Rows of the transform, each over half of a line: a cosine is alike at both ends, or alike but for its sign. */
function cosineRows(): Float64Array {
  if (cosines) return cosines
  cosines = new Float64Array(KEPT * HALF)
  for (let k = 0; k < KEPT; k++)
    for (let n = 0; n < HALF; n++)
      cosines[k * HALF + n] =
        Math.sqrt((k === 0 ? 1 : 2) / SIDE) * Math.cos((Math.PI * (2 * n + 1) * k) / (2 * SIDE))
  return cosines
}

/** Halves of a line, added and taken from each other: what even and odd cosines are made of. */
function fold(line: Float64Array, from: number, even: Float64Array, odd: Float64Array): number {
  let squares = 0
  for (let n = 0; n < HALF; n++) {
    const a = line[from + n]!,
      b = line[from + SIDE - 1 - n]!
    squares += a * a + b * b
    even[n] = a + b
    odd[n] = a - b
  }
  return squares
}

/** One line's cosines that are kept, `step` apart. */
function transformLine(
  rows: Float64Array,
  even: Float64Array,
  odd: Float64Array,
  out: Float64Array,
  from: number,
  step: number,
): void {
  for (let k = 0; k < KEPT; k += 2) {
    const row = k * HALF,
      next = row + HALF
    let a = 0,
      b = 0
    for (let n = 0; n < HALF; n++) {
      a += rows[row + n]! * even[n]!
      b += rows[next + n]! * odd[n]!
    }
    out[from + k * step] = a
    out[from + (k + 1) * step] = b
  }
}

/** Adds, by scale, the squares of what one channel of a window holds and a smaller picture has no room for. */
function windowTransform(pixels: Pixels): (x: number, y: number, channel: number, into: number[]) => void {
  const { width, channels } = pixels,
    rows = cosineRows()
  const even = new Float64Array(HALF),
    odd = new Float64Array(HALF),
    line = new Float64Array(SIDE),
    across = new Float64Array(KEPT * SIDE),
    column = new Float64Array(KEPT),
    kept = new Float64Array(SCALES.length)
  const read = readerOf(pixels)
  return (x, y, channel, into) => {
    let whole = 0
    for (let j = 0; j < SIDE; j++) {
      read(((y + j) * width + x) * channels + channel, channels, line)
      whole += fold(line, 0, even, odd)
      transformLine(rows, even, odd, across, j, SIDE)
    }
    kept.fill(0)
    for (let k = 0; k < KEPT; k++) {
      fold(across, k * SIDE, even, odd)
      transformLine(rows, even, odd, column, 0, 1)
      for (let l = 0; l < KEPT; l++) {
        const finest = k > l ? k : l,
          square = column[l]! * column[l]!
        for (let s = 0; s < SCALES.length && finest < SIDE / SCALES[s]!; s++) kept[s]! += square
      }
    }
    for (let s = 0; s < SCALES.length; s++) into[s]! += Math.max(0, whole - kept[s]!)
  }
}

/** Reads a row of a window, 0 to 1; one function for each depth, so that neither is slowed by the other. */
function readerOf({ data, ...rest }: Pixels): (from: number, step: number, line: Float64Array) => void {
  const scale = 1 / fullValue({ data, ...rest })
  if (data instanceof Uint8Array)
    return (from, step, line) => {
      for (let n = 0, at = from; n < SIDE; n++, at += step) line[n] = data[at]! * scale
    }
  return (from, step, line) => {
    for (let n = 0, at = from; n < SIDE; n++, at += step) line[n] = data[at]! * scale
  }
}
