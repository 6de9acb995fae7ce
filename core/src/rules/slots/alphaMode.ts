import * as z from 'zod'
import { TWO_VALUED } from '../../image/packChannels'
import { defineRule, type RawFinding } from '../defineRule'

export const alphaMode = defineRule({
  id: 'slots/alpha-mode',
  station: 'slots',
  meta: {
    title: 'Alpha is used as its values are',
    why:
      'Blending is sorted, slow and writes no depth; ' +
      'alpha that only says yes or no should be cut out, and alpha that says nothing should not be there.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['alpha of the base colour', 'alpha mode of the slot'],
  },
  options: z.strictObject({
    twoValued: z
      .number()
      .min(0.5)
      .max(1)
      .default(TWO_VALUED)
      .describe('share of texels near 0 or full from which alpha counts as yes or no'),
  }),
  messages: {
    cutout: 'Slot {slot} blends, but {share|%} of its alpha is all or nothing.',
    opaque: 'Slot {slot} is set to {mode}, but its alpha is fully opaque everywhere.',
  },
  labels: { cutout: 'Set to cutout', opaque: 'Set to opaque' },
  judge(subject, { twoValued }) {
    const findings: RawFinding<'cutout' | 'opaque', 'cutout' | 'opaque'>[] = []
    for (const slot of subject.mesh?.slots ?? []) {
      if (
        slot.alphaMode === 'opaque' ||
        // What is declared to be no opacity is not judged as one
        (slot.alphaMeaning !== null && slot.alphaMeaning !== 'opacity') ||
        slot.baseColour[3] < 0.999 ||
        slot.extensions.includes('KHR_materials_transmission')
      )
        continue
      const texture = subject.textures.find((t) =>
        t.uses.some((u) => u.slot === slot.name && u.input === 'basecolor'),
      )
      if (!texture?.facts?.channels) continue
      const alpha = texture.facts.channels.find((c) => c.name === 'A')
      const total = alpha ? alpha.histogram.reduce((a, b) => a + b, 0) : 0
      const share = alpha
        ? [...alpha.histogram.slice(0, 9), ...alpha.histogram.slice(247)].reduce((a, b) => a + b, 0) / total
        : 0
      const place = { kind: 'slot' as const, slot: slot.name, input: 'basecolor' }
      const offer = (mode: 'cutout' | 'opaque') => [
        { remedy: 'slots/set-alpha', options: { slot: slot.name, mode }, label: mode },
      ]
      if (!alpha || alpha.min >= 1)
        findings.push({
          message: 'opaque',
          data: { slot: slot.name, mode: slot.alphaMode },
          place,
          remedies: offer('opaque'),
        })
      else if (slot.alphaMode === 'blend' && share >= twoValued)
        findings.push({
          message: 'cutout',
          data: { slot: slot.name, share },
          place,
          gauge: { value: share, unit: 'share', max: twoValued, scale: 'linear' },
          measure: share,
          remedies: offer('cutout'),
        })
    }
    return findings
  },
})
