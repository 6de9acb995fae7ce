import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const density = defineRule({
  id: 'uvs/density',
  station: 'uvs',
  meta: {
    title: 'Texel density is even, and what the class asks for',
    why:
      'Next to each other a sharp and a blurred surface look broken; ' +
      'a density far above the others wastes memory that nobody sees.',
    level: 'caution',
    kinds: ['mesh'],
    reads: [
      'UV lengths per metre, 5, 50 and 95 %',
      'size of the base colour',
      'texels per metre of the class',
    ],
  },
  options: z.strictObject({
    spread: z
      .number()
      .min(1)
      .default(4)
      .describe('95 % over 5 % of the density that is tolerated within a slot'),
    off: z.number().min(1).default(2.5).describe('factor by which the middle may miss the class'),
  }),
  messages: {
    spread: 'Between {low|n} and {high|n} texels per metre within slot {slot}.',
    off: {
      byClass: true,
      text: '{middle|n} texels per metre on slot {slot}; a {class} should have {wanted|n}.',
    },
  },
  labels: {},
  judge(subject, { spread, off }) {
    const findings: RawFinding<'spread' | 'off'>[] = []
    for (const { node, primitive, level } of subject.primitives.drawn) {
      if (level !== 0 || primitive.slot === null) continue
      const texture = subject.textures.find((t) =>
        t.uses.some((u) => u.slot === primitive.slot && u.input === 'basecolor'),
      )
      const use = texture?.uses.find((u) => u.slot === primitive.slot && u.input === 'basecolor')
      const density = primitive.uvChannels.find((c) => c.channel === (use?.channel ?? 0))?.density
      if (!texture?.facts || !density) continue
      const { width, height } = texture.facts.header
      const texels = Math.sqrt(width * height) * (use?.repeats ?? 1)
      const [low, middle, high] = [
        density.low * texels,
        density.middle * texels,
        density.high * texels,
      ] as const
      const wanted = subject.class.texelsPerMetre
      const place = { kind: 'channel' as const, node: node.path, channel: use?.channel ?? 0 }
      if (middle > wanted * off || middle < wanted / off)
        findings.push({
          message: 'off',
          data: { middle, wanted, slot: primitive.slot, class: subject.class.title.toLowerCase() },
          place,
          part: primitive.slot ?? '',
          gauge: {
            value: middle,
            unit: 'texelsPerMetre',
            min: wanted / off,
            max: wanted * off,
            scale: 'log',
          },
          measure: middle,
        })
      else if (high > low * spread)
        findings.push({
          message: 'spread',
          data: { low, high, slot: primitive.slot },
          place,
          part: primitive.slot ?? '',
          gauge: { value: high / low, unit: 'count', max: spread, scale: 'log' },
          measure: high / low,
        })
    }
    return findings
  },
})
