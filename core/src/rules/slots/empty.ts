import * as z from 'zod'
import type { SlotFacts } from '@stern-gate/contract'
import { defineRule } from '../defineRule'

export const empty = defineRule({
  id: 'slots/empty',
  station: 'slots',
  meta: {
    title: 'No slot is empty',
    why:
      'A slot without a texture and with nothing but default values was made and never filled; it ' +
      'shows as plain white or grey.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['textures and values of every slot in use'],
  },
  options: z.strictObject({}),
  messages: {
    empty: 'Slot {slot} has no texture, and all its values are the defaults.',
  },
  labels: {},
  judge(subject) {
    const used = subject.slotShares
    return (subject.mesh?.slots ?? [])
      .filter((slot) => used.has(slot.name) && isUntouched(slot))
      .map((slot) => ({
        message: 'empty' as const,
        data: { slot: slot.name },
        place: { kind: 'slot' as const, slot: slot.name },
      }))
  },
})

/** Values that glTF gives a material that says nothing. */
const isUntouched = (slot: SlotFacts): boolean =>
  slot.textures.length === 0 &&
  slot.extensions.length === 0 &&
  slot.baseColour.every((v) => v === 1) &&
  slot.metallic === 1 &&
  slot.roughness === 1 &&
  slot.emissive.every((v) => v === 0) &&
  slot.alphaMode === 'opaque'
