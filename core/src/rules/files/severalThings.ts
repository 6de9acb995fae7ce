import * as z from 'zod'
import { holdsSeveral, partsByPlan } from '../../apart/proposeParts'
import { planOf } from '../../apart/planFor'
import { defineRule } from '../defineRule'

export const severalThings = defineRule({
  id: 'files/several-things',
  station: 'files',
  meta: {
    title: 'A mesh file holds one thing',
    why: 'Taken in as one asset they share a pivot and a budget, and none can be placed or replaced by itself.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['nodes of the scene', 'their boxes', 'which meshes are the same'],
  },
  options: z.strictObject({
    things: z.int().min(2).default(2).describe('so many things that stand apart are several'),
  }),
  messages: { several: 'It holds {count} things that stand apart: {names}. It can be taken apart.' },
  labels: {},
  judge(subject, { things }) {
    const { mesh, rulebook } = subject
    // What came as files of its own belongs together already
    if (!mesh?.nodes || mesh.nodes.some((n) => n.file !== null)) return []
    if (!holdsSeveral(mesh.nodes, rulebook)) return []
    const parts = partsByPlan(mesh.nodes, planOf('top'), subject.name, rulebook).parts.filter(
      (p) => p.left === null,
    )
    if (parts.length < things) return []
    const names = parts.slice(0, 4).map((p) => p.name)
    return [
      {
        message: 'several' as const,
        data: {
          count: parts.length,
          names: names.join(', ') + (parts.length > 4 ? ` and ${parts.length - 4} more` : ''),
        },
        place: { kind: 'asset' as const },
        measure: parts.length,
        remedies: [],
      },
    ]
  },
})
