import * as z from 'zod'
import { defineRule } from '../defineRule'

export const axes = defineRule({
  id: 'scale/axes',
  station: 'scale',
  meta: {
    title: 'The asset stands upright',
    why: 'Something that lies on its side was exported with other axes; placing, physics and collision all take Y for up.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['mirror symmetry of level 0 along each axis', 'centre of its surface'],
  },
  options: z.strictObject({
    alike: z.number().min(0).max(1).default(0.93).describe('symmetry from which two halves count as alike'),
    sure: z
      .number()
      .min(0)
      .max(0.5)
      .default(0.05)
      .describe('how far from the middle its weight must lie, of its length, to tell which end is up'),
    unlike: z.number().min(0).max(1).default(0.85).describe('symmetry below which they do not'),
  }),
  messages: {
    side:
      'Top and bottom are alike ({symmetry|%}), and no other pair of sides is: it seems to lie on ' +
      'its side, with {up} as up, for it is heavier at the other end.',
    either:
      'Top and bottom are alike ({symmetry|%}), and no other pair of sides is: it seems to lie on ' +
      'its side, with {up} or {other} as up.',
  },
  labels: { turn: 'Turn {up} up' },
  judge(subject, { alike, unlike, sure }) {
    const shape = subject.mesh?.shape,
      bounds = subject.bounds
    if (!shape || !bounds) return []
    const [x, y, z] = shape.symmetry
    if (y < alike || x >= unlike || z >= unlike) return []
    // The modelling programs that do not take Y for up take Z; the heavier end is the lower one
    const middle = (bounds.min[2] + bounds.max[2]) / 2,
      height = bounds.max[2] - bounds.min[2],
      off = shape.centroid[2] - middle
    const [up, other] = off <= 0 ? ['+Z', '-Z'] : ['-Z', '+Z']
    return [
      {
        message: Math.abs(off) >= sure * height ? ('side' as const) : ('either' as const),
        data: { symmetry: y, up: up!, other: other! },
        place: { kind: 'asset' as const },
        measure: y,
        // The weight of a surface is a guess: whoever looks at it may know the other end for the top
        remedies: [up!, other!].map((end) => ({
          remedy: 'scale/turn-axes',
          options: { up: end },
          label: 'turn' as const,
        })),
      },
    ]
  },
})
