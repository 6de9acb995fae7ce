import * as z from 'zod'
import { trianglesPlace } from '../trianglesPlace'
import { defineRule, type RawFinding } from '../defineRule'

export const loosePieces = defineRule({
  id: 'mesh/loose-pieces',
  station: 'mesh',
  meta: {
    title: 'No tiny loose pieces',
    why:
      'A triangle or two that some cut left behind widens the bounds, is simplified into splinters, ' +
      'and nobody sees it until it flickers.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['shells of every node'],
  },
  options: z.strictObject({ allowed: z.int().min(0).default(0).describe('crumbs tolerated in one node') }),
  messages: {
    crumbs: '{count|n|loose piece|loose pieces} of at most four triangles, next to nothing of the surface.',
  },
  labels: { drop: 'Drop {count|n|piece|pieces}' },
  judge(subject, { allowed }) {
    const findings: RawFinding<'crumbs', 'drop'>[] = []
    for (const node of subject.parts.drawn) {
      const count = node.topology?.crumbs ?? 0
      if (count <= allowed) continue
      findings.push({
        message: 'crumbs',
        data: { count },
        place: trianglesPlace(subject, node, 'crumb'),
        identity: { kind: 'node', node: node.path },
        measure: count,
        remedies: [{ remedy: 'mesh/drop-crumbs', options: { node: node.path }, label: 'drop' }],
      })
    }
    return findings
  },
})
