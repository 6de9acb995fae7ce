import { faultAt, type Outcome, type TextureFacts, type TextureHeader } from '@stern-gate/contract'
import { channelStatistics } from '../image/channelStatistics'
import { colourRange } from '../image/colourRange'
import { normalMapEvidence } from '../image/normalMapEvidence'
import type { Pixels } from '../image/pixels'

/** Facts of a texture from its header and its decoded pixels; when decoding failed, the header stands alone and the fault is kept. */
export function measureTexture(header: TextureHeader, pixels: Outcome<Pixels>): TextureFacts {
  if (!pixels.ok) return { kind: 'texture', header, channels: null, normal: null, range: null, notMeasured: [faultAt(pixels.fault, { measure: 'pixels' })] }
  return { kind: 'texture', header, channels: channelStatistics(pixels.value), normal: normalMapEvidence(pixels.value), range: colourRange(pixels.value), notMeasured: [] }
}

/** Facts of a texture whose texels cannot be read here: what the header says, and nothing else. */
export const measureHeaderOnly = (header: TextureHeader): TextureFacts => ({ kind: 'texture', header, channels: null, normal: null, range: null, notMeasured: [] })
