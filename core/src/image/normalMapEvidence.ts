import type { ContentFacts, NormalFacts } from '@stern-gate/contract'
import { inKernels, type KernelRoom, type Kernels } from '../kernels/inKernels'
import { contentSurvey } from './contentSurvey'
import { findGround, withoutGround, type Ground } from './findGround'
import { fullValue, type Pixels } from './pixels'
import { holdTexels, sampledTexels, valueBytes, type SampledTexels } from './sampledTexels'
import type { Window } from './sampleWindows'

/** Slopes steeper than this are seams or noise, not relief. */
const STEEPEST = 4
/** A jump of slope between neighbours above this is a seam. */
const SEAM_JUMP = 1
/**
 * A texel counts as relief when its slope changes by more than this; one step of 8 bits is 0.008. Weaker ones
 * still vote.
 */
const LEAST_CHANGE = 0.012
/**
 * The vote must stand this many times above its own spread. Rounding to 8 bits errs on both slopes
 * independently, so it widens the spread and does not lean to a side; neighbours are not independent, hence
 * far more than the usual 3.
 */
const LEAST_SCORE = 10
const BLOCKS = 8
const LEAST_LIKELY = 0.05
const undecided: NormalFacts['green'] = {
  direction: 'undecided',
  confidence: 0,
  energyUp: 0,
  energyDown: 0,
  texels: 0,
}

/**
 * What the pixels say about being a tangent-space normal map and about where green points. A map of a height
 * field has no curl: with p = −x/z and q = −y/z, ∂p/∂y = ∂q/∂x. The energy of the difference is summed under
 * both signs of y; the true sign has the smaller one. It is decided when the difference, 4 Σ ∂p/∂y · ∂q/∂x,
 * stands well above its own spread. The confidence is the share of 8 × 8 blocks, weighted by their
 * difference, that vote with the whole. What is hardly a normal map has no green to point, and is not asked.
 * Null for fewer than three channels.
 */
export function normalMapEvidence(
  pixels: Pixels,
  sample = sampledTexels(pixels),
  ground = findGround(pixels, sample),
  content = contentSurvey(pixels, sample, ground),
  used = ground ? withoutGround(sample, ground) : sample,
): NormalFacts | null {
  if (pixels.channels < 3) return null
  return inKernels((room) => {
    const lengths = surveyVectors(room, pixels, holdTexels(room, used), used.texels),
      isNormalMap = likelihood(lengths, content)
    if (isNormalMap < LEAST_LIKELY) return { ...lengths, isNormalMap, green: undecided }
    // Black texels point away from the sheet, and have no slope
    const at = holdTexels(room, ground ? withBlackGround(sample, ground) : sample),
      green = greenDirection(room, pixels, at, sample.windows)
    return {
      ...lengths,
      isNormalMap: Math.max(isNormalMap, slopesOfRelief(isNormalMap, lengths, green)),
      green,
    }
  })
}

/** What vectors alone leave in doubt from here on is asked for its slopes. */
const IN_DOUBT = 0.3
const SURE_BY_SLOPES = 0.7
/** Under the right sign of y the curl has at most this share of its energy under the other. */
const MOST_CURL = 0.3
const LEAST_AGREEMENT = 0.7

/**
 * Steep, tilted and clipped maps whose vectors leave a doubt are normal maps where their slopes are those of a
 * relief: hardly any curl under one sign of y and much under the other, alike all over the sheet. Only diagonal
 * stripes of one colour do that as well, and there red goes along with green.
 */
function slopesOfRelief(
  likely: number,
  { correlation }: Lengths,
  { direction, confidence, energyUp, energyDown }: NormalFacts['green'],
): number {
  if (likely < IN_DOUBT || direction === 'undecided' || Math.abs(correlation) > 0.5) return 0
  const curl = Math.min(energyUp, energyDown) / Math.max(energyUp, energyDown)
  return curl <= MOST_CURL && confidence >= LEAST_AGREEMENT ? SURE_BY_SLOPES : 0
}

function withBlackGround(sample: SampledTexels, { mask }: Ground): SampledTexels {
  const size = sample.bytes.length / sample.texels,
    bytes = sample.bytes.slice()
  for (let t = 0; t < sample.texels; t++) if (mask[t]) bytes.fill(0, t * size, (t + 1) * size)
  return { ...sample, bytes }
}

type Lengths = Omit<NormalFacts, 'isNormalMap' | 'green'>

