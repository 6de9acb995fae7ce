import * as z from 'zod'
import { defineRule, type RawFinding } from '../defineRule'

export const unappliedTransform = defineRule({
  id: 'scale/unapplied-transform',
  station: 'scale',
  meta: {
    title: 'Nodes carry no scale or turn',
    why: 'Physics, lightmaps and particles take the node\'s scale and turn into account or do not, each in its own way.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['scale and rotation of every drawn node', 'clips and skins'],
  },
  options: z.strictObject({ turns: z.boolean().default(true).describe('turned nodes count too'), tolerance: z.number().min(0).default(0.0001).describe('of the scale, and in radians of the turn') }),
  messages: {
    scaled: 'The node is scaled by {x} {y} {z}.',
    turned: 'The node is turned by {degrees}°.',
    both: 'The node is scaled by {x} {y} {z} and turned by {degrees}°.',
  },
  labels: { bake: 'Bake it into the points' },
  judge(subject, { turns, tolerance }) {
    const findings: RawFinding<'scaled' | 'turned' | 'both', 'bake'>[] = []
    for (const node of subject.parts.all) {
      if (node.skinned || node.animated || node.scale.some((v) => v < 0)) continue
      const scaled = node.scale.some((v) => Math.abs(v - 1) > tolerance)
      const angle = node.rotation[3] === 1 ? 0 : 2 * Math.acos(Math.min(1, Math.abs(node.rotation[3])))
      const turned = turns && angle > Math.max(tolerance, 1e-3)
      if (!scaled && !turned) continue
      const [x, y, z] = node.scale
      findings.push({
        message: scaled && turned ? 'both' : scaled ? 'scaled' : 'turned', data: { x, y, z, degrees: (angle * 180) / Math.PI }, place: { kind: 'node', node: node.path },
        remedies: [{ remedy: 'scale/bake-transform', options: { node: node.path }, label: 'bake' }],
      })
    }
    return findings
  },
})
