import * as z from 'zod'
import { trianglesPlace } from '../trianglesPlace'
import { defineRule, type RawFinding } from '../defineRule'

export const nonManifold = defineRule({
  id: 'mesh/non-manifold',
  station: 'mesh',
  meta: {
    title: 'No non-manifold edges and no duplicate triangles',
    why: 'Where three triangles meet in an edge there is no inside; unwrapping, simplifying and cutting fail there.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['edges of every node', 'triangles over the same points'],
  },
  options: z.strictObject({ allowed: z.int().min(0).default(0).describe('edges tolerated in one node') }),
  messages: {
    edges: '{count|n|non-manifold edge|non-manifold edges}, shared by three triangles or more.',
    doubled: '{duplicates|n|duplicate triangle|duplicate triangles}, over the same points as another.',
  },
  labels: { drop: 'Drop {duplicates|triangles}' },
  judge(subject, { allowed }) {
    const findings: RawFinding<'edges' | 'doubled', 'drop'>[] = []
    for (const node of subject.parts.drawn) {
      const count = node.topology?.nonManifoldEdges ?? 0,
        duplicates = node.topology?.duplicates ?? 0
      // A triangle that is there twice makes such edges
      const remedies =
        duplicates > 0
          ? [{ remedy: 'mesh/drop-duplicates', options: { node: node.path }, label: 'drop' as const }]
          : []
      if (count > allowed)
        findings.push({
          message: 'edges',
          data: { count, duplicates },
          place: trianglesPlace(subject, node, 'non-manifold'),
          identity: { kind: 'node', node: node.path },
          measure: count,
          remedies,
        })
      if (duplicates > 0)
        findings.push({
          message: 'doubled',
          data: { duplicates },
          place: trianglesPlace(subject, node, 'duplicate'),
          identity: { kind: 'node', node: node.path },
          measure: duplicates,
          remedies,
        })
    }
    return findings
  },
})
