import * as z from 'zod'
import { trianglesOf } from '../../subject/drawnPrimitives'
import { defineRule } from '../defineRule'

export const step = defineRule({
  id: 'lods/step',
  station: 'lods',
  meta: {
    title: 'Each level is clearly coarser than the one before',
    why: 'A level that saves little costs memory and a visible switch for nothing.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['triangles of every level'],
  },
  options: z.strictObject({
    ratio: z
      .number()
      .min(0.05)
      .max(1)
      .default(0.6)
      .describe('triangles of a level over those of the one before'),
  }),
  messages: {
    small:
      'Level {level} has {own|n} triangles, {share|%} of level {before}; at most {limit|%} makes a step.',
  },
  labels: {},
  judge(subject, { ratio }) {
    if (subject.parts.levels.size < 2) return []
    const levels = [...subject.parts.levels]
    return levels.slice(1).flatMap(([level, nodes], i) => {
      const [before, finerNodes] = levels[i]!,
        own = trianglesOf(nodes),
        finer = trianglesOf(finerNodes)
      const share = finer > 0 ? own / finer : 1
      if (share <= ratio) return []
      return [
        {
          message: 'small' as const,
          data: { level, own, share, before, limit: ratio },
          place: { kind: 'node' as const, node: nodes[0]!.path },
          gauge: { value: share, unit: 'share' as const, max: ratio, scale: 'linear' as const },
          measure: share,
        },
      ]
    })
  },
})
