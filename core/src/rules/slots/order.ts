import * as z from 'zod'
import type { NodeFacts } from '@stern-gate/contract'
import { defineRule } from '../defineRule'

export const order = defineRule({
  id: 'slots/order',
  station: 'slots',
  meta: {
    title: 'Slots come in the same order on every level',
    why: 'Slots are filled by their number; a level with another order shows metal where the stone is.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['order of the slots on every level'],
  },
  options: z.strictObject({}),
  messages: {
    order: 'Level {level} has its slots in another order than level {finest}: {own}.',
  },
  labels: { reorder: 'Order as on level {finest}' },
  judge(subject) {
    if (subject.parts.levels.size < 2) return []
    const levels = [...subject.parts.levels],
      first = levels[0]!
    const wanted = slotOrder(first[1])
    return levels.slice(1).flatMap(([level, nodes]) => {
      const own = slotOrder(nodes)
      const shared = wanted.filter((s) => own.includes(s))
      if (own.filter((s) => wanted.includes(s)).join('|') === shared.join('|')) return []
      return [
        {
          message: 'order' as const,
          data: { level, finest: first[0], own: own.join(', ') },
          place: { kind: 'node' as const, node: nodes[0]!.path },
          remedies: [{ remedy: 'slots/reorder', options: {}, label: 'reorder' as const }],
        },
      ]
    })
  },
})

const slotOrder = (nodes: readonly NodeFacts[]): string[] => [
  ...new Set(nodes.flatMap((n) => n.primitives.flatMap((p) => p.slot ?? []))),
]