/** Channels count as equal, and so grey, within this of 255. */
const GREY = 2 / 255

function surveyVectors(room: KernelRoom, pixels: Pixels, at: number, n: number): Lengths {
  const full = fullValue(pixels),
    sums = room.filled(13 * 8)
  room.run.surveyVectors(at, n, pixels.channels, valueBytes(pixels), full, GREY * full, sums)
  const [unit, plausible, away, sxx, syy, sxy, sx, sy, sz, sum, greys, greySum, greySquares] = room.doubles(
    sums,
    13,
  ) as unknown as Thirteen
  const mean = greys ? greySum / greys : 0
  return {
    shareUnitLength: unit / n,
    sharePlausible: plausible / n,
    correlation: correlation(n, sx, sy, sxx, syy, sxy),
    meanDirection: [sx / n, sy / n, sz / n],
    meanLength: sum / n,
    shareFacingAway: away / n,
    shareGrey: greys / n,
    spreadGrey: greys ? Math.sqrt(Math.max(0, greySquares / greys - mean * mean)) / full : 0,
    sampled: n,
  }
}
type Thirteen = [
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
  number,
]

/**
 * How sure a map of short vectors can be at most: enough to be judged as a normal map, too little to be
 * called one where nothing else says so.
 */
const MOST_SURE_IF_SHORT = 0.85

/**
 * Unit lengths, facing out, and a mean that points out of the sheet: all three, or it is something else.
 * Shorter vectors do where the mean points out more strictly, and red does not go along with green as in a
 * picture of colours – in a normal map it does where all slopes run along one diagonal, and then the mean
 * points straight out. What is left out of both are steep maps and maps that lean as a whole, and maps whose
 * blue was given up: of them the spread of directions tells (see below).
 */
function likelihood(v: Lengths, content: ContentFacts): number {
  const out = rise(v.meanDirection[2], 0.4, 0.7) * facingOut(v, content)
  const aslant = Math.hypot(v.meanDirection[0], v.meanDirection[1])
  const long = v.shareUnitLength * (1 - rise(aslant, 0.2, 0.5))
  const short =
    v.sharePlausible *
    (1 - rise(aslant, 0.1, 0.3)) *
    (1 - rise(Math.abs(v.correlation), 0.4, 0.8) * rise(aslant, 0.01, 0.05))
  return Math.max(
    out * Math.max(long, MOST_SURE_IF_SHORT * short),
    steepOrTilted(v, content),
    blueGivenUp(content),
  )
}

/**
 * Directions spread over both slopes while almost every vector is unit long: no picture of colours does that,
 * however its mean leans. Deviations are of vectors, −1 to 1.
 */
function steepOrTilted(v: Lengths, content: ContentFacts): number {
  const { deviation } = content,
    spread = 2 * Math.min(deviation[0]!, deviation[1]!)
  return (
    rise(v.shareUnitLength, 0.85, 0.97) *
    facingOut(v, content) *
    rise(v.meanDirection[2], 0.1, 0.3) *
    rise(spread, 0.04, 0.1)
  )
}

/** Full blue everywhere, and slopes on both sides of flat that do not go along with each other. */
function blueGivenUp({ mean, deviation, correlation }: ContentFacts): number {
  const aslant = Math.hypot(2 * mean[0]! - 1, 2 * mean[1]! - 1),
    spread = 2 * Math.min(deviation[0]!, deviation[1]!)
  return (
    MOST_SURE_IF_SHORT *
    rise(mean[2]!, 0.97, 0.99) *
    (1 - rise(deviation[2]!, 0.01, 0.03)) *
    (1 - rise(aslant, 0.3, 0.6)) *
    (1 - rise(Math.abs(correlation[0]!), 0.6, 0.9)) *
    rise(spread, 0.03, 0.08)
  )
}

/** Vectors face out of the sheet; at the border of islands lossy packing mixes in the ground. */
const facingOut = (v: Lengths, { used }: ContentFacts): number =>
  used < 1 ? 1 - rise(v.shareFacingAway, 0.05, 0.15) : 1 - Math.min(1, v.shareFacingAway * 10)

/** From 0 up to `from` straight to 1 at `to`. */
const rise = (value: number, from: number, to: number): number =>
  Math.min(1, Math.max(0, (value - from) / (to - from)))

/** Below this deviation, squared, a channel is flat: a step of 8 bits is 0.008. */
const FLAT = 1e-5

