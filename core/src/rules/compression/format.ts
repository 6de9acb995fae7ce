import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

/** Kinds of block formats that a device reads or does not, by the beginning of their names. */
const families = ['BC', 'ASTC', 'ETC2', 'EAC', 'ETC1S', 'UASTC'] as const
type Family = (typeof families)[number]

/** Formats that are made into any other when they are loaded. */
const anywhere: readonly Family[] = ['ETC1S', 'UASTC']

const familyOf = (format: string): Family | null => families.find((f) => format.startsWith(f)) ?? null
/** EAC is what ETC2 calls its formats of one and two channels. */
const sameDevice = (a: Family, b: Family): boolean =>
  a === b || (a === 'EAC' && b === 'ETC2') || (anywhere.includes(a) && anywhere.includes(b))

export const format = defineRule({
  id: 'compression/format',
  station: 'compression',
  meta: {
    title: 'A stored block format is one that the target asks for',
    why:
      'A device cannot read blocks of another family at all, ' +
      'and blocks that are meant for another role lose what this one needs.',
    level: 'stop',
    kinds: ['mesh', 'texture-set'],
    reads: ['block format that the file stores', 'formats of the target by role'],
  },
  options: z.strictObject({}),
  messages: {
    device: 'Stored as {format}, which the {target} target does not read; it takes {wanted} for {role}.',
    role: {
      level: 'caution',
      text: 'Stored as {format}; the {target} target takes {wanted} for {role}.',
    },
  },
  labels: {},
  judge: (subject) =>
    findingsOf(subject.textures, (texture) => {
      const stored = texture.facts?.header.blockFormat
      if (!stored || texture.role === null) return null
      const wanted = subject.target.formats[texture.role]
      const own = familyOf(stored),
        asked = familyOf(wanted)
      if (stored === wanted || own === null || wanted === 'plain' || asked === null) return null
      const isRead = sameDevice(own, asked) || anywhere.includes(own)
      if (isRead && anywhere.includes(own)) return null
      return {
        message: isRead ? ('role' as const) : ('device' as const),
        data: {
          format: stored,
          wanted,
          role: texture.role,
          target: subject.target.title.toLowerCase(),
        },
        place: { kind: 'texture' as const, texture: texture.name },
      }
    }),
})
