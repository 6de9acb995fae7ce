import * as z from 'zod'
import type { NodeFacts } from '@stern-gate/contract'
import { defineRule } from '../defineRule'

export const channels = defineRule({
  id: 'lods/channels',
  station: 'lods',
  meta: {
    title: 'Every level carries what level 0 does',
    why:
      'A level without its lightmap channel, vertex colours or weights is lit, coloured or posed otherwise ' +
      'as soon as it is switched to.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['UV channels, vertex colours and weights of every level'],
  },
  options: z.strictObject({}),
  messages: {
    lost: 'Level {level} has no {what}, which level {finest} has.',
  },
  labels: {},
  judge(subject) {
    const [first, ...others] = [...subject.parts.levels]
    if (!first) return []
    const wanted = carriedBy(first[1])
    return others.flatMap(([level, nodes]) => {
      const own = carriedBy(nodes)
      const lost = [...wanted].filter((what) => !own.has(what))
      return lost.length === 0
        ? []
        : [
            {
              message: 'lost' as const,
              data: { level, finest: first[0], what: lost.join(' and no ') },
              place: { kind: 'node' as const, node: nodes[0]!.path },
              measure: lost.length,
            },
          ]
    })
  },
})

/** What the triangles of a level carry besides their places, in words. */
function carriedBy(nodes: readonly NodeFacts[]): Set<string> {
  const found = new Set<string>()
  for (const { primitives } of nodes)
    for (const { triangles, uvChannels, colours, skin } of primitives) {
      if (triangles === 0) continue
      for (const { channel } of uvChannels) found.add(`UV${channel}`)
      if (colours.length > 0) found.add('vertex colours')
      if (skin) found.add('weights of bones')
    }
  return found
}
