import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const drawOrder = defineRule({
  id: 'mesh/draw-order',
  station: 'mesh',
  meta: {
    title: 'The triangle order suits the vertex cache',
    why:
      'A vertex that has left the cache when the next triangle wants it is transformed again; ' +
      'scattered triangles cost twice and more.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['triangle order of every drawn primitive'],
  },
  options: z.strictObject({
    most: z
      .number()
      .min(1)
      .default(2.2)
      .describe('times that a vertex may be transformed, on average, with a cache of 16'),
    least: z.int().min(0).default(1000).describe('triangles from which a primitive is looked at'),
  }),
  messages: {
    scattered:
      'ATVR {atvr|x}: each vertex is transformed that many times, for the triangles come in a scattered order.',
  },
  labels: { reorder: 'Reorder {triangles|triangles}' },
  judge(subject, { most, least }) {
    const findings: RawFinding<'scattered', 'reorder'>[] = []
    for (const { node, primitive } of subject.primitives.drawn) {
      const atvr = primitive.cache?.atvr ?? 0
      if (primitive.triangles < least || atvr <= most) continue
      findings.push({
        message: 'scattered',
        data: { atvr, triangles: primitive.triangles },
        place: { kind: 'node', node: node.path },
        measure: atvr,
        gauge: { value: atvr, unit: 'count', max: most, scale: 'linear' },
        remedies: [{ remedy: 'mesh/reorder', options: { node: node.path }, label: 'reorder' }],
      })
    }
    return findings
  },
})
