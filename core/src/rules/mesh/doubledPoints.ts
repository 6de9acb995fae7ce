import * as z from 'zod'
import { NEAR_SHARE } from '../../measure/measureTopology'
import { defineRule, type RawFinding } from '../defineRule'

export const doubledPoints = defineRule({
  id: 'mesh/doubled-points',
  station: 'mesh',
  meta: {
    title: 'No duplicate vertices',
    why: 'Duplicate vertices cost memory, and the cracks between them open under smoothing, simplification and cloth.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['vertices equal in place and attributes', 'points near one another'],
  },
  options: z.strictObject({
    share: z.number().min(0).max(1).default(0.01).describe('of the vertices, tolerated'),
    near: z.int().min(0).default(0).describe('points near another, tolerated'),
  }),
  messages: {
    equal: '{doubled|n} of {vertices|n} vertices are exact duplicates.',
    near: '{near|n|point lies|points lie} within {distance|m} of another.',
    both:
      '{doubled|n} of {vertices|n} vertices are exact duplicates, and {near|n|point lies|points lie} ' +
      'within {distance|m} of another.',
  },
  labels: { weld: 'Weld within {distance|m}', exact: 'Weld exact duplicates' },
  judge(subject, { share, near: tolerated }) {
    const findings: RawFinding<'equal' | 'near' | 'both', 'weld' | 'exact'>[] = []
    for (const node of subject.parts.drawn) {
      const vertices = node.primitives.reduce((sum, p) => sum + p.vertices, 0),
        doubled = node.primitives.reduce((sum, p) => sum + p.doubled, 0)
      const near = node.topology?.near ?? 0
      const many = doubled > vertices * share,
        cracked = near > tolerated
      if (!many && !cracked) continue
      const distance = node.topology?.nearDistance ?? 0
      findings.push({
        message: many && cracked ? 'both' : many ? 'equal' : 'near',
        data: { doubled, vertices, near, distance },
        place: { kind: 'node', node: node.path },
        measure: doubled + near,
        gauge: { value: doubled + near, unit: 'count', max: Math.floor(vertices * share), scale: 'linear' },
        // As a share, so that a step before it which scales the part does not change what is welded
        remedies: [
          cracked
            ? { remedy: 'mesh/weld', options: { node: node.path, share: NEAR_SHARE }, label: 'weld' }
            : { remedy: 'mesh/weld', options: { node: node.path, share: 0 }, label: 'exact' },
        ],
      })
    }
    return findings
  },
})
