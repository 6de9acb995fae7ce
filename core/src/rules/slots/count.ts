import * as z from 'zod'
import { defineRule } from '../defineRule'

export const count = defineRule({
  id: 'slots/count',
  station: 'slots',
  meta: {
    title: 'No more slots than the class allows',
    why: 'Each slot is a draw call for every copy in view, and each has its own textures.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['slots that level 0 uses', 'budget of the class'],
  },
  options: z.strictObject({}),
  messages: {
    many: { byClass: true, text: '{count} slots are in use; a {class} may have {limit}.' },
  },
  labels: {},
  judge(subject) {
    const count = subject.slotShares.size,
      limit = subject.class.slots
    if (count <= limit) return []
    return [
      {
        message: 'many' as const,
        data: { count, limit, class: subject.class.title.toLowerCase() },
        place: { kind: 'asset' as const },
        gauge: { value: count, unit: 'count' as const, max: limit, scale: 'linear' as const },
        measure: count,
      },
    ]
  },
})
