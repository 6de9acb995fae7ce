import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const baseRange = defineRule({
  id: 'colour/base-range',
  station: 'colour',
  meta: {
    title: 'Base colour stays in the range of real surfaces',
    why: 'Surfaces darker than coal or brighter than snow cannot be lit right: they swallow or throw back more light than there is.',
    level: 'note',
    kinds: ['mesh', 'texture-set'],
    reads: ['brightness of base colour texels'],
  },
  options: z.strictObject({
    share: z
      .number()
      .min(0)
      .max(1)
      .default(0.25)
      .describe('of the texels that may lie outside sRGB 30 to 240'),
  }),
  messages: {
    dark: '{share|%} of the texels are darker than sRGB 30.',
    bright: '{share|%} of the texels are brighter than sRGB 240.',
  },
  labels: {},
  judge: (subject, { share: limit }) =>
    findingsOf(subject.textures, (texture) => {
      const range = texture.facts?.range
      if (texture.role !== 'basecolor' || !range) return null
      const worse = range.dark >= range.bright ? ('dark' as const) : ('bright' as const),
        share = range[worse]
      if (share <= limit) return null
      return {
        message: worse,
        data: { share },
        place: { kind: 'texture' as const, texture: texture.name },
        gauge: { value: share, unit: 'share' as const, max: limit, scale: 'linear' as const },
        measure: share,
      }
    }),
})
