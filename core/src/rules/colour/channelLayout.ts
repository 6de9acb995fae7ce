import * as z from 'zod'
import { letterWord, plainLetter } from '../../rulebook/layoutLetters'
import { packedOrder } from '../../rulebook/packedOrder'
import { layoutOfWords } from '../../rulebook/textureRole'
import type { SubjectTexture } from '../../subject/subject'
import { defineRule, type RawFinding } from '../defineRule'
import { findingsOf } from '../findingsOf'

const spelt = (order: string): string => [...order].map((letter) => letterWord(letter)).join(', ')

/** So sure the pixels have to be where the name says the same. */
const SURE_WITH_NAME = 0.6
/** So sure that the order is the one that is read, a name that says another counts for nothing. */
const SURE_AS_READ = 0.6

/** Whether two orders put the same into red, green and blue; gloss counts as roughness. */
const isSameOrder = (a: string, b: string): boolean =>
  [...a.slice(0, 3)].map(plainLetter).join('') === [...b.slice(0, 3)].map(plainLetter).join('')

type Found = RawFinding<'order' | 'named', 'repack'>

const repackFrom = (texture: SubjectTexture, from: string, to: string): NonNullable<Found['remedies']> => [
  { remedy: 'colour/repack', options: { texture: texture.name, from, to }, label: 'repack' },
]

export const channelLayout = defineRule({
  id: 'colour/channel-layout',
  station: 'colour',
  meta: {
    title: 'Packed channels stand in the order that is read',
    why: 'Metal read as occlusion makes a surface black, occlusion read as metal makes it chrome.',
    level: 'stop',
    kinds: ['mesh'],
    reads: [
      'mean, deviation and extremes of each channel',
      'inputs of the slots',
      'name of the texture, and the rulebook’s layouts',
    ],
  },
  options: z.strictObject({
    sure: z.number().min(0.5).max(1).default(0.95).describe('from which on another order is believed'),
    surePair: z
      .number()
      .min(0.5)
      .max(1)
      .default(0.985)
      .describe(
        'the same for a map of roughness and metallic alone, where there is no third channel to tell by',
      ),
    fits: z
      .number()
      .min(0)
      .max(1)
      .default(0.05)
      .describe('how well the order that is read may fit at most, so that another is believed'),
  }),
  messages: {
    order: 'Red, green and blue look like {looks} ({sure|%} sure), but are read as {read}.',
    named: {
      level: 'caution',
      text: 'Its name says that red, green and blue are {named}, but they are read as {read}; the pixels leave it open.',
    },
  },
  labels: { repack: 'Repack to {read}' },
  judge: (subject, { sure, surePair, fits }) =>
    findingsOf(subject.textures, (texture): Found | null => {
      const content = texture.facts?.content
      const inputs = new Set(texture.uses.map((u) => u.input))
      const isPacked = inputs.has('orm'),
        isPair = inputs.has('metallic-roughness')
      if (!content || (!isPacked && !isPair)) return null
      const looks = packedOrder(content, isPacked, subject.rulebook.layouts)
      const read = isPacked ? 'orm' : 'xrm'
      if (!looks || (looks.order === read && looks.probability >= SURE_AS_READ)) return null
      const place = { kind: 'texture' as const, texture: texture.name }
      const named = isPacked ? layoutOfWords(subject.rulebook, texture.words.all) : null
      const agrees = named !== null && isSameOrder(named, looks.order)
      const enough = agrees ? SURE_WITH_NAME : isPacked ? sure : surePair
      if (looks.order !== read && looks.listed && looks.fitsAsRead <= fits && looks.probability >= enough)
        return {
          message: 'order',
          data: { looks: spelt(looks.order), read: spelt(read), sure: looks.probability, order: looks.order },
          place,
          measure: looks.probability,
          remedies: repackFrom(texture, agrees ? named : looks.order, read),
        }
      // A file that was repacked says so itself, whatever it is still called
      const saysSo = texture.facts?.header.statedRole === 'orm'
      if (named === null || saysSo || isSameOrder(named, read)) return null
      return {
        message: 'named',
        data: { named: spelt(named), read: spelt(read), order: named },
        place,
        remedies: repackFrom(texture, named, read),
      }
    }),
})
