import type { ResolutionFacts } from '@stern-gate/contract'
import { fullValue, type Pixels } from './pixels'
import { sampleWindows, type Window } from './sampleWindows'

/** From this on a picture is the same to the eye when its finest detail is taken away, in dB. */
const SAME = 45
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
 * Looked for in seeded windows; what they say is confirmed on the whole picture. `times` is 1 where nothing is empty.
 */
export function emptyResolution(pixels: Pixels): ResolutionFacts {
  const nothing: ResolutionFacts = { times: 1, psnr: null, worst: null }
  if (pixels.width < SIDE || pixels.height < SIDE) return nothing
  const found = lossesIn(pixels, windowsOf(sampleWindows(pixels.width, pixels.height), pixels))
  if (!found) return nothing
  const whole = lossesIn(
    pixels,
    windowsOf([{ x: 0, y: 0, width: pixels.width, height: pixels.height }], pixels),
  )
  return whole ?? nothing
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

/** What the largest scale loses that loses nothing to speak of; null where even half the size loses something. */
function lossesIn(pixels: Pixels, windows: readonly (readonly [number, number])[]): ResolutionFacts | null {
  const transform = windowTransform(pixels)
  const sums = SCALES.map(() => 0),
    worst = SCALES.map(() => 0),
    own = SCALES.map(() => 0)
  const texels = SIDE * SIDE
  for (const [x, y] of windows) {
    own.fill(0)
    for (let c = 0; c < pixels.channels; c++) transform(x, y, c, own)
    for (let s = 0; s < SCALES.length; s++) {
      sums[s]! += own[s]!
      worst[s] = Math.max(worst[s]!, own[s]! / (texels * pixels.channels))
    }
    if (decibel(worst[0]!) < WORST) return null
  }
  const mean = sums.map((sum) => sum / (windows.length * texels * pixels.channels))
  const content = decibel(varianceIn(pixels, windows))
  const best = SCALES.findLastIndex(
    (_, s) => decibel(mean[s]!) >= Math.max(SAME, content + BELOW_CONTENT) && decibel(worst[s]!) >= WORST,
  )
  return best < 0
    ? null
    : { times: SCALES[best]!, psnr: told(decibel(mean[best]!)), worst: told(decibel(worst[best]!)) }
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

let cosines: Float64Array | null = null
/** Rows of the transform: how much of each cosine a texel holds. */
function cosineRows(): Float64Array {
  if (cosines) return cosines
  cosines = new Float64Array(SIDE * SIDE)
  for (let k = 0; k < SIDE; k++)
    for (let n = 0; n < SIDE; n++)
      cosines[k * SIDE + n] =
        Math.sqrt((k === 0 ? 1 : 2) / SIDE) * Math.cos((Math.PI * (2 * n + 1) * k) / (2 * SIDE))
  return cosines
}

/** Adds up the squares of the cosines of one channel of a window for which each scale has no room. */
function windowTransform(pixels: Pixels): (x: number, y: number, channel: number, into: number[]) => void {
  const { width, channels, data } = pixels,
    full = fullValue(pixels),
    rows = cosineRows()
  const line = new Float64Array(SIDE),
    across = new Float64Array(SIDE * SIDE)
  return (x, y, channel, into) => {
    for (let j = 0; j < SIDE; j++) {
      for (let i = 0, at = ((y + j) * width + x) * channels + channel; i < SIDE; i++, at += channels)
        line[i] = data[at]! / full
      for (let k = 0; k < SIDE; k++) {
        let sum = 0
        for (let i = 0; i < SIDE; i++) sum += rows[k * SIDE + i]! * line[i]!
        across[k * SIDE + j] = sum
      }
    }
    for (let k = 0; k < SIDE; k++)
      for (let l = 0; l < SIDE; l++) {
        const finest = Math.max(k, l)
        if (finest < SIDE / SCALES[SCALES.length - 1]!) continue
        let sum = 0
        for (let j = 0; j < SIDE; j++) sum += rows[l * SIDE + j]! * across[k * SIDE + j]!
        for (let s = 0; s < SCALES.length; s++) if (finest >= SIDE / SCALES[s]!) into[s]! += sum * sum
      }
  }
}
