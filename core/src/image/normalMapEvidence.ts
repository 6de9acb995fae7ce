import type { NormalFacts } from '@stern-gate/contract'
import { fullValue, type Pixels } from './pixels'
import { sampleWindows, windowTexels, type Window } from './sampleWindows'

/** Slopes steeper than this are seams or noise, not relief. */
const STEEPEST = 4
/** A jump of slope between neighbours above this is a seam. */
const SEAM_JUMP = 1
/** A texel counts as relief when its slope changes by more than this; one step of 8 bits is 0.008. Weaker ones still vote. */
const LEAST_CHANGE = 0.012
/**
 * The vote must stand this many times above its own spread. Rounding to 8 bits errs on both slopes independently, so it widens the spread and
 * does not lean to a side; neighbours are not independent, hence far more than the usual 3.
 */
const LEAST_SCORE = 10
const BLOCKS = 8
const LEAST_LIKELY = 0.05
const undecided: NormalFacts['green'] = { direction: 'undecided', confidence: 0, energyUp: 0, energyDown: 0, texels: 0 }

/**
 * What the pixels say about being a tangent-space normal map and about where green points. A map of a height field has no curl: with p = −x/z
 * and q = −y/z, ∂p/∂y = ∂q/∂x. The energy of the difference is summed under both signs of y; the true sign has the smaller one. It is decided when the difference,
 * 4 Σ ∂p/∂y · ∂q/∂x, stands well above its own spread. The confidence is the share of 8 × 8 blocks, weighted by their difference, that vote with the whole.
 * What is hardly a normal map has no green to point, and is not asked. Null for fewer than three channels.
 */
export function normalMapEvidence(pixels: Pixels): NormalFacts | null {
  if (pixels.channels < 3) return null
  const windows = sampleWindows(pixels.width, pixels.height)
  const lengths = surveyVectors(pixels, windows)
  const isNormalMap = likelihood(lengths)
  return { ...lengths, isNormalMap, green: isNormalMap < LEAST_LIKELY ? undecided : greenDirection(pixels, windows) }
}

type Lengths = Omit<NormalFacts, 'isNormalMap' | 'green'>

/** Channels count as equal, and so grey, within this of 255. */
const GREY = 2 / 255

function surveyVectors(pixels: Pixels, windows: readonly Window[]): Lengths {
  const { data, channels, width } = pixels
  const full = fullValue(pixels), scale = 2 / full, grey = GREY * full
  let unit = 0, plausible = 0, away = 0, sxx = 0, syy = 0, sxy = 0, sx = 0, sy = 0, sz = 0, sum = 0, greys = 0, greySum = 0, greySquares = 0
  for (const w of windows)
    for (let row = w.y; row < w.y + w.height; row++) {
      const end = (row * width + w.x + w.width) * channels
      for (let k = (row * width + w.x) * channels; k < end; k += channels) {
        const r = data[k]!, g = data[k + 1]!, b = data[k + 2]!
        const x = r * scale - 1, y = g * scale - 1, z = b * scale - 1
        const length = Math.sqrt(x * x + y * y + z * z)
        if (length > 0.9 && length < 1.1) unit++
        if (length > SHORTEST && length < 1.1 && z > 0) plausible++
        if (z < -0.01) away++
        if (Math.abs(r - g) <= grey && Math.abs(g - b) <= grey) {
          greys++
          greySum += g
          greySquares += g * g
        }
        sxx += x * x
        syy += y * y
        sxy += x * y
        sx += x
        sy += y
        sz += z
        sum += length
      }
    }
  const n = windowTexels(windows), mean = greys ? greySum / greys : 0
  return {
    shareUnitLength: unit / n, sharePlausible: plausible / n, correlation: correlation(n, sx, sy, sxx, syy, sxy), meanDirection: [sx / n, sy / n, sz / n], meanLength: sum / n, shareFacingAway: away / n,
    shareGrey: greys / n, spreadGrey: greys ? Math.sqrt(Math.max(0, greySquares / greys - mean * mean)) / full : 0, sampled: n,
  }
}

/** Vectors that were blended, resized or packed with loss come out shorter than 1; below this they say nothing. */
const SHORTEST = 0.6
/** How sure a map of short vectors can be at most: enough to be judged as a normal map, too little to be called one where nothing else says so. */
const MOST_SURE_IF_SHORT = 0.85

/**
 * Unit lengths, facing out, and a mean that points out of the sheet: all three, or it is something else. Shorter vectors do where the mean points out more strictly, and red does not go along with green as in a picture of colours
 * – in a normal map it does where all slopes run along one diagonal, and then the mean points straight out.
 */
function likelihood(v: Lengths): number {
  const out = rise(v.meanDirection[2], 0.4, 0.7) * (1 - Math.min(1, v.shareFacingAway * 10))
  const aslant = Math.hypot(v.meanDirection[0], v.meanDirection[1])
  const long = v.shareUnitLength * (1 - rise(aslant, 0.2, 0.5))
  const short = v.sharePlausible * (1 - rise(aslant, 0.1, 0.3)) * (1 - rise(Math.abs(v.correlation), 0.4, 0.8) * rise(aslant, 0.01, 0.05))
  return out * Math.max(long, MOST_SURE_IF_SHORT * short)
}

/** From 0 up to `from` straight to 1 at `to`. */
const rise = (value: number, from: number, to: number): number => Math.min(1, Math.max(0, (value - from) / (to - from)))

