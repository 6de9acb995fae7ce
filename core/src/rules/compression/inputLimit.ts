import * as z from 'zod'
import { takenTextures } from '../../surfaces/carryOver'
import { defineRule } from '../defineRule'
import { findingsOf } from '../findingsOf'

export const inputLimit = defineRule({
  id: 'compression/input-limit',
  station: 'compression',
  meta: {
    title: 'No slot has more textures than the target takes',
    why: 'What is over the limit of the device is not drawn, and nothing says which one it will be.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['textures of every slot', 'limit of the target'],
  },
  options: z.strictObject({}),
  messages: {
    many: 'Slot {slot} has {count|n} textures; the {target} target takes {limit|n} a slot.',
  },
  labels: {},
  judge: (subject) =>
    findingsOf(subject.mesh?.slots ?? [], (slot) => {
      const limit = subject.target.inputsPerSlot
      const count = new Set(
        takenTextures(slot, subject.target).flatMap((t) => (t.image === null ? [] : [t.image])),
      ).size
      if (count <= limit) return null
      return {
        message: 'many' as const,
        data: { slot: slot.name, count, limit, target: subject.target.title.toLowerCase() },
        place: { kind: 'slot' as const, slot: slot.name },
        gauge: { value: count, unit: 'count' as const, max: limit, scale: 'linear' as const },
        measure: count,
      }
    }),
})
