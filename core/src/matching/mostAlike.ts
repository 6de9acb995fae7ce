import { fileStem } from '../read/deliveryPath'
import { roleOfName } from '../rulebook/textureRole'
import { likeness } from './likeness'
import type { Subject, SubjectReference } from '../subject/subject'

/** So much a name has to be ahead of the next one. */
const LEAD = 0.05

/**
 * The texture that nobody uses whose name is most like the one that is asked for; it may not claim another
 * role.
 */
export function mostAlike(
  subject: Subject,
  reference: SubjectReference,
  least: number,
): { name: string; share: number } | null {
  const role = roleOfName(subject.rulebook, reference.asked),
    stem = fileStem(reference.asked)
  const found = subject.textures
    .filter((t) => t.uses.length === 0 && (role === null || t.role === null || t.role === role))
    .map((t) => ({ name: t.name, share: likeness(stem, t.stem) }))
    .sort((a, b) => b.share - a.share)
  const [best, next] = found
  return best && best.share >= least && best.share - (next?.share ?? 0) >= LEAD ? best : null
}

/** What a picture feeds, in words. */
export const inputsOf = ({ slots }: SubjectReference): string =>
  [...new Set(slots.map((s) => `${s.input} of ${s.slot}`))].join(', ')
