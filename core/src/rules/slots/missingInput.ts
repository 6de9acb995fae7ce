import * as z from 'zod'
import type { SlotFacts, TextureRole } from '@stern-gate/contract'
import { bareSurfaces } from '../../rulebook/bareSurfaces'
import { inputWords } from '../../rulebook/inputWords'
import { defineRule, type RawFinding } from '../defineRule'

/** Inputs of a slot that stand for a role. */
const feeds: Partial<Record<TextureRole, string[]>> = {
  basecolor: ['basecolor'],
  normal: ['normal'],
  orm: ['orm', 'metallic-roughness'],
  roughness: ['orm', 'metallic-roughness'],
  metallic: ['orm', 'metallic-roughness'],
  occlusion: ['orm', 'occlusion'],
  emissive: ['emissive'],
}
export const missingInput = defineRule({
  id: 'slots/missing-input',
  station: 'slots',
  meta: {
    title: 'Every slot has the inputs that its class needs',
    why: 'A slot without its textures is one flat colour in the game; most often the pairing was forgotten.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['inputs of the slots', 'inputs of the class'],
  },
  options: z.strictObject({
    values: z
      .boolean()
      .default(true)
      .describe('a slot that was given a surface of values is complete without textures'),
    bare: z
      .array(z.string())
      .default([...bareSurfaces])
      .describe('glTF extensions whose surfaces may go without'),
  }),
  messages: {
    missing: { byClass: true, text: 'Slot {slot} has no {inputs} texture; a {class} needs it.' },
    noSlot: '{triangles|n|triangle has|triangles have} no material slot at all.',
  },
  labels: {},
  judge(subject, { bare, values }) {
    const drawn = subject.primitives.drawn
    const findings: RawFinding<'missing' | 'noSlot'>[] = []
    for (const slot of subject.mesh?.slots ?? []) {
      const missing = subject.class.inputs.filter((role) => !hasInput(slot, role))
      if (
        missing.length === 0 ||
        !drawn.some((d) => d.primitive.slot === slot.name && d.primitive.triangles > 0) ||
        slot.extensions.some((e) => bare.includes(e)) ||
        (values && slot.surface !== null)
      )
        continue
      findings.push({
        message: 'missing',
        data: {
          slot: slot.name,
          inputs: missing.map((role) => inputWords[role]).join(' and no '),
          class: subject.class.title.toLowerCase(),
        },
        place: { kind: 'slot', slot: slot.name, input: missing[0]! },
      })
    }
    for (const { node, primitive } of drawn)
      if (primitive.slot === null && primitive.triangles > 0)
        findings.push({
          message: 'noSlot',
          data: { triangles: primitive.triangles },
          place: { kind: 'node', node: node.path },
        })
    return findings
  },
})

const hasInput = (slot: SlotFacts, role: TextureRole): boolean => {
  const inputs = feeds[role]
  return inputs === undefined || slot.textures.some((t) => inputs.includes(t.input))
}
