import * as z from 'zod'
import { channelWords } from '../channelWords'
import { defineRule, type RawFinding } from '../defineRule'

export const mirrored = defineRule({
  id: 'uvs/mirrored',
  station: 'uvs',
  meta: {
    title: 'No face is mirrored on the sheet where that shows',
    why: 'On a mirrored face letters read backwards, and a baked normal map lights from the wrong side.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['winding of every triangle on the sheet', 'what the class says of mirrored UVs'],
  },
  options: z.strictObject({
    allowed: z.number().min(0).max(1).default(0).describe('share of the triangles, tolerated'),
  }),
  messages: {
    note: { byClass: true, text: '{count|n} of {total|n} triangles are mirrored on {channel}.' },
    stop: {
      byClass: true,
      level: 'stop',
      text: '{count|n} of {total|n} triangles are mirrored on {channel}; a {class} may have none.',
    },
  },
  labels: {},
  judge(subject, { allowed }) {
    const { mirroredUvs, dataChannels } = subject.class
    if (mirroredUvs === 'allowed' || dataChannels.includes(0)) return []
    const message = mirroredUvs,
      findings: RawFinding<typeof message>[] = []
    for (const { node, primitive, level } of subject.primitives.drawn)
      for (const c of primitive.uvChannels) {
        if (c.channel !== 0 || level !== 0 || c.mirrored <= primitive.triangles * allowed) continue
        findings.push({
          message,
          data: {
            count: c.mirrored,
            total: primitive.triangles,
            channel: channelWords(0),
            class: subject.class.title.toLowerCase(),
          },
          place: {
            kind: 'triangles',
            node: node.path,
            primitive: primitive.index,
            evidence: `uv0-mirrored:${node.path}:${primitive.index}`,
          },
          part: `UV${c.channel}`,
          measure: c.mirrored,
        })
      }
    return findings
  },
})
