import { z } from 'zod'
import { defineRule } from '../defineRule'

export const isPowerOfTwo = (n: number): boolean => n > 0 && (n & (n - 1)) === 0

export const size = defineRule({
  id: 'compression/size',
  station: 'compression',
  meta: {
    title: 'Texture sides suit the target',
    why: 'Block compression works in blocks of four, and some targets want powers of two for their mips; other sizes are padded or refused.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['size of the texture', 'size rule of the target'],
  },
  options: z.strictObject({}),
  messages: {
    power: '{width} × {height} texels: the {target} target wants powers of two.',
    four: '{width} × {height} texels: the {target} target wants multiples of four.',
  },
  labels: {},
  judge: (subject) =>
    subject.textures.flatMap((texture) => {
      if (!texture.facts) return []
      const { width, height } = texture.facts.header
      const wantsPower = subject.target.size === 'power-of-two'
      const fits = (n: number) => (wantsPower ? isPowerOfTwo(n) : n % 4 === 0)
      if (fits(width) && fits(height)) return []
      return [{ message: wantsPower ? ('power' as const) : ('four' as const), data: { width, height, target: subject.target.title.toLowerCase() }, place: { kind: 'texture' as const, texture: texture.name } }]
    }),
})
