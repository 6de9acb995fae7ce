import * as z from 'zod'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const hasSurface = defineRule({
  id: 'collision/has-surface',
  station: 'collision',
  meta: {
    title: 'Collision is a shape alone',
    why: 'Slots and UVs on what is never drawn cost memory, and bring textures along that nobody sees.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['slots, UVs and colours of the collision meshes'],
  },
  options: z.strictObject({}),
  messages: {
    carries: '{node} carries {what}; nothing of it is drawn.',
  },
  labels: { strip: 'Take it off' },
  judge: (subject) =>
    findingsOf(subject.parts.collision, (node) => {
      const slots = new Set(node.primitives.flatMap((p) => p.slot ?? []))
      const what = [
        ...(slots.size > 0 ? [`slot ${[...slots].join(', ')}`] : []),
        ...(node.primitives.some((p) => p.uvChannels.length > 0) ? ['UVs'] : []),
        ...(node.primitives.some((p) => p.colours.length > 0) ? ['vertex colours'] : []),
      ]
      if (what.length === 0) return null
      return {
        message: 'carries' as const,
        data: { node: node.name, what: what.join(', ') },
        place: { kind: 'node' as const, node: node.path },
        remedies: [{ remedy: 'collision/strip', options: {}, label: 'strip' as const }],
      }
    }),
})
