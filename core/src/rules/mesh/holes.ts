import * as z from 'zod'
import { trianglesPlace } from '../trianglesPlace'
import { defineRule, type RawFinding } from '../defineRule'

export const holes = defineRule({
  id: 'mesh/holes',
  station: 'mesh',
  meta: {
    title: 'No small holes in the surface',
    why:
      'A missing face or two shows what is behind and leaks light into the bake, and inside and ' +
      'outside can no longer be told apart.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['rings of open edges'],
  },
  options: z.strictObject({ allowed: z.int().min(0).default(0).describe('holes tolerated in one node') }),
  messages: {
    holes: '{holes|n|hole|holes} of at most eight edges; {borders|n|boundary loop|boundary loops} in all.',
  },
  labels: { fill: 'Fill {holes|n}' },
  judge(subject, { allowed }) {
    const findings: RawFinding<'holes', 'fill'>[] = []
    for (const node of subject.parts.drawn) {
      const { holes: count = 0, borders = 0 } = node.topology ?? {}
      if (count > allowed)
        findings.push({
          message: 'holes',
          data: { holes: count, borders },
          place: trianglesPlace(subject, node, 'open'),
          identity: { kind: 'node', node: node.path },
          measure: count,
          remedies: [{ remedy: 'mesh/fill-holes', options: { node: node.path, edges: 8 }, label: 'fill' }],
        })
    }
    return findings
  },
})
