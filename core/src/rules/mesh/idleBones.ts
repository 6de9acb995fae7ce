import * as z from 'zod'
import { defineRule } from '../defineRule'

export const idleBones = defineRule({
  id: 'mesh/idle-bones',
  station: 'mesh',
  meta: {
    title: 'Every bone moves something',
    why:
      'Exporters write an end for every chain, and helpers of the rig come along: each costs a ' +
      'matrix a frame and moves nothing.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['joints of the skins', 'weights', 'clips'],
  },
  options: z.strictObject({ most: z.int().min(0).default(0).describe('so many idle bones are tolerated') }),
  messages: {
    idle: '{count} of {bones} bones move nothing and hold nothing: {names}.',
  },
  labels: { drop: 'Drop idle bones' },
  judge(subject, { most }) {
    const { idleBones: idle = [], bones = 0 } = subject.mesh?.file ?? {}
    if (idle.length <= most) return []
    const names = idle.slice(0, 4).map((path) => path.split('/').at(-1)!)
    return [
      {
        message: 'idle' as const,
        data: {
          count: idle.length,
          bones,
          names: names.join(', ') + (idle.length > 4 ? ` and ${idle.length - 4} more` : ''),
        },
        place: { kind: 'node' as const, node: idle[0]! },
        measure: idle.length,
        remedies: [{ remedy: 'mesh/drop-idle-bones', options: {}, label: 'drop' as const }],
      },
    ]
  },
})
