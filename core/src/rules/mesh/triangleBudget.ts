import * as z from 'zod'
import { defineRule } from '../defineRule'
import { trianglesOf } from '../../subject/drawnPrimitives'

export const triangleBudget = defineRule({
  id: 'mesh/triangle-budget',
  station: 'mesh',
  meta: {
    title: 'Triangles within the budget of the class',
    why: 'The frame time is shared out by class; one asset over its budget takes it from all others.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['triangles of level 0', 'budget of the class'],
  },
  options: z.strictObject({
    factor: z.number().positive().default(1).describe('by which the budget of the class is multiplied'),
  }),
  messages: {
    caution: {
      byClass: true,
      text: '{triangles|n} triangles at level 0; a {class} should stay under {limit|n}.',
    },
    stop: {
      byClass: true,
      level: 'stop',
      text: '{triangles|n} triangles at level 0; a {class} may have {limit|n} at the most.',
    },
  },
  labels: { reduce: 'Reduce to {triangles|triangles}' },
  judge(subject, { factor }) {
    const triangles = trianglesOf(subject.parts.finest)
    const caution = subject.class.triangles.caution * factor,
      stop = subject.class.triangles.stop * factor
    if (triangles <= caution) return []
    const over = triangles > stop
    return [
      {
        message: over ? ('stop' as const) : ('caution' as const),
        data: { triangles, class: subject.class.title.toLowerCase(), limit: over ? stop : caution },
        place: { kind: 'asset' as const },
        gauge: {
          value: triangles,
          unit: 'triangles' as const,
          max: caution,
          stopAt: stop,
          scale: 'linear' as const,
        },
        measure: triangles,
        remedies: [
          { remedy: 'mesh/reduce', options: { triangles: Math.floor(caution) }, label: 'reduce' as const },
        ],
      },
    ]
  },
})
