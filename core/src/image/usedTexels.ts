import type { UsedFacts } from '@stern-gate/contract'
import { channelStatistics } from './channelStatistics'
import { colourRange } from './colourRange'
import { contentSurvey } from './contentSurvey'
import { findGround, withoutGround, type Ground } from './findGround'
import { withThird } from './mapConversions'
import { normalMapEvidence } from './normalMapEvidence'
import type { Pixels } from './pixels'
import { sampledTexels, type SampledTexels } from './sampledTexels'
import { ownTexels, usedRows, type UsedRows } from './usedRows'

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
