import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const notFinite = defineRule({
  id: 'mesh/not-finite',
  station: 'mesh',
  meta: {
    title: 'Every value is a number',
    why: 'One vertex without a number blackens a whole lightmap and makes the bounds endless.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['positions and UVs of every vertex'],
  },
  options: z.strictObject({}),
  messages: {
    positions: '{count} of {total} vertices stand nowhere: their position is not a number.',
    uvs: '{count|n|UV|UVs} of UV{channel} are not numbers.',
  },
  labels: {},
  judge(subject) {
    const findings: RawFinding<'positions' | 'uvs'>[] = []
    for (const { node, primitive } of subject.primitives.all) {
      if (primitive.notFinite > 0)
        findings.push({
          message: 'positions',
          data: { count: primitive.notFinite, total: primitive.vertices },
          place: { kind: 'node', node: node.path },
          part: primitive.slot ?? '',
          measure: primitive.notFinite,
        })
      for (const c of primitive.uvChannels)
        if (c.notFinite > 0)
          findings.push({
            message: 'uvs',
            data: { count: c.notFinite, channel: c.channel },
            place: { kind: 'channel', node: node.path, channel: c.channel },
            part: primitive.slot ?? '',
            measure: c.notFinite,
          })
    }
    return findings
  },
})
