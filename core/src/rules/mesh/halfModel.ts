import * as z from 'zod'
import { defineRule } from '../defineRule'

export const halfModel = defineRule({
  id: 'mesh/half-model',
  station: 'mesh',
  meta: {
    title: 'A model is delivered whole',
    why: 'A model that is made as one half and its mirror comes as a half when the mirror is not exported.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['open edges', 'the plane in which they lie'],
  },
  options: z.strictObject({
    axes: z
      .enum(['X', 'X and Z', 'all'])
      .default('X')
      .describe(
        'axes along which halves are looked for; what is open below or at its back is often meant so',
      ),
    off: z
      .number()
      .min(0)
      .max(1)
      .default(0.02)
      .describe('so far the plane may lie from the origin of the node, as a share of the largest side'),
  }),
  messages: {
    half: '{node} lies on one side of {axis} = {at|m}, its {edges} open edges in that plane: it looks like a half.',
  },
  labels: { mirror: 'Mirror and weld it' },
  judge(subject, { axes, off }) {
    const { mesh } = subject
    const wanted = axes === 'all' ? 'XYZ' : axes
    return subject.parts.drawn.flatMap((node) => {
      const plane = node.topology?.openPlane
      if (!plane || !wanted.includes(plane.axis) || !node.bounds || node.skinned) return []
      const axis = 'XYZ'.indexOf(plane.axis)
      const largest = Math.max(...node.bounds.max.map((v, k) => v - node.bounds!.min[k]!))
      if (Math.abs(plane.at - originOf(node.path, axis, mesh?.nodes ?? [])) > off * largest) return []
      return [
        {
          message: 'half' as const,
          data: { node: node.name || node.path, axis: plane.axis, at: plane.at, edges: plane.edges },
          place: { kind: 'node' as const, node: node.path },
          measure: plane.edges,
          remedies: [
            {
              remedy: 'mesh/mirror-half',
              options: { node: node.path, axis: plane.axis, at: plane.at },
              label: 'mirror' as const,
            },
          ],
        },
      ]
    })
  },
})

type Nodes = readonly { path: string; parent: string | null; translation: readonly number[] }[]

/** Where a node stands along an axis; a turn or a scale above it is told by other rules, and moves it little. */
function originOf(path: string, axis: number, nodes: Nodes): number {
  let sum = 0
  for (let at = nodes.find((n) => n.path === path); at; at = nodes.find((n) => n.path === at!.parent))
    sum += at.translation[axis]!
  return sum
}
