import * as z from 'zod'
import { baseName, mayMark } from '../../scene/meshParts'
import { meaningfulWords } from '../../rulebook/nameWords'
import type { Subject } from '../../subject/subject'
import { nameProposals, patternWords, renameOffer } from '../../subject/namedThings'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const agree = defineRule({
  id: 'names/agree',
  station: 'names',
  meta: {
    title: 'Names that belong together share their subject',
    why:
      'Textures, slots, levels and hulls are found by the name of their asset; one with another ' +
      'subject is paired with the wrong thing or with none.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['names of the asset and of all that belongs to it'],
  },
  options: z.strictObject({}),
  messages: {
    other: 'The {what} {name} does not name {subject} anywhere.',
  },
  labels: { rename: 'Rename to {to}' },
  judge(subject) {
    const own = meaningfulWords(baseName(subject.name)).filter(
      (w) => w.length > 1 && w !== subject.naming.family,
    )
    if (own.length === 0) return []
    // Levels and hulls carry words that tell what they are, and not of what
    const sure = own.filter((w) => !mayMark(w)),
      propose = nameProposals(subject)
    const set = setWords(subject)
    return findingsOf(subject.things, (thing) => {
      if (thing.what === 'asset') return null
      if ((thing.what === 'texture' || thing.what === 'slot') && sharesWord(thing.words.all, set)) return null
      if (sharesWord(thing.words.all, thing.what === 'node' ? sure : own)) return null
      const words = meaningfulWords(baseName(thing.name))
      // What says nothing at all is the business of names/meaningless
      if (
        words.length === 0 ||
        sharesWord(words, own) ||
        words.some((w) => own.some((o) => w.startsWith(o) || o.startsWith(w)))
      )
        return null
      const place = {
        kind: 'name' as const,
        what: thing.what,
        name: thing.full,
        span: [0, thing.name.length] as [number, number],
      }
      return {
        message: 'other' as const,
        data: { what: patternWords[thing.kind], name: thing.name, subject: own.join(' or ') },
        place,
        remedies: agrees(propose(thing), own) ? renameOffer(thing, propose(thing)) : [],
      }
    })
  },
})

/** Words of the folder that an asset lies in: things of one set share textures and slots that are called after it. */
function setWords({ path, rulebook, naming }: Subject): string[] {
  const folder = path.split('/').at(-2)?.toLowerCase() ?? ''
  const ofClass = Object.values(rulebook.classes).some((c) => c.folders.includes(folder))
  return ofClass ? [] : meaningfulWords(folder).filter((w) => w.length > 2 && w !== naming.family)
}

const agrees = (name: string | null, own: readonly string[]): boolean =>
  name !== null && sharesWord(meaningfulWords(name), own)

/** Whether two lists of a few words have one in common. */
const sharesWord = (words: readonly string[], own: readonly string[]): boolean =>
  words.some((w) => own.includes(w))
