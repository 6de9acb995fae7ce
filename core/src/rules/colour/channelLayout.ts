import * as z from 'zod'
import { layoutLetters } from '../../rulebook/layoutLetters'
import { packedOrder } from '../../rulebook/packedOrder'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

const spelt = (order: string): string =>
  [...order].map((letter) => layoutLetters[letter]?.role ?? 'anything').join(', ')

export const channelLayout = defineRule({
  id: 'colour/channel-layout',
  station: 'colour',
  meta: {
    title: 'Packed channels stand in the order that is read',
    why: 'Metal read as occlusion makes a surface black, occlusion read as metal makes it chrome.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['mean, deviation and extremes of each channel', 'inputs of the slots'],
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
  },
  labels: { repack: 'Repack to {read}' },
  judge: (subject, { sure, surePair, fits }) =>
    findingsOf(subject.textures, (texture) => {
      const content = texture.facts?.content
      const inputs = new Set(texture.uses.map((u) => u.input))
      const isPacked = inputs.has('orm'),
        isPair = inputs.has('metallic-roughness')
      if (!content || (!isPacked && !isPair)) return null
      const looks = packedOrder(content, isPacked)
      const read = isPacked ? 'orm' : 'xrm'
      if (
        !looks ||
        looks.order === read ||
        looks.probability < (isPacked ? sure : surePair) ||
        looks.fitsAsRead > fits
      )
        return null
      return {
        message: 'order' as const,
        data: { looks: spelt(looks.order), read: spelt(read), sure: looks.probability, order: looks.order },
        place: { kind: 'texture' as const, texture: texture.name },
        measure: looks.probability,
        remedies: [
          {
            remedy: 'colour/repack',
            options: { texture: texture.name, from: looks.order, to: read },
            label: 'repack' as const,
          },
        ],
      }
    }),
})
