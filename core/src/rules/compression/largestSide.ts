import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'
import { madeForTarget, madeMessage } from '../madeForTarget'

export const largestSide = defineRule({
  id: 'compression/largest-side',
  station: 'compression',
  meta: {
    title: 'No side is larger than the target takes',
    why: 'A texture over the limit is shrunk at load time by whatever the device thinks best, or not shown.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['size of the texture', 'limit of the target'],
  },
  options: z.strictObject({
    factor: z.number().positive().default(1).describe('by which the limit of the target is multiplied'),
  }),
  messages: {
    large: '{width} × {height} texels; the {target} target takes {limit} a side.',
    made: madeMessage,
  },
  labels: { resize: 'Resize to {toWidth} × {toHeight}' },
  judge: (subject, { factor }) =>
    findingsOf(subject.textures, (texture) => {
      if (!texture.facts) return null
      const { width, height } = texture.facts.header
      const limit = Math.floor(subject.target.largestSide * factor),
        largest = Math.max(width, height)
      if (largest <= limit) return null
      const made = madeForTarget(subject, texture)
      if (made) return made
      const [toWidth, toHeight] = [width, height].map((v) =>
        Math.max(1, Math.round((v * limit) / largest)),
      ) as [number, number]
      return {
        message: 'large' as const,
        data: { width, height, limit, target: subject.target.title.toLowerCase(), toWidth, toHeight },
        place: { kind: 'texture' as const, texture: texture.name },
        gauge: { value: largest, unit: 'texels' as const, max: limit, scale: 'log' as const },
        measure: largest,
        remedies: [
          {
            remedy: 'compression/resize',
            options: { texture: texture.name, width: toWidth, height: toHeight },
            label: 'resize' as const,
          },
        ],
      }
    }),
})
