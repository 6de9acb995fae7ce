import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const duplicateContent = defineRule({
  id: 'files/duplicate-content',
  station: 'files',
  meta: {
    title: 'No two files hold the same bytes',
    why: 'The same texture under two names takes its memory twice and is mended only once.',
    level: 'note',
    kinds: ['mesh', 'texture-set'],
    reads: ['hash of every file'],
  },
  options: z.strictObject({}),
  messages: {
    same: 'Holds the same bytes as {other}.',
  },
  labels: {},
  judge(subject) {
    const first = new Map<string, string>()
    return findingsOf(subject.textures, (texture) => {
      if (texture.sha256 === null) return null
      const other = first.get(texture.sha256)
      if (other === undefined) first.set(texture.sha256, texture.name)
      return other === undefined
        ? null
        : {
            message: 'same' as const,
            data: { other },
            place: { kind: 'texture' as const, texture: texture.name },
          }
    })
  },
})
