import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const metalBetween = defineRule({
  id: 'colour/metal-between',
  station: 'colour',
  meta: {
    title: 'A surface is metal or it is not',
    why: 'Values between are no material at all, but for rust edges and dust; they look like plastic that is lit wrong.',
    level: 'note',
    kinds: ['mesh', 'texture-set'],
    reads: ['metallic channel by input and by role'],
  },
  options: z.strictObject({
    share: z.number().min(0).max(1).default(0.4).describe('of the texels that may lie between'),
    from: z.number().min(0).max(1).default(0.15).describe('metallic above which it is between'),
    to: z.number().min(0).max(1).default(0.85).describe('metallic below which it is between'),
  }),
  messages: {
    between: '{share|%} of the metallic channel lies between {from} and {to}.',
  },
  labels: {},
  judge: (subject, { share: limit, from, to }) =>
    findingsOf(subject.textures, (texture) => {
      const channels = texture.facts?.channels
      const channel =
        texture.role === 'metallic'
          ? channels?.[0]
          : texture.role === 'orm'
            ? channels?.find((c) => c.name === 'B')
            : undefined
      if (!channel) return null
      const low = Math.ceil(from * 255),
        high = Math.floor(to * 255)
      let between = 0,
        all = 0
      for (let value = 0; value < channel.histogram.length; value++) {
        const count = channel.histogram[value]!
        all += count
        if (value >= low && value <= high) between += count
      }
      const share = between / all
      if (share <= limit) return null
      return {
        message: 'between' as const,
        data: { share, from, to },
        place: { kind: 'texture' as const, texture: texture.name },
        gauge: { value: share, unit: 'share' as const, max: limit, scale: 'linear' as const },
        measure: share,
      }
    }),
})
