import * as z from 'zod'
import { defineRule } from '../defineRule'

export const origin = defineRule({
  id: 'files/origin',
  station: 'files',
  meta: {
    title: 'It is known where an asset came from, and its terms allow to hand it over',
    why: 'What was taken for practice is found in the shipped game by its author, and nobody knows where it came from.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['origin that was given', 'terms of the rulebook', 'what the file says of itself'],
  },
  options: z.strictObject({
    unknown: z
      .enum(['allowed', 'asked for', 'refused'])
      .default('allowed')
      .describe('an asset of which nobody said where it came from'),
  }),
  messages: {
    refused: 'Its terms are “{terms}”: it may not be handed over.',
    unknown: 'Nobody said where it came from; unknown origin may not be handed over.',
    asked: { text: 'Nobody said where it came from.', level: 'note' },
    said: {
      text: 'The file says of itself “{said}”; nobody noted that as its origin.',
      level: 'note',
    },
  },
  labels: {},
  judge(subject, { unknown }) {
    const { given, terms } = subject.origin
    const place = { kind: 'asset' as const }
    if (terms?.handOver === 'refused')
      return [{ message: 'refused' as const, data: { terms: terms.title }, place, remedies: [] }]
    const isKnown = given !== null && terms !== null
    if (isKnown) return []
    if (unknown === 'refused') return [{ message: 'unknown' as const, data: {}, place, remedies: [] }]
    const said = wordsOf(subject.mesh?.file.origin ?? null)
    if (said !== '' && given === null)
      return [{ message: 'said' as const, data: { said }, place, remedies: [] }]
    return unknown === 'asked for' ? [{ message: 'asked' as const, data: {}, place, remedies: [] }] : []
  },
})

type Said = { copyright: string; author: string; terms: string; source: string; link: string } | null
const wordsOf = (said: Said): string =>
  said
    ? [said.copyright, said.author && `by ${said.author}`, said.terms, said.source, said.link]
        .filter((part) => part !== '')
        .map((part) => (part.length > 120 ? `${part.slice(0, 119)}…` : part))
        .join('; ')
    : ''
