import * as z from 'zod'
import type { NodeFacts } from '@stern-gate/contract'
import { defineRule, type RawFinding } from '../defineRule'
import { groupsAbove, heldBelow } from '../../subject/groupsAbove'

export const unbakedTransform = defineRule({
  id: 'scale/unbaked-transform',
  station: 'scale',
  meta: {
    title: 'Rotation and scale of nodes are baked',
    why: "Physics, lightmaps and particles may or may not take a node's rotation and scale into account, each in its own way.",
    level: 'caution',
    kinds: ['mesh'],
    reads: ['scale and rotation of every drawn node and of the nodes above it', 'clips and skins'],
  },
  options: z.strictObject({
    turns: z.boolean().default(true).describe('turned nodes count too'),
    tolerance: z.number().min(0).default(0.0001).describe('of the scale, and in radians of the turn'),
  }),
  messages: {
    scaled: 'The node is scaled by {x} {y} {z}.',
    turned: 'The node is rotated by {degrees}°.',
    both: 'The node is scaled by {x} {y} {z} and rotated by {degrees}°.',
    groupScaled: 'The node is scaled by {x} {y} {z}, and with it {parts|n|mesh|meshes} below it.',
    groupTurned: 'The node is rotated by {degrees}°, and with it {parts|n|mesh|meshes} below it.',
    groupBoth:
      'The node is scaled by {x} {y} {z} and rotated by {degrees}°, and with it {parts|n|mesh|meshes} below it.',
  },
  labels: { bake: 'Bake it into the vertices' },
  judge(subject, { turns, tolerance }) {
    const findings: RawFinding<Message, 'bake'>[] = []
    let held: Set<string> | null = null
    const look = (node: NodeFacts, parts: number | null): void => {
      // What is mirrored has a rule of its own; two negative axes are a turn
      if (node.skinned || node.animated || node.scale[0] * node.scale[1] * node.scale[2] < 0) return
      const scaled = node.scale.some((v) => Math.abs(v - 1) > tolerance)
      const angle = node.rotation[3] === 1 ? 0 : 2 * Math.acos(Math.min(1, Math.abs(node.rotation[3])))
      const turned = turns && angle > Math.max(tolerance, 1e-3)
      if (!scaled && !turned) return
      const [x, y, z] = node.scale,
        what = scaled && turned ? 'both' : scaled ? 'scaled' : 'turned'
      held ??= heldBelow(subject)
      findings.push({
        message: parts === null ? what : ofGroups[what],
        data: { x, y, z, degrees: (angle * 180) / Math.PI, parts: parts ?? 1 },
        place: { kind: 'node', node: node.path },
        remedies: held.has(node.path)
          ? []
          : [
              {
                remedy: 'scale/bake-transform',
                options: turns ? { node: node.path } : { node: node.path, which: 'scaled' },
                label: 'bake',
              },
            ],
      })
    }
    for (const { node, parts } of groupsAbove(subject)) look(node, parts)
    for (const node of subject.parts.all) look(node, null)
    return findings
  },
})

type Alone = 'scaled' | 'turned' | 'both'
const ofGroups = { scaled: 'groupScaled', turned: 'groupTurned', both: 'groupBoth' } as const
type Message = Alone | (typeof ofGroups)[Alone]
