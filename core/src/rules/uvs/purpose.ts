import * as z from 'zod'
import { areSwapped } from '../swappedChannels'
import { channelWords } from '../channelWords'
import { defineRule, type RawFinding } from '../defineRule'

export const purpose = defineRule({
  id: 'uvs/purpose',
  station: 'uvs',
  meta: {
    title: 'UV channels serve the purpose of their number',
    why:
      "With the texture's channel where the lightmap's belongs, textures look scrambled and baked " +
      'light runs across seams; one program counts from 0 and the next from 1.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['overlap, range and islands of every UV channel', 'lightmap wish of the class'],
  },
  options: z.strictObject({
    texture: z.int().min(0).max(7).default(0).describe('UV channel for textures, counted from 0'),
    overlap: z
      .number()
      .min(0)
      .max(1)
      .default(0.001)
      .describe('share of the covered sheet that may overlap on a unique channel'),
  }),
  messages: {
    swapped: {
      byClass: true,
      text: '{lightmap} repeats or overlaps, and {texture} is free of both: they are the wrong way round.',
    },
  },
  labels: { exchange: 'Exchange {texture} and {lightmap}' },
  judge(subject, { texture, overlap }) {
    if (!subject.class.lightmap) return []
    const lightmap = subject.class.lightmapChannel
    const findings: RawFinding<'swapped', 'exchange'>[] = []
    for (const node of subject.parts.finest) {
      if (!areSwapped(node, { texture, lightmap, overlap })) continue
      findings.push({
        message: 'swapped',
        data: { texture: channelWords(texture), lightmap: channelWords(lightmap) },
        place: { kind: 'channel', node: node.path, channel: lightmap },
        remedies: [
          {
            remedy: 'uvs/exchange',
            options: { node: null, a: texture, b: lightmap },
            label: 'exchange',
          },
        ],
      })
    }
    return findings
  },
})
