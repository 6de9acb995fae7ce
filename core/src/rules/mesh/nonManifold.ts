import { z } from 'zod'
import { trianglesPlace } from '../trianglesPlace'
import { defineRule, type RawFinding } from '../defineRule'

export const nonManifold = defineRule({
  id: 'mesh/non-manifold',
  station: 'mesh',
  meta: {
    title: 'No edge belongs to more than two triangles',
    why: 'Where three triangles meet in an edge there is no inside; unwrapping, simplifying and cutting fail there.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['edges of every node', 'triangles over the same points'],
  },
  options: z.strictObject({ allowed: z.int().min(0).default(0).describe('edges tolerated in one node') }),
  messages: {
    edges: '{count|n} edges belong to three triangles or more.',
    doubled: '{duplicates|n} triangles lie over the same points as another.',
  },
  labels: {},
  judge(subject, { allowed }) {
    const findings: RawFinding<'edges' | 'doubled'>[] = []
    for (const node of [...subject.parts.levels.values()].flat()) {
      const count = node.topology?.nonManifoldEdges ?? 0, duplicates = node.topology?.duplicates ?? 0
      if (count > allowed) findings.push({ message: 'edges', data: { count }, place: trianglesPlace(subject, node, 'non-manifold'), measure: count })
      if (duplicates > 0) findings.push({ message: 'doubled', data: { duplicates }, place: trianglesPlace(subject, node, 'duplicate'), measure: duplicates })
    }
    return findings
  },
})
