import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const flat = defineRule({
  id: 'colour/flat',
  station: 'colour',
  meta: {
    title: 'A texture is more than one flat value',
    why: 'One value over millions of texels is a number in the slot, or a texture of four texels.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['least and greatest value of every channel'],
  },
  options: z.strictObject({
    side: z.int().min(1).default(8).describe('texels a side up to which a flat texture is no waste'),
    spread: z.number().min(0).max(0.1).default(0).describe('between least and greatest value, still flat'),
  }),
  messages: {
    flat: 'All {width} × {height} texels have the same value.',
  },
  labels: { shrink: 'Shrink to 4 × 4' },
  judge: (subject, { side, spread }) =>
    findingsOf(subject.textures, (texture) => {
      const { channels, header } = texture.facts ?? {}
      if (
        !channels ||
        !header ||
        Math.max(header.width, header.height) <= side ||
        channels.some((c) => c.max - c.min > spread)
      )
        return null
      return {
        message: 'flat' as const,
        data: { width: header.width, height: header.height },
        place: { kind: 'texture' as const, texture: texture.name },
        remedies: [
          {
            remedy: 'colour/shrink',
            options: { texture: texture.name, side: 4, spread },
            label: 'shrink' as const,
          },
        ],
      }
    }),
})
