import * as z from 'zod'
import { blockFormats } from '@stern-gate/contract'
import { isPowerOfTwo } from '../../image/powerOfTwo'
import { formatAt, sideLimit } from '../../subject/targetSizes'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'
import { madeForTarget, madeMessage } from '../madeForTarget'

export const blockMultiple = defineRule({
  id: 'compression/block-multiple',
  station: 'compression',
  meta: {
    title: 'Sides are multiples of the block',
    why: 'Block formats with 4 × 4 texels need whole blocks; other sizes are padded, blurred at the edge, or refused.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['size of the texture', 'block format of its role at the target'],
  },
  options: z.strictObject({}),
  messages: {
    block: '{width} × {height} texels; {format} wants multiples of {side}.',
    made: madeMessage,
  },
  labels: { resize: 'Resize to {toWidth} × {toHeight}' },
  judge: (subject) =>
    findingsOf(subject.textures, (texture) => {
      if (!texture.facts) return null
      const { width, height } = texture.facts.header
      const format = formatAt(subject.target, texture.role),
        side = blockFormats[format].width
      // Blocks of other sizes cut off what they need not; powers of two are the business of compression/size
      const alone = subject.target.size === 'power-of-two' && !(isPowerOfTwo(width) && isPowerOfTwo(height))
      if (side !== 4 || alone || (width % 4 === 0 && height % 4 === 0)) return null
      const made = madeForTarget(subject, texture)
      // What is too large as well is told by compression/largest-side
      if (made) return Math.max(width, height) > sideLimit(subject) ? null : made
      const [toWidth, toHeight] = [width, height].map((v) => Math.max(4, Math.round(v / 4) * 4)) as [
        number,
        number,
      ]
      return {
        message: 'block' as const,
        data: { width, height, format, side, toWidth, toHeight },
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
