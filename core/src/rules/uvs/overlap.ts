import * as z from 'zod'
import { areSwapped, UNIQUE_OVERLAP } from '../swappedChannels'
import { channelWords } from '../channelWords'
import { defineRule, type RawFinding } from '../defineRule'

export const overlap = defineRule({
  id: 'uvs/overlap',
  station: 'uvs',
  meta: {
    title: 'A unique UV channel does not overlap',
    why: 'Where lightmap UVs overlap, light of one place shows at another; where a unique sheet overlaps, paint goes to both.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['exact overlap on every sheet', 'lightmap wish of the class'],
  },
  options: z.strictObject({
    share: z.number().min(0).max(1).default(0.001).describe('of the covered sheet, tolerated'),
  }),
  messages: {
    lightmap: {
      byClass: true,
      level: 'stop',
      text: "{share|%} of the sheet of {channel}, the lightmap's, is covered more than once ({triangles|n} triangles).",
    },
    texture: {
      byClass: true,
      text: '{share|%} of the sheet of {channel} is covered more than once ({triangles|n} triangles).',
    },
  },
  labels: { layOut: 'Lay out UV{channel} anew for {size} texels' },
  judge(subject, { share: limit }) {
    const { lightmapChannel, lightmapTexels } = subject.class
    const findings: RawFinding<'lightmap' | 'texture', 'layOut'>[] = []
    for (const [level, nodes] of subject.parts.levels)
      for (const node of nodes)
        for (const sheet of node.sheets) {
          const lightmap = subject.class.lightmap && sheet.channel === lightmapChannel && level === 0
          const texture =
            sheet.channel === 0 &&
            !subject.class.repeat &&
            level === 0 &&
            !subject.class.dataChannels.includes(0)
          if (sheet.slot !== null || (!lightmap && !texture)) continue
          if (
            lightmap &&
            areSwapped(node, { texture: 0, lightmap: lightmapChannel, overlap: UNIQUE_OVERLAP })
          )
            continue
          const share = sheet.covered > 0 ? Math.min(1, sheet.overlapped / sheet.covered) : 0
          if (share <= limit) continue
          const evidence = subject.mesh?.evidence.find((e) =>
            e.name.startsWith(`uv${sheet.channel}-overlap:${node.path}:`),
          )
          findings.push({
            message: lightmap ? 'lightmap' : 'texture',
            data: { share, channel: channelWords(sheet.channel), triangles: sheet.triangles },
            place: evidence
              ? {
                  kind: 'triangles',
                  node: node.path,
                  primitive: Number(evidence.name.split(':').at(-1)),
                  evidence: evidence.name,
                }
              : { kind: 'channel', node: node.path, channel: sheet.channel },
            identity: { kind: 'channel', node: node.path, channel: sheet.channel },
            gauge: { value: share, unit: 'share', max: limit, scale: 'linear' },
            measure: share,
            remedies: lightmap
              ? [
                  {
                    remedy: 'uvs/lay-out',
                    options: {
                      node: node.path,
                      channel: lightmapChannel,
                      size: lightmapTexels,
                      gap: 2,
                      keep: false,
                    },
                    label: 'layOut',
                  },
                ]
              : [],
          })
        }
    return findings
  },
})
