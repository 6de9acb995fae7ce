import * as z from 'zod'
import type { NodeFacts } from '@stern-gate/contract'
import { isCardLevel } from '../../subject/cardLevels'
import { defineRule } from '../defineRule'

export const slots = defineRule({
  id: 'lods/slots',
  station: 'lods',
  meta: {
    title: 'Every level uses the slots of level 0',
    why:
      'A level with a slot of its own is drawn with the wrong surface or none; one that lost a slot ' +
      'shows a part in another material.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['slots of every level'],
  },
  options: z.strictObject({}),
  messages: {
    own: 'Level {level} uses {slots}, which level {finest} does not have.',
    lost: { level: 'caution', text: 'Level {level} no longer uses {slots}.' },
  },
  labels: {},
  judge(subject) {
    if (subject.parts.levels.size < 2) return []
    const levels = [...subject.parts.levels],
      first = levels[0]!
    const slotsOf = (nodes: readonly NodeFacts[]) =>
      new Set(nodes.flatMap((n) => n.primitives.filter((p) => p.triangles > 0).flatMap((p) => p.slot ?? [])))
    const wanted = slotsOf(first[1])
    return levels.slice(1).flatMap(([level, nodes]) => {
      const own = slotsOf(nodes)
      // A card shows all of it by one slot of its own
      if (isCardLevel(subject, nodes)) return []
      const place = { kind: 'node' as const, node: nodes[0]!.path }
      const more = [...own].filter((s) => !wanted.has(s)),
        lost = [...wanted].filter((s) => !own.has(s))
      return [
        ...(more.length > 0
          ? [{ message: 'own' as const, data: { level, finest: first[0], slots: more.join(', ') }, place }]
          : []),
        ...(lost.length > 0
          ? [{ message: 'lost' as const, data: { level, finest: first[0], slots: lost.join(', ') }, place }]
          : []),
      ]
    })
  },
})
