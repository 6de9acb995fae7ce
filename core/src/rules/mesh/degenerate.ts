import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const degenerate = defineRule({
  id: 'mesh/degenerate',
  station: 'mesh',
  meta: {
    title: 'No degenerate triangles',
    why: 'They cost time and draw nothing, and normals, tangents and lightmaps computed over them break.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['triangles of every primitive'],
  },
  options: z.strictObject({
    allowed: z
      .int()
      .min(0)
      .default(0)
      .describe('triangles tolerated in one primitive before anything is said'),
  }),
  messages: {
    flat: '{count} of {total} triangles are degenerate: they have no area.',
    outside: { level: 'stop', text: '{count} of {total} triangles have an index past the last vertex.' },
  },
  labels: { drop: 'Drop {count|triangles}' },
  judge(subject, { allowed }) {
    const findings: RawFinding<'flat' | 'outside', 'drop'>[] = []
    for (const { node, primitive } of subject.primitives.all) {
      if (primitive.degenerate <= allowed && primitive.badIndices === 0) continue
      const name = `${node.path}:${primitive.index}`
      const kinds = [
        {
          message: 'flat' as const,
          count: primitive.degenerate,
          evidence: `degenerate:${name}`,
          limit: allowed,
        },
        {
          message: 'outside' as const,
          count: primitive.badIndices,
          evidence: `bad-indices:${name}`,
          limit: 0,
        },
      ]
      for (const { message, count, evidence, limit } of kinds) {
        if (count <= limit) continue
        findings.push({
          message,
          data: { count, total: primitive.triangles },
          place: { kind: 'triangles', node: node.path, primitive: primitive.index, evidence },
          gauge: { value: count, unit: 'triangles', max: limit, scale: 'linear' },
          measure: count,
          remedies: [{ remedy: 'mesh/drop-degenerate', options: { node: node.path }, label: 'drop' }],
        })
      }
    }
    return findings
  },
})
