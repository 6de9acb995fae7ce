import * as z from 'zod'
import type { Bounds } from '@stern-gate/contract'
import { boundsSize, joinBounds, longestSide } from '../../geometry/pointBounds'
import { isCardLevel } from '../../subject/cardLevels'
import { defineRule } from '../defineRule'

export const bounds = defineRule({
  id: 'lods/bounds',
  station: 'lods',
  meta: {
    title: 'Every level has the bounds of level 0',
    why: 'A level that is larger, smaller or elsewhere jumps when it is switched to, and is culled at the wrong moment.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['bounds of every level'],
  },
  options: z.strictObject({
    share: z
      .number()
      .min(0)
      .max(1)
      .default(0.05)
      .describe('of the longest side by which a face of the bounds may move'),
  }),
  messages: {
    moved: 'The bounds of level {level} differ by up to {distance|m} from those of level {finest}.',
  },
  labels: { align: 'Move level {level} onto it' },
  judge(subject, { share }) {
    const wanted = subject.bounds
    if (subject.parts.levels.size < 2 || !wanted) return []
    const levels = [...subject.parts.levels],
      first = levels[0]!
    const limit = longestSide(wanted) * share
    return levels.slice(1).flatMap(([level, nodes]) => {
      const own = joinBounds(nodes.map((n) => n.bounds))
      // Cards cross in the middle: none reaches as far as leaves between them
      if (!own || isCardLevel(subject, nodes)) return []
      const distance = Math.max(
        ...[0, 1, 2].map((i) =>
          Math.max(Math.abs(own.min[i]! - wanted.min[i]!), Math.abs(own.max[i]! - wanted.max[i]!)),
        ),
      )
      if (distance <= limit) return []
      return [
        {
          message: 'moved' as const,
          data: { level, finest: first[0], distance },
          place: { kind: 'node' as const, node: nodes[0]!.path },
          gauge: { value: distance, unit: 'm' as const, max: limit, scale: 'linear' as const },
          measure: distance,
          ...(isElsewhere(own, wanted, limit) && nodes.every((n) => !n.skinned && !n.animated)
            ? { remedies: [{ remedy: 'lods/align', options: { level }, label: 'align' as const }] }
            : {}),
        },
      ]
    })
  },
})

/** Whether a level is as large as it should be and only lies elsewhere. */
const isElsewhere = (own: Bounds, wanted: Bounds, limit: number): boolean =>
  boundsSize(own).every((side, k) => Math.abs(side - boundsSize(wanted)[k]!) <= limit)
