import * as z from 'zod'
import type { SlotInput } from '@stern-gate/contract'
import { defineRule, type RawFinding } from '../defineRule'

/** Inputs in words; null: a normal map belongs there, or nobody knows. */
const inputs: Readonly<Record<SlotInput, string | null>> = {
  basecolor: 'base colour',
  normal: null,
  orm: 'occlusion, roughness and metallic',
  'metallic-roughness': 'roughness and metallic',
  occlusion: 'occlusion',
  emissive: 'own light',
  other: null,
}

export const wrongInput = defineRule({
  id: 'slots/wrong-input',
  station: 'slots',
  meta: {
    title: 'No normal map stands in an input for something else',
    why: 'A normal map in another input makes a surface blue, or rough and metallic by its slopes.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['inputs of the slots', 'normal-map test of the pixels'],
  },
  options: z.strictObject({
    least: z
      .number()
      .min(0)
      .max(1)
      .default(0.9)
      .describe('how sure the pixels must be of being a normal map'),
  }),
  messages: {
    normal: '{texture} is a normal map ({isNormal|%} sure), and feeds {input} of slot {slot}.',
  },
  labels: {},
  judge(subject, { least }) {
    const findings: RawFinding<'normal'>[] = []
    for (const texture of subject.textures) {
      const isNormal = texture.facts?.normal?.isNormalMap ?? 0
      if (isNormal < least) continue
      for (const slot of new Set(texture.uses.map((use) => use.slot))) {
        const wrong = texture.uses.find((use) => use.slot === slot && inputs[use.input] !== null)
        if (!wrong) continue
        findings.push({
          message: 'normal',
          data: { texture: texture.name, isNormal, input: inputs[wrong.input]!, slot },
          place: { kind: 'slot', slot, input: wrong.input },
          gauge: { value: isNormal, unit: 'share', max: least, scale: 'linear' },
          part: texture.name,
        })
      }
    }
    return findings
  },
})
