import * as z from 'zod'
import { defineRule } from '../defineRule'

export const tiny = defineRule({
  id: 'slots/tiny',
  station: 'slots',
  meta: {
    title: 'No slot covers next to nothing',
    why: 'A slot for a handful of triangles costs as much as any other; most often they were picked by mistake.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['share of the surface by slot, level 0'],
  },
  options: z.strictObject({ share: z.number().min(0).max(1).default(0.005).describe('of the surface') }),
  messages: {
    tiny: 'Slot {slot} covers {share|%} of the surface.',
  },
  labels: {},
  judge(subject, { share: least }) {
    const shares = subject.slotShares
    if (shares.size < 2) return []
    return [...shares]
      .filter(([, share]) => share < least)
      .map(([slot, share]) => ({
        message: 'tiny' as const,
        data: { slot, share },
        place: { kind: 'slot' as const, slot },
        gauge: { value: share, unit: 'share' as const, min: least, scale: 'linear' as const },
        measure: share,
      }))
  },
})
