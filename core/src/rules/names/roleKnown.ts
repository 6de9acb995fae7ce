import * as z from 'zod'
import { defineRule } from '../defineRule'

export const roleKnown = defineRule({
  id: 'names/role-known',
  station: 'names',
  meta: {
    title: 'Every texture says what it carries',
    why: 'Colour space, compression and pairing all go by the role; without one each is guessed.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['role by input, by file and by name'],
  },
  options: z.strictObject({}),
  messages: {
    unknown:
      'Nothing tells what it carries: no slot uses it, and its name ends in no role ({roles} …). Its ' +
      'colour space and its block format are not judged.',
    guessed:
      'Nothing tells what it carries: no slot uses it, and its name ends in no role ({roles} …). By ' +
      'its pixels it is {guess} ({sure|%} sure): {reason}. Its colour space and its block format are ' +
      'not judged.',
  },
  labels: { set: 'Mark as {guess}' },
  judge: (subject) =>
    subject.textures
      .filter((t) => t.role === null && t.facts && t.uses.length === 0)
      .map((t) => ({
        message: t.content?.role ? ('guessed' as const) : ('unknown' as const),
        data: {
          roles: Object.keys(subject.rulebook.roles).slice(0, 3).join(', '),
          guess: t.content?.role ?? '',
          sure: t.content?.probabilities[0]?.probability ?? 0,
          reason: t.content?.reason ?? '',
        },
        place: {
          kind: 'name' as const,
          what: 'texture' as const,
          name: t.name,
          span: [0, t.name.length] as [number, number],
        },
        remedies: t.content?.role
          ? [
              {
                remedy: 'colour/set-role',
                options: { texture: t.name, role: t.content.role },
                label: 'set' as const,
              },
            ]
          : [],
      })),
})
