import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const normalLength = defineRule({
  id: 'colour/normal-length',
  station: 'colour',
  meta: {
    title: 'Normal map vectors are of unit length',
    why: 'Short vectors darken the surface and soften its gloss; they come from resizing or painting over a map.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['length of the vectors'],
  },
  options: z.strictObject({
    share: z
      .number()
      .min(0)
      .max(1)
      .default(0.97)
      .describe('of the texels whose length must be within 0.1 of 1'),
  }),
  messages: {
    short: '{share|%} of the vectors are of unit length; the mean length is {mean}.',
  },
  labels: { renormalise: 'Renormalise the vectors' },
  judge: (subject, { share: least }) =>
    findingsOf(subject.textures, (texture) => {
      const normal = texture.facts?.normal
      const isNormal = texture.role === 'normal' || texture.uses.some((use) => use.input === 'normal')
      // Far too few: that is no normal map, and another rule says so
      if (!isNormal || !normal || normal.isNormalMap < 0.5 || normal.shareUnitLength >= least) return null
      return {
        message: 'short' as const,
        data: { share: normal.shareUnitLength, mean: normal.meanLength },
        place: { kind: 'texture' as const, texture: texture.name },
        gauge: {
          value: normal.shareUnitLength,
          unit: 'share' as const,
          min: least,
          scale: 'linear' as const,
        },
        measure: normal.shareUnitLength,
        remedies: [
          { remedy: 'colour/renormalise', options: { texture: texture.name }, label: 'renormalise' as const },
        ],
      }
    }),
})
