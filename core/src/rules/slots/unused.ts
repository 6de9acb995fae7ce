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
    if (!subject.mesh?.nodes || !subject.mesh.slots) return []
    const used = new Set<string | null>()
    for (const node of subject.mesh.nodes)
      for (const { triangles, mode, slot } of node.primitives)
        if (triangles > 0 || mode !== 'triangles') used.add(slot)
    for (const { choices } of subject.mesh.variants) for (const { wears } of choices) used.add(wears)
    return subject.mesh.slots
      .filter((slot) => !used.has(slot.name))
      .map((slot) => ({
        message: 'unused' as const,
        data: { slot: slot.name },
        place: { kind: 'slot' as const, slot: slot.name },
        remedies: [{ remedy: 'slots/drop-unused', options: { slot: slot.name }, label: 'drop' as const }],
      }))
  },
})
