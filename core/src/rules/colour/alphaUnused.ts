import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'
import type { Subject, SubjectTexture } from '../../subject/subject'

export const alphaUnused = defineRule({
  id: 'colour/alpha-unused',
  station: 'colour',
  meta: {
    title: 'An alpha channel varies',
    why: 'Alpha that is one value everywhere doubles the memory under most block formats, and switches blending on by itself.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['least and greatest alpha'],
  },
  options: z.strictObject({}),
  messages: {
    full: 'The alpha channel is fully opaque everywhere.',
    one: 'The alpha channel is {value} of 255 everywhere.',
    none: 'The alpha channel is declared to mean nothing, and varies.',
  },
  labels: { drop: 'Drop the alpha channel' },
  judge: (subject) =>
    findingsOf(subject.textures, (texture) => {
      const alpha = texture.facts?.channels?.find((c) => c.name === 'A')
      // Blocks have their alpha whether it is wanted or not
      if (!alpha || texture.facts?.header.blockFormat) return null
      const varies = alpha.max > alpha.min
      if (varies && !meansNothing(subject, texture)) return null
      return {
        message: varies ? ('none' as const) : alpha.min >= 1 ? ('full' as const) : ('one' as const),
        data: { value: Math.round(alpha.min * 255) },
        place: { kind: 'texture' as const, texture: texture.name },
        remedies: [
          {
            remedy: 'colour/drop-alpha',
            // Said only where nothing else changes: what is no PNG becomes a file of another name
            options: {
              texture: texture.name,
              ...(alpha.min >= 1 && texture.facts?.header.format === 'png' ? { full: true } : {}),
            },
            label: 'drop' as const,
          },
        ],
      }
    }),
})

/** Whether every slot that takes its colour from the texture declares its alpha to mean nothing. */
function meansNothing({ mesh }: Subject, texture: SubjectTexture): boolean {
  const users = texture.uses.filter((u) => u.input === 'basecolor')
  return (
    users.length > 0 &&
    users.every(({ slot }) => mesh?.slots?.find((s) => s.name === slot)?.alphaMeaning === 'none')
  )
}
