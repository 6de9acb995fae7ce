import * as z from 'zod'
import { isCopyName } from '../slots/sameLook'
import { defineRule, type RawFinding } from '../defineRule'

export const duplicateMaterial = defineRule({
  id: 'files/duplicate-material',
  station: 'files',
  meta: {
    title: 'No slot came twice',
    why: 'Imports and exports make numbered copies of a material; each copy becomes a slot that somebody has to fill again.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['names, values and textures of every slot'],
  },
  options: z.strictObject({}),
  messages: { copy: 'Slot {slot} is a second copy of {first}.' },
  labels: { merge: 'Give its triangles to {keep}' },
  judge(subject) {
    const findings: RawFinding<'copy', 'merge'>[] = []
    for (const { name, sameAs } of subject.mesh?.slots ?? [])
      if (sameAs !== null && isCopyName(name, sameAs))
        findings.push({
          message: 'copy',
          data: { slot: name, first: sameAs },
          place: { kind: 'slot', slot: name },
          remedies: [{ remedy: 'slots/merge', options: { slot: name, keep: sameAs }, label: 'merge' }],
        })
    return findings
  },
})
