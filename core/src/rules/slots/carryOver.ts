import * as z from 'zod'
import type { CarriedSetting } from '@stern-gate/contract'
import type { Subject } from '../../subject/subject'
import { carryOver as carried } from '../../surfaces/carryOver'
import { maskOfSlot } from '../../surfaces/maskOfSlot'
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
  labels: { bake: 'Bake it into the maps' },
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
      remedies: baking(subject, slot, lines),
    }))
  },
})

/** Tints and a second layer can be shown by plain maps, where the mask that they need is there. */
function baking(subject: Subject, name: string, lines: readonly CarriedSetting[]) {
  const slot = subject.mesh?.slots?.find((s) => s.name === name)
  const isLost = (setting: CarriedSetting['setting']): boolean => lines.some((l) => l.setting === setting)
  if (!slot || !((isLost('second layer') && slot.layer) || (isLost('mask') && slot.tints.length > 0)))
    return []
  const mask = maskOfSlot(subject.textures, name)?.name ?? null
  if (mask === null && (slot.tints.length > 0 || slot.layer?.by.kind === 'mask')) return []
  return [{ remedy: 'slots/bake-look', options: { slot: name, mask }, label: 'bake' as const }]
}
