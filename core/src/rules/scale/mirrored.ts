import * as z from 'zod'
import type { NodeFacts } from '@stern-gate/contract'
import { defineRule, type RawFinding } from '../defineRule'
import { heldBelow, parentOf } from '../../subject/groupsAbove'
import type { Subject } from '../../subject/subject'

const isNegative = ({ scale }: { scale: readonly [number, number, number] }): boolean =>
  scale[0] * scale[1] * scale[2] < 0

export const mirrored = defineRule({
  id: 'scale/mirrored',
  station: 'scale',
  meta: {
    title: 'No node is mirrored by a negative scale',
    why: 'A negative scale turns triangles inside out wherever the scale is dropped, and flips the tangents of its normal map.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['scale of every drawn node and of the nodes above it'],
  },
  options: z.strictObject({}),
  messages: {
    negative: 'The node is scaled by {x} {y} {z}: it stands mirrored.',
    back: {
      level: 'note',
      text:
        'The node is scaled by {x} {y} {z}, and its children undo that: nothing is mirrored now, but ' +
        'it will be as soon as only one of the two is kept.',
    },
    group: 'The node is scaled by {x} {y} {z}, which mirrors {parts|n|mesh|meshes} below it.',
  },
  labels: { bake: 'Bake it and flip the winding' },
  judge(subject) {
    const counts = new Map<NodeFacts, { mirrored: number; drawn: number }>()
    for (const node of subject.parts.all) {
      // A skinned one stands by its bones
      const top = node.skinned ? null : topmostNegative(subject, node)
      if (!top) continue
      const known = counts.get(top) ?? { mirrored: 0, drawn: 0 }
      known.drawn++
      if (node.determinant < 0) known.mirrored++
      counts.set(top, known)
    }
    if (counts.size === 0) return []
    const held = heldBelow(subject)
    return [...counts].map(([node, { mirrored }]): RawFinding<'negative' | 'back' | 'group', 'bake'> => ({
      message: mirrored === 0 ? 'back' : node.primitives.length > 0 ? 'negative' : 'group',
      data: { x: node.scale[0], y: node.scale[1], z: node.scale[2], parts: mirrored },
      place: { kind: 'node', node: node.path },
      remedies:
        node.skinned || node.animated || held.has(node.path)
          ? []
          : [
              {
                remedy: 'scale/bake-transform',
                options: { node: node.path, which: 'mirrored' },
                label: 'bake',
              },
            ],
    }))
  },
})

/**
 * The uppermost node with a negative scale at or above a node: what mirrors it, or would if nothing turned
 * that back. The world's handedness (its determinant) then says which of the two.
 */
function topmostNegative({ mesh }: Subject, node: NodeFacts): NodeFacts | null {
  let top: NodeFacts | null = null
  for (let at: NodeFacts | undefined = node; at; at = parentOf(mesh?.nodes ?? [], at))
    if (isNegative(at) && !at.joint) top = at
  return top
}
