import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'
import { groupsAbove, heldBelow } from '../groupsAbove'

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
    back: 'The node is scaled by {x} {y} {z}, and one above it turns that back: it does not stand mirrored, but does as soon as only one of the two is kept.',
    group: 'The node is scaled by {x} {y} {z}: drawn nodes that hang on it and are mirrored by it: {parts}.',
  },
  labels: { bake: 'Bake it, winding turned' },
  judge(subject) {
    const drawn = subject.parts.all.filter(isNegative),
      groups = groupsAbove(subject).filter(({ node }) => isNegative(node))
    if (drawn.length + groups.length === 0) return []
    const held = heldBelow(subject)
    const found = (
      node: (typeof drawn)[number],
      message: 'negative' | 'back' | 'group',
      parts: number,
    ): RawFinding<'negative' | 'back' | 'group', 'bake'> => ({
      message,
      data: { x: node.scale[0], y: node.scale[1], z: node.scale[2], parts },
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
    })
    return [
      ...groups.map(({ node, parts }) => found(node, 'group', parts)),
      ...drawn.map((node) => found(node, node.determinant < 0 ? 'negative' : 'back', 1)),
    ]
  },
})
