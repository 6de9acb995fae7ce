import * as z from 'zod'
import { defineRule } from '../defineRule'

export const fitAir = defineRule({
  id: 'collision/fit-air',
  station: 'collision',
  meta: {
    title: 'The collision claims little air',
    why:
      'Where shapes hold air a ball bounces off nothing, and nobody can step into the boat, ' +
      'through the arch or under the table.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['shapes and surface on a grid of 48 cells'],
  },
  options: z.strictObject({
    share: z.number().min(0).max(1).default(0.85).describe('of the shapes that may be air'),
  }),
  messages: {
    air: '{air|%} of the collision is air: it can be reached from outside without meeting the surface.',
  },
  labels: { several: 'Make several hulls' },
  judge(subject, { share }) {
    const air = subject.mesh?.fit?.air
    if (air === null || air === undefined || air <= share) return []
    return [
      {
        message: 'air' as const,
        data: { air },
        place: { kind: 'node' as const, node: subject.parts.collision[0]!.path },
        gauge: { value: air, unit: 'share' as const, max: share, scale: 'linear' as const },
        measure: air,
        remedies: [
          {
            remedy: 'collision/make',
            options: { kind: 'several hulls', shapes: 16 },
            label: 'several' as const,
          },
        ],
      },
    ]
  },
})
