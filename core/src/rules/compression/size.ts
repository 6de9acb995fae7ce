import * as z from 'zod'
import { isPowerOfTwo } from '../../image/powerOfTwo'
import { sideLimit } from '../../subject/targetSizes'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'
import { madeForTarget, madeMessage } from '../madeForTarget'

export const size = defineRule({
  id: 'compression/size',
  station: 'compression',
  meta: {
    title: 'Sides are powers of two where the target wants them',
    why: 'Some targets want powers of two for their mips and for repeating; other sizes are padded or refused.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['size of the texture', 'size rule of the target'],
  },
  options: z.strictObject({}),
  messages: {
    power: '{width} × {height} texels: the {target} target wants powers of two.',
    made: madeMessage,
  },
  labels: { resize: 'Resize to {toWidth} × {toHeight}' },
  judge: (subject) =>
    findingsOf(subject.textures, (texture) => {
      if (!texture.facts || subject.target.size !== 'power-of-two') return null
      const { width, height } = texture.facts.header
      if (isPowerOfTwo(width) && isPowerOfTwo(height)) return null
      const made = madeForTarget(subject, texture)
      // What is too large as well is told by compression/largest-side
      if (made) return Math.max(width, height) > sideLimit(subject) ? null : made
      const [toWidth, toHeight] = [width, height].map((v) => 2 ** Math.max(2, Math.round(Math.log2(v)))) as [
        number,
        number,
      ]
      return {
        message: 'power' as const,
        data: { width, height, target: subject.target.title.toLowerCase(), toWidth, toHeight },
        place: { kind: 'texture' as const, texture: texture.name },
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
