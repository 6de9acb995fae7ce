import type { EncodingPlan } from '@stern-gate/contract'
import { storedFormat } from '../subject/storedFormat'
import type { Subject, SubjectTexture } from '../subject/subject'
import { cutoffOf } from '../surfaces/cutoffOf'

/**
 * How a texture is encoded for the target of its asset: in the format of its role, all mips, the coverage of cutouts
 * kept. Null where there is nothing to do.
 */
export function encodingPlanFor(
  { target, mesh }: Pick<Subject, 'target' | 'mesh'>,
  texture: Pick<SubjectTexture, 'facts' | 'role' | 'uses'>,
): EncodingPlan | null {
  const format = storedFormat({ target }, texture)
  if (format === null) return null
  return {
    format,
    quality: 'good',
    container: 'ktx2',
    mips: true,
    role: texture.role,
    cutoff: cutoffOf(texture.uses, mesh?.slots ?? []),
  }
}
