import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const influences = defineRule({
  id: 'mesh/influences',
  station: 'mesh',
  meta: {
    title: 'A vertex follows few bones, with weights that add up to 1',
    why: 'What is drawn takes so many bones a vertex and drops the rest; weights that do not add up make the skin shrink or stretch.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['weights of every skinned primitive'],
  },
  options: z.strictObject({
    most: z.int().min(1).max(16).default(4).describe('bones that one vertex may follow'),
  }),
  messages: {
    many: '{count|n} of {vertices|n} vertices follow more than {most} bones, one of them {found}.',
    sum: 'The weights of {count|n} of {vertices|n} vertices do not add up to 1.',
  },
  labels: { limit: 'Keep the strongest {most}, added up to 1' },
  judge(subject, { most }) {
    const findings: RawFinding<'many' | 'sum', 'limit'>[] = []
    for (const { node, primitive } of subject.primitives.drawn) {
      if (!primitive.skin) continue
      const { influences: counts, notOne } = primitive.skin
      const count = counts.slice(most + 1).reduce((sum, c) => sum + c, 0),
        found = counts.length - 1
      const place = { kind: 'node' as const, node: node.path }
      const remedies = [
        { remedy: 'mesh/limit-influences', options: { node: node.path, most }, label: 'limit' as const },
      ]
      if (count > 0)
        findings.push({
          message: 'many',
          data: { count, vertices: primitive.vertices, most, found },
          place,
          measure: count,
          gauge: { value: found, unit: 'count', max: most, scale: 'linear' },
          remedies,
        })
      else if (notOne > 0)
        findings.push({
          message: 'sum',
          data: { count: notOne, vertices: primitive.vertices, most },
          place,
          measure: notOne,
          remedies,
        })
    }
    return findings
  },
})
