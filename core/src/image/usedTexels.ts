import type { UsedFacts } from '@stern-gate/contract'
import { CELLS } from '../geometry/cellMask'
import { channelStatistics } from './channelStatistics'
import { colourRange } from './colourRange'
import { contentSurvey } from './contentSurvey'
import { findGround, withoutGround, type Ground } from './findGround'
import { withThird } from './mapConversions'
import { normalMapEvidence } from './normalMapEvidence'
import type { Pixels } from './pixels'
import { sampledTexels, type SampledTexels } from './sampledTexels'

/** Fewer used texels than this say nothing. */
const LEAST_TEXELS = 64

/** What the whole picture was measured by. */
export interface WholePicture {
  sample: SampledTexels
  ground: Ground | null
  facts: Pick<UsedFacts, 'normal' | 'range'> & { content: UsedFacts['content'] | null }
}

/** Where a flat ground is all but so much of what nothing uses, leaving it out said the same already. */
const SAME_GROUND = 0.02

/**
 * The figures of a texture over the texels that islands use: `cells` are bits of CELLS × CELLS, row by row from the
 * top; a texel is used where one of the cells that it lies on is. A flat ground that reaches into such cells is left
 * out of what tells the content. Null where hardly anything is used. `pair`: two channels are those of a vector.
 */
export function measureUsedTexels(
  pixels: Pixels,
  cells: Uint32Array,
  pair: boolean,
  whole: WholePicture = wholePicture(pixels),
): UsedFacts | null {
  const { channels, width, height } = pixels
  const used = usedRows(pixels, cells)
  const own = ownTexels(pixels, used),
    share = own.data.length / pixels.data.length
  if (own.data.length / channels < LEAST_TEXELS) return null
  const exact = { share, channels: channelStatistics(own, pair ? 'pair' : 'grey and alpha') }
  const { sample, ground, facts } = whole
  if (facts.content && ground && Math.abs(1 - share - ground.facts.share) < SAME_GROUND)
    return { ...exact, normal: facts.normal, range: facts.range, content: facts.content }
  const left = leftOut(sample, ground, used)
  if (left.used < Math.min(LEAST_TEXELS, (width * height) / 4)) return null
  const content = contentSurvey(pixels, sample, left),
    kept = withoutGround(sample, left)
  return {
    ...exact,
    normal: pair
      ? ofVectors(withThird(pixels), used)
      : normalMapEvidence(pixels, sample, left, content, kept),
    range: colourRange(pixels, kept),
    content,
  }
}

function wholePicture(pixels: Pixels): WholePicture {
  const sample = sampledTexels(pixels)
  return {
    sample,
    ground: findGround(pixels, sample),
    facts: { normal: null, range: null, content: null },
  }
}

function ofVectors(vectors: Pixels, used: UsedRows): UsedFacts['normal'] {
  const sample = sampledTexels(vectors),
    left = leftOut(sample, findGround(vectors, sample), used)
  return normalMapEvidence(vectors, sample, left, contentSurvey(vectors, sample, left))
}

/** Which columns of a row of texels are used, and where runs of them begin and end. */
interface UsedRow {
  columns: Uint8Array
  runs: readonly (readonly [from: number, end: number])[]
}
/** Rows of texels on the same cells are told once. */
type UsedRows = (y: number) => UsedRow

function usedRows({ width, height }: Pixels, cells: Uint32Array): UsedRows {
  const known = new Map<number, UsedRow>()
  return (y) => {
    const [top, foot] = cellsOf(y, height),
      there = known.get(top * CELLS + foot)
    if (there) return there
    const row = rowOf(width, (column) => {
      for (let row = top; row <= foot; row++)
        if ((cells[(row * CELLS + column) >>> 5]! >>> (column & 31)) & 1) return true
      return false
    })
    known.set(top * CELLS + foot, row)
    return row
  }
}

/** A row of texels on cells of which `isOn` says which are used. */
function rowOf(width: number, isOn: (column: number) => boolean): UsedRow {
  const columns = new Uint8Array(width),
    runs: [number, number][] = []
  for (let column = 0; column < CELLS; column++) {
    if (!isOn(column)) continue
    const from = Math.floor((column * width) / CELLS),
      end = Math.ceil(((column + 1) * width) / CELLS),
      before = runs.at(-1)
    columns.fill(1, from, end)
    if (before && from <= before[1]) before[1] = end
    else runs.push([from, end])
  }
  return { columns, runs }
}

/** First and last cell that a texel lies on. */
function cellsOf(at: number, length: number): readonly [number, number] {
  const first = Math.floor((at * CELLS) / length)
  return [first, Math.min(CELLS - 1, Math.max(first, Math.ceil(((at + 1) * CELLS) / length) - 1))]
}

/** The used texels of the whole picture, one after the other. */
function ownTexels(pixels: Pixels, used: UsedRows): Pixels {
  const { width, height, channels, data } = pixels
  let count = 0
  for (let y = 0; y < height; y++) for (const [from, end] of used(y).runs) count += end - from
  const own =
    data instanceof Uint16Array ? new Uint16Array(count * channels) : new Uint8Array(count * channels)
  let to = 0
  for (let y = 0; y < height; y++)
    for (const [from, end] of used(y).runs) {
      own.set(data.subarray((y * width + from) * channels, (y * width + end) * channels), to)
      to += (end - from) * channels
    }
  return { ...pixels, width: Math.max(1, count), height: 1, data: own } as Pixels
}

/** What is not looked at: sampled texels that nothing uses, and the ground between them. */
function leftOut(sample: SampledTexels, found: Ground | null, used: UsedRows): Ground {
  const mask = found ? found.mask.slice() : new Uint8Array(sample.texels)
  let at = 0,
    kept = 0
  for (const { x, y, width, height } of sample.windows)
    for (let row = y; row < y + height; row++) {
      const { columns } = used(row)
      for (let column = x; column < x + width; column++, at++) {
        if (!columns[column]) mask[at] = 1
        if (!mask[at]) kept++
      }
    }
  const { kind, value } = found?.facts ?? { kind: 'flat' as const, value: [] }
  return { facts: { kind, value, share: 1 - kept / sample.texels, cells: null }, mask, used: kept }
}