/** Below this deviation, squared, a channel is flat: a step of 8 bits is 0.008. */
const FLAT = 1e-5

/** Pearson's correlation from sums; 0 where one side is flat. */
function correlation(n: number, sx: number, sy: number, sxx: number, syy: number, sxy: number): number {
  const vx = sxx / n - (sx / n) ** 2, vy = syy / n - (sy / n) ** 2
  return vx < FLAT || vy < FLAT ? 0 : (sxy / n - (sx / n) * (sy / n)) / Math.sqrt(vx * vy)
}

function greenDirection(pixels: Pixels, windows: readonly Window[]): NormalFacts['green'] {
  const tally: Vote = { up: new Float64Array(BLOCKS * BLOCKS), down: new Float64Array(BLOCKS * BLOCKS), texels: 0, spread: 0, inside: 0 }
  for (const window of windows) addSlopes(pixels, window, tally)
  return voteOnGreen(tally)
}

function addSlopes(pixels: Pixels, window: Window, tally: Vote): void {
  const { width, height } = pixels
  const rows = slopeRows(pixels, window), columns = columnsOf(window, width)
  tally.inside += Math.max(0, (window.width - 2) * (window.height - 2))
  let above = rows(0), here = rows(Math.min(1, window.height - 1))
  for (let y = 1; y < window.height - 1; y++) {
    const below = rows(y + 1)
    const blockRow = Math.floor(((window.y + y) * BLOCKS) / height) * BLOCKS
    for (const { column, from, to } of columns) addRow(above.p, below.p, here.q, from, to, blockRow + column, tally)
    above = here
    here = below
  }
}

/** Columns of blocks that a window reaches into, and where: its texels but for the first and the last, which have no neighbour. */
const columnsOf = (window: Window, width: number): { column: number; from: number; to: number }[] =>
  Array.from({ length: BLOCKS }, (_, column) => ({
    column, from: Math.max(1, Math.ceil((column * width) / BLOCKS) - window.x), to: Math.min(window.width - 1, Math.ceil(((column + 1) * width) / BLOCKS) - window.x),
  })).filter(({ from, to }) => from < to)

/** One row of one block. NaN marks a texel that is not usable; it makes the sum NaN and the comparison false. */
function addRow(pAbove: Float32Array, pBelow: Float32Array, q: Float32Array, from: number, to: number, block: number, tally: Vote): void {
  let up = 0, down = 0, spread = 0, texels = 0
  for (let x = from; x < to; x++) {
    const pDown = (pBelow[x]! - pAbove[x]!) / 2
    const qAcross = (q[x + 1]! - q[x - 1]!) / 2
    if (!(Math.abs(pDown) + Math.abs(qAcross) < SEAM_JUMP)) continue
    // Rows run downward: with green up, ∂p/∂y = −pDown
    const sum = pDown + qAcross, difference = pDown - qAcross, product = pDown * qAcross
    up += sum * sum
    down += difference * difference
    spread += product * product
    if (Math.abs(pDown) >= LEAST_CHANGE || Math.abs(qAcross) >= LEAST_CHANGE) texels++
  }
  tally.up[block]! += up
  tally.down[block]! += down
  tally.spread += spread
  tally.texels += texels
}

interface SlopeRow { p: Float32Array; q: Float32Array }

/** Gives the slopes of one row of a window at a time, so that a large map needs no second copy of itself. */
function slopeRows(pixels: Pixels, window: Window): (y: number) => SlopeRow {
  const { data, width, channels } = pixels
  const half = fullValue(pixels) / 2, least = 0.05 * half
  const ring: SlopeRow[] = [0, 1, 2].map(() => ({ p: new Float32Array(window.width), q: new Float32Array(window.width) }))
  return (y) => {
    const row = ring[y % 3]!
    for (let x = 0, k = ((window.y + y) * width + window.x) * channels; x < window.width; x++, k += channels) {
      const z = data[k + 2]! - half, over = 1 / z
      const p = (half - data[k]!) * over, q = (half - data[k + 1]!) * over
      const usable = z > least && Math.abs(p) < STEEPEST && Math.abs(q) < STEEPEST
      row.p[x] = usable ? p : NaN
      row.q[x] = usable ? q : NaN
    }
    return row
  }
}

interface Vote { up: Float64Array; down: Float64Array; texels: number; spread: number; inside: number }

function voteOnGreen({ up, down, texels, spread, inside }: Vote): NormalFacts['green'] {
  const energyUp = up.reduce((a, b) => a + b, 0), energyDown = down.reduce((a, b) => a + b, 0)
  const score = spread > 0 ? Math.abs(energyUp - energyDown) / 4 / Math.sqrt(spread) : 0
  const texelsInside = Math.max(1, inside)
  const mean = { energyUp: energyUp / texelsInside, energyDown: energyDown / texelsInside, texels }
  if (score < LEAST_SCORE) return { direction: 'undecided', confidence: 0, ...mean }
  const pointsUp = energyUp < energyDown
  let agreeing = 0, voting = 0
  for (let b = 0; b < up.length; b++) {
    const weight = Math.abs(up[b]! - down[b]!)
    voting += weight
    if (up[b]! < down[b]! === pointsUp) agreeing += weight
  }
  const agreement = voting > 0 ? agreeing / voting : 0
  return { direction: pointsUp ? 'up' : 'down', confidence: agreement * (1 - Math.exp(-score / LEAST_SCORE)), ...mean }
}
