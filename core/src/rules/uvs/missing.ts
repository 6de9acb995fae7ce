import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const missing = defineRule({
  id: 'uvs/missing',
  station: 'uvs',
  meta: {
    title: 'Every drawn part has UVs, and a lightmap channel where the class needs one',
    why: 'Without UVs no texture can lie on the surface, and without a second channel baked light lands on the first.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['UV channels of every primitive', 'lightmap wish of the class'],
  },
  options: z.strictObject({}),
  messages: {
    none: 'No UV channel at all on {triangles|triangles}.',
    collapsed: 'UV0 (1st) is there, but all its points lie in one place.',
    noLightmap: { byClass: true, text: 'No UV{channel} ({ordinal}) for the lightmap; a {class} needs one.' },
  },
  labels: { layOut: 'Lay out UV{channel} for {size} texels' },
  judge(subject) {
    const { lightmapChannel, lightmapTexels } = subject.class
    const findings: RawFinding<'none' | 'collapsed' | 'noLightmap', 'layOut'>[] = []
    for (const { node, primitive, level } of subject.primitives.drawn) {
      if (primitive.triangles === 0) continue
      const place = (channel: number) => ({ kind: 'channel' as const, node: node.path, channel })
      const first = primitive.uvChannels.find((c) => c.channel === 0)
      if (!first)
        findings.push({
          message: 'none',
          data: { triangles: primitive.triangles },
          place: place(0),
          part: primitive.slot ?? '',
        })
      else if (first.allSame && !subject.class.dataChannels.includes(0))
        findings.push({ message: 'collapsed', data: {}, place: place(0), part: primitive.slot ?? '' })
      const needsLightmap = subject.class.lightmap && level === 0
      if (needsLightmap && !primitive.uvChannels.some((c) => c.channel === lightmapChannel))
        findings.push({
          message: 'noLightmap',
          data: {
            channel: lightmapChannel,
            ordinal: ordinal(lightmapChannel + 1),
            class: subject.class.title.toLowerCase(),
          },
          place: place(lightmapChannel),
          part: primitive.slot ?? '',
          remedies: first
            ? [
                {
                  remedy: 'uvs/lay-out',
                  options: { node: null, channel: lightmapChannel, size: lightmapTexels, gap: 2, keep: true },
                  label: 'layOut',
                },
              ]
            : [],
        })
    }
    return findings
  },
})

const ordinal = (n: number): string => `${n}${['th', 'st', 'nd', 'rd'][n] ?? 'th'}`
