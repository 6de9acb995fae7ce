import * as z from 'zod'
import { nameProposals, patternWords, renameOffer } from '../../subject/namedThings'
import { defineRule, type RawFinding } from '../defineRule'
import { wordSet } from '../../caching/wordSet'

export const meaningless = defineRule({
  id: 'names/meaningless',
  station: 'names',
  meta: {
    title: 'Names say what the thing is',
    why: 'Nobody finds an untitled thing again, and a copy of a copy is mistaken for the real one.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['names of the asset, its levels and collision meshes, textures, slots and clips'],
  },
  options: z.strictObject({
    words: z
      .array(z.string())
      .default(['copy', 'untitled', 'unnamed', 'final', 'new', 'old', 'test', 'temp', 'tmp'])
      .describe('words that no name may hold'),
  }),
  messages: {
    none: 'A {what} has no name.',
    nothing: 'The {what} name {name} says nothing about the thing.',
    copy: 'The {what} name {name} ends like a numbered copy.',
    word: 'The {what} name {name} holds “{word}”, which says nothing about the thing.',
  },
  labels: { rename: 'Rename to {to}' },
  judge(subject, { words }) {
    const findings: RawFinding<'none' | 'nothing' | 'copy' | 'word', 'rename'>[] = []
    const propose = nameProposals(subject),
      unwanted = wordSet(words)
    for (const thing of subject.things) {
      const word = thing.words.all.find((w) => unwanted.has(w))
      const message =
        thing.name === ''
          ? 'none'
          : thing.words.meaningful.length === 0
            ? 'nothing'
            : isNumbered(thing.name)
              ? 'copy'
              : word
                ? 'word'
                : null
      if (message === null) continue
      findings.push({
        message,
        data: { what: patternWords[thing.kind], name: thing.name, ...(word ? { word } : {}) },
        place: {
          kind: 'name',
          what: thing.what,
          name: thing.full,
          span: [0, (thing.name || thing.full).length],
        },
        remedies: renameOffer(thing, propose(thing)),
      })
    }
    return findings
  },
})

/** A number in brackets, or three digits after a point, at the end. */
const NUMBERED = /(\(\d+\)|[ .]0\d\d)$/

/** Most names end otherwise. */
const isNumbered = (name: string): boolean =>
  isEndOfNumber(name.charCodeAt(name.length - 1)) && NUMBERED.test(name)

/** Whether a letter is a figure or a closing bracket. */
const isEndOfNumber = (letter: number): boolean => (letter >= 0x30 && letter <= 0x39) || letter === 0x29
