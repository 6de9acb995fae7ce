import * as z from 'zod'
import { fitsPattern, matchName } from '../../rulebook/pattern'
import { patternOf } from '../../rulebook/patternCache'
import { defineRule, type RawFinding } from '../defineRule'
import { nameProposals, patternWords, renameOffer } from '../../subject/namedThings'

export const pattern = defineRule({
  id: 'names/pattern',
  station: 'names',
  meta: {
    title: "Names follow the project's patterns",
    why: 'Finding, pairing and packing all go by name; one that does not fit is done by hand each time.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['names of the asset, its levels and collision meshes, textures, slots and clips'],
  },
  options: z.strictObject({
    check: z
      .array(z.enum(['asset', 'node', 'texture', 'slot', 'clip']))
      .default(['asset', 'node', 'texture', 'slot', 'clip'])
      .describe('which names are looked at'),
  }),
  messages: {
    misfit: 'The {what} name {name} does not fit from “{rest}” on: {expected} was expected there.',
    short: 'The {what} name {name} ends too early: {expected} was expected after it.',
  },
  labels: { rename: 'Rename to {to}' },
  judge(subject, { check }) {
    const findings: RawFinding<'misfit' | 'short', 'rename'>[] = []
    const propose = nameProposals(subject)
    for (const thing of subject.things) {
      // What has no name at all is the business of names/meaningless
      if (!check.includes(thing.what) || thing.name === '') continue
      const compiled = patternOf(subject.rulebook.patterns[thing.kind])
      if (!compiled.ok || fitsPattern(compiled.value, thing.name)) continue
      const match = matchName(compiled.value, thing.name)
      if (match.fits) continue
      const to = propose(thing)
      findings.push({
        message: match.from < thing.name.length ? 'misfit' : 'short',
        data: {
          what: patternWords[thing.kind],
          name: thing.name,
          rest: thing.name.slice(match.from),
          expected: match.expected,
          ...(to ? { proposal: to } : {}),
        },
        place: { kind: 'name', what: thing.what, name: thing.full, span: [match.from, thing.name.length] },
        remedies: renameOffer(thing, to),
      })
    }
    return findings
  },
})
