import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const mips = defineRule({
  id: 'compression/mips',
  station: 'compression',
  meta: {
    title: 'A stored block texture has all its mips',
    why:
      'Without mips a distant surface flickers and reads more memory than it shows; they cannot be ' +
      'made at load time from blocks.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['levels that the file stores'],
  },
  options: z.strictObject({}),
  messages: {
    none: 'Stored as {format} with one level only; {wanted} are needed.',
    short: 'Stored as {format} with {mips} levels; {wanted} are needed.',
  },
  labels: {},
  judge: (subject) =>
    findingsOf(subject.textures, (texture) => {
      const header = texture.facts?.header
      if (!header || !(header.blockFormat !== null || header.format === 'ktx2' || header.format === 'dds'))
        return null
      const wanted = Math.floor(Math.log2(Math.max(header.width, header.height))) + 1
      if (header.mips >= wanted) return null
      return {
        message: header.mips === 1 ? ('none' as const) : ('short' as const),
        data: { format: header.blockFormat ?? 'plain texels', mips: header.mips, wanted },
        place: { kind: 'texture' as const, texture: texture.name },
        gauge: { value: header.mips, unit: 'count' as const, min: wanted, scale: 'linear' as const },
      }
    }),
})
