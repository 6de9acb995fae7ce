import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'
import type { NamedThing } from '../../subject/subject'

export const caseCollision = defineRule({
  id: 'names/case-collision',
  station: 'names',
  meta: {
    title: 'No two names are alike but for their case',
    why: 'On a file system that does not tell them apart one overwrites the other.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['names within the asset', "names of the project's other assets"],
  },
  options: z.strictObject({}),
  messages: {
    within: '{name} and {other} differ in their case only.',
    project: 'Another asset of the project is called {other}.',
  },
  labels: {},
  judge(subject) {
    const findings: RawFinding<'within' | 'project'>[] = []
    const other = spellingsOf(subject.naming.taken)
      .get(subject.name.toLowerCase())
      ?.find((n) => n !== subject.name)
    if (other !== undefined)
      findings.push({
        message: 'project',
        data: { other },
        place: { kind: 'name', what: 'asset', name: subject.name, span: [0, subject.name.length] },
      })
    const seen = new Map<string, NamedThing[]>()
    for (const thing of subject.things) {
      if (thing.what === 'asset') continue
      const small = thing.full.toLowerCase(),
        alike = seen.get(small)
      if (!alike) seen.set(small, [thing])
      else alike.push(thing)
      const first = alike?.find((other) => other.what === thing.what)?.full
      if (first !== undefined && first !== thing.full)
        findings.push({
          message: 'within',
          data: { name: thing.full, other: first },
          place: { kind: 'name', what: thing.what, name: thing.full, span: [0, thing.name.length] },
          part: first,
        })
    }
    return findings
  },
})

/** The names of a project by their small letters; every asset of a library asks for the same ones. */
const spellings = new WeakMap<ReadonlySet<string>, ReadonlyMap<string, string[]>>()

function spellingsOf(names: ReadonlySet<string>): ReadonlyMap<string, string[]> {
  const known = spellings.get(names)
  if (known) return known
  const made = new Map<string, string[]>()
  for (const name of names) made.set(name.toLowerCase(), [...(made.get(name.toLowerCase()) ?? []), name])
  spellings.set(names, made)
  return made
}
