import { encodedFormats, type EncodedFormat } from '@stern-gate/contract'
import type { Subject, SubjectTexture } from './subject'
import { formatAt } from './targetSizes'

/**
 * The block format that a texture is to be encoded to for the target of its asset; null where there is nothing to do: the
 * target takes plain texels, it is stored in blocks already, or it was not read.
 */
export function storedFormat(
  { target }: Pick<Subject, 'target'>,
  { facts, role }: Pick<SubjectTexture, 'facts' | 'role'>,
): EncodedFormat | null {
  if (!facts?.header.decodes || facts.header.blockFormat !== null) return null
  const format = formatAt(target, role)
  return encodedFormats.find((f) => f === format) ?? null
}