/** Pearson's correlation from sums; 0 where one side is flat. */
function correlation(n: number, sx: number, sy: number, sxx: number, syy: number, sxy: number): number {
  const vx = sxx / n - (sx / n) ** 2,
    vy = syy / n - (sy / n) ** 2
  return vx < FLAT || vy < FLAT ? 0 : (sxy / n - (sx / n) * (sy / n)) / Math.sqrt(vx * vy)
}

function greenDirection(
  room: KernelRoom,
  pixels: Pixels,
  texels: number,
  windows: readonly Window[],
): NormalFacts['green'] {
  const up = room.filled(BLOCKS * BLOCKS * 8),
    down = room.filled(BLOCKS * BLOCKS * 8),
    tally = room.filled(16)
  const most = windows.reduce((found, w) => Math.max(found, w.width * w.height), 0),
    across = room.space(most * 4),
    along = room.space(most * 4)
  let inside = 0,
    at = texels
  for (const window of windows) {
    const count = window.width * window.height
    room.run.slopes(
      at,
      count,
      pixels.channels,
      valueBytes(pixels),
      fullValue(pixels),
      STEEPEST,
      across,
      along,
    )
    inside += Math.max(0, (window.width - 2) * (window.height - 2))
    voteInWindow(room.run, pixels, window, { across, along, up, down, tally })
    at += count * pixels.channels * valueBytes(pixels)
  }
  const [spread, found] = room.doubles(tally, 2) as unknown as [number, number]
  return voteOnGreen({
    up: room.doubles(up, BLOCKS * BLOCKS),
    down: room.doubles(down, BLOCKS * BLOCKS),
    texels: found,
    spread,
    inside,
  })
}

/** Lists in the kernels' memory: slopes of a window, votes of the blocks, and what is counted over all. */
interface Ballot {
  across: number
  along: number
  up: number
  down: number
  tally: number
}

function voteInWindow(
  run: Kernels,
  { width, height }: Pixels,
  window: Window,
  { across, along, up, down, tally }: Ballot,
): void {
  const columns = columnsOf(window, width),
    row = window.width * 4
  for (let y = 1; y < window.height - 1; y++) {
    const here = across + y * row,
      blocks = Math.floor(((window.y + y) * BLOCKS) / height) * BLOCKS
    for (const { column, from, to } of columns)
      run.voteRow(
        here - row,
        here + row,
        along + y * row,
        from,
        to,
        SEAM_JUMP,
        LEAST_CHANGE,
        up + (blocks + column) * 8,
        down + (blocks + column) * 8,
        tally,
      )
  }
}

/**
 * Columns of blocks that a window reaches into, and where: its texels but for the first and the last, which
 * have no neighbour.
 */
const columnsOf = (window: Window, width: number): { column: number; from: number; to: number }[] =>
  Array.from({ length: BLOCKS }, (_, column) => ({
    column,
    from: Math.max(1, Math.ceil((column * width) / BLOCKS) - window.x),
    to: Math.min(window.width - 1, Math.ceil(((column + 1) * width) / BLOCKS) - window.x),
  })).filter(({ from, to }) => from < to)

interface Vote {
  up: Float64Array
  down: Float64Array
  texels: number
  spread: number
  inside: number
}

function voteOnGreen({ up, down, texels, spread, inside }: Vote): NormalFacts['green'] {
  const energyUp = up.reduce((a, b) => a + b, 0),
    energyDown = down.reduce((a, b) => a + b, 0)
  const score = spread > 0 ? Math.abs(energyUp - energyDown) / 4 / Math.sqrt(spread) : 0
  const texelsInside = Math.max(1, inside)
  const mean = { energyUp: energyUp / texelsInside, energyDown: energyDown / texelsInside, texels }
  if (score < LEAST_SCORE) return { direction: 'undecided', confidence: 0, ...mean }
  const pointsUp = energyUp < energyDown
  let agreeing = 0,
    voting = 0
  for (let b = 0; b < up.length; b++) {
    const weight = Math.abs(up[b]! - down[b]!)
    voting += weight
    if (up[b]! < down[b]! === pointsUp) agreeing += weight
  }
  const agreement = voting > 0 ? agreeing / voting : 0
  return {
    direction: pointsUp ? 'up' : 'down',
    confidence: agreement * (1 - Math.exp(-score / LEAST_SCORE)),
    ...mean,
  }
}
