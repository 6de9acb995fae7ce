import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const influences = defineRule({
  id: 'mesh/influences',
  station: 'mesh',
  meta: {
    title: 'Few influences per vertex, with weights that sum to 1',
    why:
      'The graphics card takes a fixed number of bones per vertex and drops the rest; weights that ' +
      'do not sum to 1 make the skin shrink or stretch.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['weights of every skinned primitive'],
  },
  options: z.strictObject({
    most: z.int().min(1).max(16).default(4).describe('bones that one vertex may follow'),
  }),
  messages: {
    many: '{count|n} of {vertices|n} vertices have more than {most} bone influences, one of them {found}.',
    sum: 'The weights of {count|n} of {vertices|n} vertices do not sum to 1.',
  },
  labels: { limit: 'Keep the strongest {most}, normalised to 1' },
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
          part: primitive.slot ?? '',
          measure: count,
          gauge: { value: found, unit: 'count', max: most, scale: 'linear' },
          remedies,
        })
      else if (notOne > 0)
        findings.push({
          message: 'sum',
          data: { count: notOne, vertices: primitive.vertices, most },
          place,
          part: primitive.slot ?? '',
          measure: notOne,
          remedies,
        })
    }
    return findings
  },
})
