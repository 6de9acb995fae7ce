import * as z from 'zod'
import { defineRule } from '../defineRule'

export const specularSet = defineRule({
  id: 'colour/specular-set',
  station: 'colour',
  meta: {
    title: 'Surfaces are metallic and rough, not specular and glossy',
    why: 'The older way of saying a surface is read by fewer and fewer receivers; others show such a slot without its colour.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['extensions of the slots'],
  },
  options: z.strictObject({}),
  messages: {
    set: 'Slot {slot} has a specular and gloss set.',
  },
  labels: { convert: 'Convert to metallic and roughness' },
  judge: (subject) =>
    (subject.mesh?.slots ?? [])
      .filter((slot) => slot.extensions.includes('KHR_materials_pbrSpecularGlossiness'))
      .map((slot) => ({
        message: 'set' as const,
        data: { slot: slot.name },
        place: { kind: 'slot' as const, slot: slot.name },
        remedies: [
          { remedy: 'colour/specular-to-metal', options: { slot: slot.name }, label: 'convert' as const },
        ],
      })),
})
