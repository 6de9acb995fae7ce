import * as z from 'zod'
import { joinBounds, longestSide } from '../../geometry/pointBounds'
import { defineRule } from '../defineRule'

export const scale = defineRule({
  id: 'collision/scale',
  station: 'collision',
  meta: {
    title: 'The collision is as large as the mesh',
    why: 'A collision mesh that was exported in other units stops everybody ten metres before the wall, or nobody at all.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['bounds of the finest level and of the collision'],
  },
  options: z.strictObject({
    factor: z.number().gt(1).default(3).describe('by which the longest sides may differ, either way'),
  }),
  messages: {
    large: 'The collision is {times|x} as long as the mesh: {own|m} against {wanted|m}.',
    small: 'The collision is only {own|m} long, the mesh {wanted|m}.',
  },
  labels: {},
  judge(subject, { factor }) {
    const { collision } = subject.parts
    const bounds = joinBounds(collision.map((n) => n.bounds))
    if (!bounds || !subject.bounds) return []
    const own = longestSide(bounds),
      wanted = longestSide(subject.bounds)
    if (!(own > 0 && wanted > 0)) return []
    const times = own / wanted
    if (times <= factor && times >= 1 / factor) return []
    return [
      {
        message: times > 1 ? ('large' as const) : ('small' as const),
        data: { times, own, wanted },
        place: { kind: 'node' as const, node: collision[0]!.path },
        gauge: {
          value: own,
          unit: 'm' as const,
          min: wanted / factor,
          max: wanted * factor,
          scale: 'log' as const,
        },
        measure: Math.max(times, 1 / times),
      },
    ]
  },
})
