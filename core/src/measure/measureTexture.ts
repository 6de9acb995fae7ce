import {
  bad,
  faultAt,
  type Outcome,
  type TextureFacts,
  type TextureHeader,
  type UsedFacts,
  formatWords,
} from '@stern-gate/contract'
import { channelStatistics } from '../image/channelStatistics'
import { colourRange } from '../image/colourRange'
import { contentSurvey } from '../image/contentSurvey'
import { emptyResolution } from '../image/emptyResolution'
import { findGround } from '../image/findGround'
import { groundCells } from '../image/groundCells'
import { normalMapEvidence } from '../image/normalMapEvidence'
import { withThird } from '../image/mapConversions'
import type { Pixels } from '../image/pixels'
import { sampledTexels } from '../image/sampledTexels'
import { measureUsedTexels } from '../image/usedTexels'

/**
 * Facts of a texture from its header and its decoded pixels; when decoding failed, the header stands alone
 * and the fault is kept.
 */
export function measureTexture(header: TextureHeader, pixels: Outcome<Pixels>): TextureFacts {
  if (!pixels.ok)
    return {
      kind: 'texture',
      header,
      channels: null,
      normal: null,
      range: null,
      ground: null,
      content: null,
      floats: null,
      resolution: null,
      used: null,
      notMeasured: [faultAt(pixels.fault, { measure: 'pixels' })],
    }
  const sample = sampledTexels(pixels.value),
    ground = findGround(pixels.value, sample),
    content = contentSurvey(pixels.value, sample, ground)
  const normal = isPairOfSlopes(header)
    ? normalMapEvidence(withThird(pixels.value))
    : normalMapEvidence(pixels.value, sample, ground, content)
  const channels = channelStatistics(pixels.value, isPairOfSlopes(header) ? 'pair' : 'grey and alpha')
  return {
    kind: 'texture',
    header,
    channels,
    normal,
    range: colourRange(pixels.value, sample, ground?.facts),
    ground: ground && { ...ground.facts, cells: groundCells(pixels.value, ground.facts) },
    content,
    floats: pixels.value.floats ?? null,
    // One flat value needs no looking at
    resolution: channels.every((c) => c.min === c.max) ? null : emptyResolution(pixels.value),
    used: null,
    notMeasured: [],
  }
}

/** The same figures over the texels that islands use, by their cells; null where hardly any are. */
export const measureUsed = (header: TextureHeader, pixels: Pixels, cells: Uint32Array): UsedFacts | null =>
  measureUsedTexels(pixels, cells, isPairOfSlopes(header))

/** Facts of a texture whose texels cannot be read here: what the header says, and nothing else. */
export const measureHeaderOnly = (header: TextureHeader): TextureFacts => ({
  kind: 'texture',
  header,
  channels: null,
  normal: null,
  range: null,
  ground: null,
  content: null,
  floats: null,
  resolution: null,
  used: null,
  notMeasured: [
    bad(
      'image/format-not-read',
      `The texels of this kind of ${formatWords(header.format)} are not read here; only its header is.`,
      'Deliver the picture as PNG, or as a plain file of one part with a value for each texel.',
      { measure: 'pixels' },
    ).fault,
  ],
})

/** Formats of two channels, which are there for normal maps. */
const isPairOfSlopes = ({ blockFormat, channels }: TextureHeader): boolean =>
  channels === 2 && blockFormat !== null && /^(BC5|EAC)/.test(blockFormat)
