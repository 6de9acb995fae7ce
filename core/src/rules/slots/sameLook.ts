import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const sameLook = defineRule({
  id: 'slots/same-look',
  station: 'slots',
  meta: {
    title: 'No two slots look the same',
    why: 'Each slot is drawn on its own and filled by hand; two that share textures and values are one that was made twice.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['values and textures of every slot'],
  },
  options: z.strictObject({
    bare: z
      .boolean()
      .default(false)
      .describe('slots without a texture are looked at, too; they may be waiting for different ones'),
  }),
  messages: { same: 'Slot {slot} has the textures and values of {first}.' },
  labels: { merge: 'Give its triangles to {keep}' },
  judge(subject, { bare }) {
    const findings: RawFinding<'same', 'merge'>[] = []
    for (const slot of subject.mesh?.slots ?? []) {
      if (slot.sameAs === null || (slot.textures.length === 0 && !bare)) continue
      if (isCopyName(slot.name, slot.sameAs)) continue
      findings.push({
        message: 'same',
        data: { slot: slot.name, first: slot.sameAs },
        place: { kind: 'slot', slot: slot.name },
        remedies: [
          { remedy: 'slots/merge', options: { slot: slot.name, keep: slot.sameAs }, label: 'merge' },
        ],
      })
    }
    return findings
  },
})

/** Whether one name is the other with the mark of a copy: a number or the word behind it. */
export function isCopyName(a: string, b: string): boolean {
  const stem = (name: string) => name.toLowerCase().replace(/(?:[ ._-]*(?:copy|\(?\d{1,3}\)?))+$/, '')
  return stem(a) === stem(b) && stem(a) !== ''
}
