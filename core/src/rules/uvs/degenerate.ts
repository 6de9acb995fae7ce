import * as z from 'zod'
import { channelWords } from '../channelWords'
import { defineRule, type RawFinding } from '../defineRule'

export const degenerate = defineRule({
  id: 'uvs/degenerate',
  station: 'uvs',
  meta: {
    title: 'No degenerate triangles on the UV sheet',
    why: 'A face that is a line or a point on the sheet shows one smeared row of texels and has no tangent.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['area of every triangle on the sheet'],
  },
  options: z.strictObject({
    allowed: z.number().min(0).max(1).default(0.005).describe('share of the triangles, tolerated'),
  }),
  messages: {
    flat: '{count|n} of {total|n} triangles are degenerate on {channel}: they have no area there.',
  },
  labels: {},
  judge(subject, { allowed }) {
    const findings: RawFinding<'flat'>[] = []
    for (const { node, primitive } of subject.primitives.drawn)
      for (const c of primitive.uvChannels) {
        if (subject.class.dataChannels.includes(c.channel)) continue
        if (c.allSame || c.degenerate <= primitive.triangles * allowed) continue
        findings.push({
          message: 'flat',
          data: { count: c.degenerate, total: primitive.triangles, channel: channelWords(c.channel) },
          place: {
            kind: 'triangles',
            node: node.path,
            primitive: primitive.index,
            evidence: `uv${c.channel}-degenerate:${node.path}:${primitive.index}`,
          },
          part: `UV${c.channel}`,
          gauge: {
            value: c.degenerate,
            unit: 'triangles',
            max: Math.floor(primitive.triangles * allowed),
            scale: 'linear',
          },
          measure: c.degenerate,
        })
      }
    return findings
  },
})
