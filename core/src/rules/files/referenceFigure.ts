import * as z from 'zod'
import { drawsTwice, partsByPlan } from '../../apart/proposeParts'
import { planOf } from '../../apart/planFor'
import { defineRule } from '../defineRule'

export const referenceFigure = defineRule({
  id: 'files/reference-figure',
  station: 'files',
  meta: {
    title: 'No reference figure or host mesh is left in the file',
    why:
      'A figure that a model was measured against, or the mesh that it was fitted to, comes into the ' +
      'game with every copy of it.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['nodes of the scene', 'words for figures in the rulebook', 'boxes of nodes'],
  },
  options: z.strictObject({
    bySize: z
      .boolean()
      .default(true)
      .describe('a node that stands apart and is as large as a person is pointed at, too'),
  }),
  messages: {
    named: '{node} is a reference figure by its name; it is no part of the thing.',
    sized: {
      text: '{node} stands apart and is as large as a person: is it a reference figure?',
      level: 'note',
    },
  },
  labels: { drop: 'Drop {node}' },
  judge(subject, { bySize }) {
    const { mesh, rulebook } = subject
    if (!mesh?.nodes || subject.className === 'figure' || !drawsTwice(mesh.nodes)) return []
    const { parts } = partsByPlan(mesh.nodes, planOf('top'), subject.name, rulebook)
    return parts
      .filter((p) => p.left === 'figure' || (bySize && p.humanSize))
      .map((part) => ({
        message: part.left === 'figure' ? ('named' as const) : ('sized' as const),
        data: { node: part.key },
        place: { kind: 'node' as const, node: part.key },
        measure: part.triangles,
        remedies: [{ remedy: 'files/drop-node', options: { node: part.key }, label: 'drop' as const }],
      }))
  },
})
