import {
  bad,
  faultAt,
  type Fault,
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
import { findGround, type Ground } from '../image/findGround'
import { groundCells } from '../image/groundCells'
import { normalMapEvidence } from '../image/normalMapEvidence'
import { withThird } from '../image/mapConversions'
import type { Pixels } from '../image/pixels'
import { sampledTexels, type SampledTexels } from '../image/sampledTexels'
import { measureUsedTexels } from '../image/usedTexels'

/**
 * Facts of a texture from its header and its decoded pixels; when decoding failed, the header stands alone
 * and the fault is kept.
 */
export const measureTexture = (header: TextureHeader, pixels: Outcome<Pixels>): TextureFacts =>
  measureTextureParts(header, pixels, []).facts

/** The same with the figures over parts that islands use, by the bits of their cells, each under its key. */
export function measureTextureParts(
  header: TextureHeader,
  pixels: Outcome<Pixels>,
  masks: readonly { key: string; bits: Uint32Array }[],
): { facts: TextureFacts; used: Record<string, UsedFacts | null> } {
  if (!pixels.ok) return { facts: undecoded(header, pixels.fault), used: {} }
  const sample = sampledTexels(pixels.value),
    ground = findGround(pixels.value, sample),
    facts = wholeFacts(header, pixels.value, sample, ground)
  const used = masks.map(({ key, bits }) => [
    key,
    measureUsedTexels(pixels.value, bits, isPairOfSlopes(header), { sample, ground, facts }),
  ])
  return { facts, used: Object.fromEntries(used) as Record<string, UsedFacts | null> }
}

function undecoded(header: TextureHeader, fault: Fault): TextureFacts {
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
    notMeasured: [faultAt(fault, { measure: 'pixels' })],
  }
}

function wholeFacts(
  header: TextureHeader,
  pixels: Pixels,
  sample: SampledTexels,
  ground: Ground | null,
): TextureFacts {
  const content = contentSurvey(pixels, sample, ground)
  const normal = isPairOfSlopes(header)
    ? normalMapEvidence(withThird(pixels))
    : normalMapEvidence(pixels, sample, ground, content)
  const channels = channelStatistics(pixels, isPairOfSlopes(header) ? 'pair' : 'grey and alpha')
  return {
    kind: 'texture',
    header,
    channels,
    normal,
    range: colourRange(pixels, sample, ground?.facts),
    ground: ground && { ...ground.facts, cells: groundCells(pixels, ground.facts) },
    content,
    floats: pixels.floats ?? null,
    // One flat value needs no looking at
    resolution: channels.every((c) => c.min === c.max) ? null : emptyResolution(pixels),
    used: null,
    notMeasured: [],
  }
}

/** The same figures over the texels that islands use, by their cells; null where hardly any are. */
export const measureUsed = (header: TextureHeader, pixels: Pixels, cells: Uint32Array): UsedFacts | null =>
  measureUsedTexels(pixels, cells, isPairOfSlopes(header))

/** Facts of a texture whose texels cannot be read here: what the header says, and nothing else. */
export const measureHeaderOnly = (header: TextureHeader): TextureFacts =>
  undecoded(
    header,
    bad(
      'image/format-not-read',
      `The texels of this kind of ${formatWords(header.format)} are not read here; only its header is.`,
      'Deliver the picture as PNG, or as a plain file of one part with a value for each texel.',
    ).fault,
  )

/** Formats of two channels, which are there for normal maps. */
const isPairOfSlopes = ({ blockFormat, channels }: TextureHeader): boolean =>
  channels === 2 && blockFormat !== null && /^(BC5|EAC)/.test(blockFormat)
