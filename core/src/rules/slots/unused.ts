import * as z from 'zod'
import { defineRule } from '../defineRule'

export const unused = defineRule({
  id: 'slots/unused',
  station: 'slots',
  meta: {
    title: 'Every slot is used',
    why: 'A slot that no triangle uses keeps its textures in memory and is filled by hand for nothing.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['slots', 'slot of every primitive'],
  },
  options: z.strictObject({}),
  messages: {
    unused: 'No triangle uses slot {slot}.',
  },
  labels: { drop: 'Drop it' },
  judge(subject) {
    const used = new Set((subject.mesh?.nodes ?? []).flatMap((n) => n.primitives.filter((p) => p.triangles > 0 || p.mode !== 'triangles').map((p) => p.slot)))
    if (!subject.mesh?.nodes) return []
    return (subject.mesh.slots ?? []).filter((slot) => !used.has(slot.name)).map((slot) => ({
      message: 'unused' as const, data: { slot: slot.name }, place: { kind: 'slot' as const, slot: slot.name }, remedies: [{ remedy: 'slots/drop-unused', options: { slot: slot.name }, label: 'drop' as const }],
    }))
  },
})
