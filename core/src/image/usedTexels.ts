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

/**
 * The figures of a texture over the texels that islands use: `cells` are bits of CELLS × CELLS, row by row from the
 * top; a texel is used where one of the cells that it lies on is. A flat ground that reaches into such cells is left
 * out of what tells the content. Null where hardly anything is used. `pair`: two channels are those of a vector.
 */
export function measureUsedTexels(pixels: Pixels, cells: Uint32Array, pair: boolean): UsedFacts | null {
  const { channels } = pixels
  const used = usedRows(pixels, cells)
  const own = ownTexels(pixels, used)
  if (own.data.length / channels < LEAST_TEXELS) return null
  const sample = sampledTexels(pixels)
  const left = leftOut(pixels, sample, used)
  if (left.used < LEAST_TEXELS) return null
  const content = contentSurvey(pixels, sample, left)
  return {
    share: own.data.length / pixels.data.length,
    channels: channelStatistics(own, pair ? 'pair' : 'grey and alpha'),
    normal: pair ? ofVectors(withThird(pixels), used) : normalMapEvidence(pixels, sample, left, content),
    range: colourRange(pixels, withoutGround(sample, left)),
    content,
  }
}

function ofVectors(vectors: Pixels, used: UsedRows): UsedFacts['normal'] {
  const sample = sampledTexels(vectors),
    left = leftOut(vectors, sample, used)
  return normalMapEvidence(vectors, sample, left, contentSurvey(vectors, sample, left))
}

/** For each row of texels which of its columns are used; rows on the same cells share one list. */
type UsedRows = (y: number) => Uint8Array

function usedRows({ width, height }: Pixels, cells: Uint32Array): UsedRows {
  const isOn = (row: number, column: number): boolean =>
    ((cells[(row * CELLS + column) >>> 5]! >>> (column & 31)) & 1) === 1
  const kept = new Map<string, Uint8Array>()
  return (y) => {
    const [top, foot] = cellsOf(y, height),
      key = `${top} ${foot}`
    const known = kept.get(key)
    if (known) return known
    const columns = new Uint8Array(width)
    for (let x = 0; x < width; x++) {
      const [first, last] = cellsOf(x, width)
      for (let row = top; row <= foot && !columns[x]; row++)
        for (let column = first; column <= last; column++) if (isOn(row, column)) columns[x] = 1
    }
    kept.set(key, columns)
    return columns
  }
}

/** First and last cell that a texel lies on. */
function cellsOf(at: number, length: number): readonly [number, number] {
  const first = Math.floor((at * CELLS) / length)
  return [first, Math.max(first, Math.ceil(((at + 1) * CELLS) / length) - 1)]
}

/** The used texels of the whole picture, one after the other. */
function ownTexels(pixels: Pixels, used: UsedRows): Pixels {
  const { width, height, channels, data } = pixels
  let count = 0
  for (let y = 0; y < height; y++) for (const on of used(y)) count += on
  const own =
    data instanceof Uint16Array ? new Uint16Array(count * channels) : new Uint8Array(count * channels)
  let to = 0
  for (let y = 0; y < height; y++) {
    const columns = used(y)
    for (let x = 0; x < width;) {
      if (!columns[x]) {
        x++
        continue
      }
      let end = x
      while (end < width && columns[end]) end++
      own.set(data.subarray((y * width + x) * channels, (y * width + end) * channels), to)
      to += (end - x) * channels
      x = end
    }
  }
  return { ...pixels, width: Math.max(1, count), height: 1, data: own } as Pixels
}

/** What is not looked at: sampled texels that nothing uses, and the ground between them. */
function leftOut(pixels: Pixels, sample: SampledTexels, used: UsedRows): Ground {
  const found = findGround(pixels, sample)
  const mask = found ? found.mask.slice() : new Uint8Array(sample.texels)
  let at = 0,
    kept = 0
  for (const { x, y, width, height } of sample.windows)
    for (let row = y; row < y + height; row++) {
      const columns = used(row)
      for (let column = x; column < x + width; column++, at++) {
        if (!columns[column]) mask[at] = 1
        if (!mask[at]) kept++
      }
    }
  const { kind, value } = found?.facts ?? { kind: 'flat' as const, value: [] }
  return { facts: { kind, value, share: 1 - kept / sample.texels, cells: null }, mask, used: kept }
}
