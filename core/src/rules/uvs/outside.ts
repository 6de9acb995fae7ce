import * as z from 'zod'
import { areSwapped, UNIQUE_OVERLAP } from '../swappedChannels'
import { channelWords } from '../channelWords'
import { defineRule, type RawFinding } from '../defineRule'

export const outside = defineRule({
  id: 'uvs/outside',
  station: 'uvs',
  meta: {
    title: 'UVs stay on their sheet where they must',
    why:
      "Beyond the sheet a lightmap reads its neighbour's light, and a texture that does not repeat " +
      'shows its last row drawn out.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['corners of every triangle on the sheet', 'what the class says of repeating', 'numbered tiles'],
  },
  options: z.strictObject({}),
  messages: {
    texture: {
      byClass: true,
      text: '{count|n} of {total|n} triangles leave 0 … 1 on {channel}; a {class} should not repeat.',
    },
    lightmap: {
      byClass: true,
      level: 'stop',
      text: "{count|n} of {total|n} triangles leave 0 … 1 on {channel}, the lightmap's.",
    },
  },
  labels: {},
  judge(subject) {
    const { lightmapChannel } = subject.class
    const findings: RawFinding<'texture' | 'lightmap'>[] = []
    for (const { node, primitive, level } of subject.primitives.drawn)
      for (const { channel, outside } of primitive.uvChannels) {
        const lightmap = subject.class.lightmap && channel === lightmapChannel && level === 0
        const bound =
          lightmap ||
          (!subject.class.dataChannels.includes(channel) &&
            channel === 0 &&
            !subject.class.repeat &&
            subject.tileSets.length === 0)
        if (
          outside === 0 ||
          !bound ||
          (lightmap && areSwapped(node, { texture: 0, lightmap: lightmapChannel, overlap: UNIQUE_OVERLAP }))
        )
          continue
        findings.push({
          message: lightmap ? 'lightmap' : 'texture',
          data: {
            count: outside,
            total: primitive.triangles,
            channel: channelWords(channel),
            class: subject.class.title.toLowerCase(),
          },
          place: { kind: 'channel', node: node.path, channel },
          part: primitive.slot ?? '',
          gauge: { value: outside, unit: 'triangles', max: 0, scale: 'linear' },
          measure: outside,
        })
      }
    return findings
  },
})
