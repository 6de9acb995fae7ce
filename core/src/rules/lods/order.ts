import * as z from 'zod'
import { trianglesOf } from '../../subject/drawnPrimitives'
import { defineRule } from '../defineRule'

export const order = defineRule({
  id: 'lods/order',
  station: 'lods',
  meta: {
    title: 'Levels come from the finest to the coarsest',
    why: 'A level with more triangles than the one before it is a mistake in the numbers: the nearest is then drawn worst.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['triangles of every level'],
  },
  options: z.strictObject({}),
  messages: {
    more: 'Level {level} has {own|triangles}, level {before} only {finer|n}.',
  },
  labels: {},
  judge(subject) {
    const levels = [...subject.parts.levels]
    return levels.slice(1).flatMap(([level, nodes], i) => {
      const [before, finerNodes] = levels[i]!,
        own = trianglesOf(nodes),
        finer = trianglesOf(finerNodes)
      return own <= finer
        ? []
        : [
            {
              message: 'more' as const,
              data: { level, own, before, finer },
              place: { kind: 'node' as const, node: nodes[0]!.path },
              measure: own / Math.max(1, finer),
            },
          ]
    })
  },
})
