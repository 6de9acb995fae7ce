import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const corners = defineRule({
  id: 'collision/corners',
  station: 'collision',
  meta: {
    title: 'Collision shapes have few corners',
    why: 'Every corner of a shape is tested for every contact, in every frame.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['corners of the hulls'],
  },
  options: z.strictObject({ most: z.int().min(4).default(64).describe('corners of one shape') }),
  messages: {
    many: '{corners|n} corners in one shape; at most {most} are asked for.',
  },
  labels: {},
  judge: (subject, { most }) =>
    findingsOf(subject.parts.collision, (node) => {
      const shells = Math.max(1, node.topology?.shells ?? 1),
        corners = Math.ceil((node.topology?.points ?? 0) / shells)
      if (corners <= most) return null
      return {
        message: 'many' as const,
        data: { corners, most },
        place: { kind: 'node' as const, node: node.path },
        gauge: { value: corners, unit: 'count' as const, max: most, scale: 'linear' as const },
        measure: corners,
      }
    }),
})
