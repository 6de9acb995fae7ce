import * as z from 'zod'
import { defineRule } from '../defineRule'

export const mirrored = defineRule({
  id: 'scale/mirrored',
  station: 'scale',
  meta: {
    title: 'No node is mirrored by a negative scale',
    why: 'A negative scale turns triangles inside out wherever the scale is dropped, and flips the tangents of its normal map.',
    level: 'stop',
    kinds: ['mesh'],
    reads: ['scale of every node'],
  },
  options: z.strictObject({}),
  messages: {
    negative: 'The node is scaled by {x} {y} {z}: it stands mirrored.',
  },
  labels: { bake: 'Bake it, winding turned' },
  judge: (subject) =>
    subject.parts.all.filter((node) => node.scale[0] * node.scale[1] * node.scale[2] < 0).map((node) => ({
      message: 'negative' as const, data: { x: node.scale[0], y: node.scale[1], z: node.scale[2] }, place: { kind: 'node' as const, node: node.path },
      remedies: node.skinned || node.animated ? [] : [{ remedy: 'scale/bake-transform', options: { node: node.path }, label: 'bake' as const }],
    })),
})
