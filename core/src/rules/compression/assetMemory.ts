import * as z from 'zod'
import { memoryAtTarget } from '../../subject/targetSizes'
import { defineRule } from '../defineRule'

export const assetMemory = defineRule({
  id: 'compression/asset-memory',
  station: 'compression',
  meta: {
    title: 'Textures of an asset fit its share of memory',
    why: 'Memory is shared out by asset; one that takes more pushes others out of it, and the game stutters when they come back.',
    level: 'caution',
    kinds: ['mesh', 'texture-set'],
    reads: ['size of every texture', 'block format of its role at the target', 'budget of the target'],
  },
  options: z.strictObject({
    caution: z
      .number()
      .min(0)
      .max(1)
      .default(0.75)
      .describe('share of the budget from which it is a caution'),
  }),
  messages: {
    over: {
      level: 'stop',
      text: '{bytes|MiB} of texture memory as {target} stores it; an asset may take {limit|MiB}.',
    },
    near: '{bytes|MiB} of texture memory as {target} stores it; an asset may take {limit|MiB}.',
  },
  labels: {},
  judge(subject, { caution }) {
    const limit = subject.target.textureMemoryMiB.asset * 1024 * 1024
    const bytes = subject.textures.reduce((sum, t) => sum + memoryAtTarget(subject, t), 0)
    if (bytes <= limit * caution) return []
    return [
      {
        message: bytes > limit ? ('over' as const) : ('near' as const),
        data: { bytes, limit, target: subject.target.title.toLowerCase() },
        place: { kind: 'asset' as const },
        gauge: {
          value: bytes,
          unit: 'bytes' as const,
          max: limit * caution,
          stopAt: limit,
          scale: 'linear' as const,
        },
        measure: bytes,
      },
    ]
  },
})
