import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const vertexRatio = defineRule({
  id: 'mesh/vertex-ratio',
  station: 'mesh',
  meta: {
    title: 'Few split vertices',
    why:
      'Every UV seam and every hard edge splits a vertex in two; a mesh that is split all over costs ' +
      'several times what its shape needs.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['vertices and points of every node'],
  },
  options: z.strictObject({
    most: z.number().min(1).default(3.5).describe('vertices for each point'),
    least: z.int().min(0).default(1000).describe('vertices from which a node is looked at'),
  }),
  messages: {
    many: '{vertices|n} vertices at {points|n} distinct positions: {ratio|x} for each, split by seams and hard edges.',
  },
  labels: {},
  judge(subject, { most, least }) {
    const findings: RawFinding<'many'>[] = []
    for (const node of subject.parts.drawn) {
      // Vertices that are equal in every way are another matter: mesh/doubled-points says it
      const vertices = node.primitives.reduce((sum, p) => sum + p.vertices - p.doubled, 0),
        points = node.topology?.points ?? 0
      if (vertices < least || points === 0 || vertices / points <= most) continue
      const ratio = vertices / points
      findings.push({
        message: 'many',
        data: { vertices, points, ratio },
        place: { kind: 'node', node: node.path },
        measure: ratio,
        gauge: { value: ratio, unit: 'count', max: most, scale: 'linear' },
      })
    }
    return findings
  },
})
