import * as z from 'zod'
import { nameProposals, patternWords, renameOffer } from '../../subject/namedThings'
import { defineRule, type RawFinding } from '../defineRule'

export const characters = defineRule({
  id: 'names/characters',
  station: 'names',
  meta: {
    title: 'Names hold only letters that work everywhere',
    why:
      'Spaces, capitals apart, letters beyond ASCII and device names break on one file system, in ' +
      'one script or in one archive, and never at the desk where they were made.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['names of the asset, its levels and collision meshes, textures, slots and clips'],
  },
  options: z.strictObject({
    longest: z.int().min(8).max(200).default(64).describe('characters in one name'),
  }),
  messages: {
    letters: 'The {what} name {name} holds {which}.',
    long: 'The {what} name {name} has {length} characters; at most {longest}.',
    device: 'The {what} name {name} is the name of a device on some systems.',
    end: 'The {what} name {name} ends with a dot or a space, or begins with one.',
  },
  labels: { rename: 'Rename to {to}' },
  judge(subject, { longest }) {
    const findings: RawFinding<'letters' | 'long' | 'device' | 'end', 'rename'>[] = []
    const propose = nameProposals(subject)
    for (const thing of subject.things) {
      const { name } = thing
      if (PLAIN.test(name) && name.length <= longest && (name.length > LONGEST_DEVICE || !DEVICE.test(name)))
        continue
      const bad = [...new Set(name.match(NOT_PLAIN) ?? [])]
      const message =
        bad.length > 0
          ? 'letters'
          : DEVICE.test(name)
            ? 'device'
            : /^[. ]|[. ]$/.test(name)
              ? 'end'
              : name.length > longest
                ? 'long'
                : null
      if (message === null) continue
      const from = bad.length > 0 ? name.indexOf(bad[0]!) : 0
      findings.push({
        message,
        data: {
          what: patternWords[thing.kind],
          name,
          which: bad.map((c) => (c === ' ' ? 'a space' : `“${c}”`)).join(', ') || 'nothing',
          length: name.length,
          longest,
        },
        place: {
          kind: 'name',
          what: thing.what,
          name: thing.full,
          span: [from, message === 'letters' ? from + bad[0]!.length : name.length],
        },
        remedies: renameOffer(thing, propose(thing)),
      })
    }
    return findings
  },
})

/** One character that a reader sees: with its accents, and whole where it takes two units. */
const NOT_PLAIN = /[^A-Za-z0-9._@-]\p{M}*/gu
/** Nothing to say about the letters of such a name. */
const PLAIN = /^[A-Za-z0-9_@-]+$/
const LONGEST_DEVICE = 4
const DEVICE = /^(con|prn|aux|nul|com[1-9]|lpt[1-9])(\.|$)/i
