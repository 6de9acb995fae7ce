import { faultAt, type Outcome, type TextureFacts, type TextureHeader } from '@stern-gate/contract'
import { channelStatistics } from '../image/channelStatistics'
import { normalMapEvidence } from '../image/normalMapEvidence'
import type { Pixels } from '../image/pixels'

/** Facts of a texture from its header and its decoded pixels; when decoding failed, the header stands alone and the fault is kept. */
export function measureTexture(header: TextureHeader, pixels: Outcome<Pixels>): TextureFacts {
  if (!pixels.ok) return { kind: 'texture', header, channels: null, normal: null, notMeasured: [faultAt(pixels.fault, { measure: 'pixels' })] }
  return { kind: 'texture', header, channels: channelStatistics(pixels.value), normal: normalMapEvidence(pixels.value), notMeasured: [] }
}
