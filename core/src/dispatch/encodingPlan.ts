import { encodedFormats, type EncodedFormat, type EncodingPlan } from '@stern-gate/contract'
import { cutoffOf } from '../surfaces/cutoffOf'
import type { Subject, SubjectTexture } from '../subject/subject'
import { formatAt } from '../subject/targetSizes'

/**
 * How a texture is encoded for the target of its asset: in the format of its role, all mips, the coverage of cutouts
 * kept. Null where there is nothing to do: the target takes plain texels, it is stored in blocks already, or it was not
 * read.
 */
export function encodingPlanFor(
  { target, mesh }: Pick<Subject, 'target' | 'mesh'>,
  { facts, role, uses }: SubjectTexture,
): EncodingPlan | null {
  if (!facts?.header.decodes || facts.header.blockFormat !== null) return null
  const format = formatAt(target, role)
  if (!isEncoded(format)) return null
  return {
    format,
    quality: 'good',
    container: 'ktx2',
    mips: true,
    role,
    cutoff: cutoffOf(uses, mesh?.slots ?? []),
  }
}

const isEncoded = (format: string): format is EncodedFormat =>
  (encodedFormats as readonly string[]).includes(format)
