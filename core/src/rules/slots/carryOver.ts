import * as z from 'zod'
import type { CarriedSetting } from '@stern-gate/contract'
import { carryOver as carried } from '../../surfaces/carryOver'
import { defineRule } from '../defineRule'

export const carryOver = defineRule({
  id: 'slots/carry-over',
  station: 'slots',
  meta: {
    title: 'The target draws what a surface sets',
    why: 'What a target does not take is left out without a word: glass becomes white paint, a coat is gone.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['values, inputs and UV channels of every slot', 'what the target takes'],
  },
  options: z.strictObject({}),
  messages: {
    lost: 'On the {target} target, slot {slot} does not keep its {settings}: {how}.',
  },
  labels: {},
  judge(subject) {
    const bySlot = new Map<string, CarriedSetting[]>()
    for (const line of carried(subject.mesh?.slots ?? [], subject.target))
      if (line.fate !== 'kept') bySlot.set(line.slot, [...(bySlot.get(line.slot) ?? []), line])
    return [...bySlot].map(([slot, lines]) => ({
      message: 'lost' as const,
      data: {
        slot,
        target: subject.target.title.toLowerCase(),
        settings: lines.map((l) => l.setting).join(', '),
        how: lines.map((l) => l.how).join('; '),
        count: lines.length,
      },
      place: { kind: 'slot' as const, slot },
      measure: lines.length,
    }))
  },
})
