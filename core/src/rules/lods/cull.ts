import * as z from 'zod'
import { toFourFigures } from '../../lods/toFourFigures'
import { boundsRadius } from '../../geometry/pointBounds'
import { chainErrors } from '../../lods/chainErrors'
import { coveragesOf, planSwitches } from '../../lods/switching'
import { defineRule } from '../defineRule'

export const cull = defineRule({
  id: 'lods/cull',
  station: 'lods',
  meta: {
    title: 'What is scattered is left out when it gets too small',
    why: 'Thousands of copies that cover a few pixels each cost as much as the ones in front, and shimmer.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['coverages in the file', 'wish of the class', 'screen and lens of the target'],
  },
  options: z.strictObject({
    smallest: z.number().positive().default(4).describe('pixels of height under which nothing need be drawn'),
    pixels: z.number().positive().default(1).describe('of error at a switch that are not noticed'),
  }),
  messages: {
    never: {
      byClass: true,
      text: 'It is drawn at any distance. From {distance|m} on it is less than {smallest} pixels high on the {target}.',
    },
  },
  labels: { set: 'Stop drawing it at {distance|m}' },
  judge(subject, { smallest, pixels }) {
    const chain = subject.mesh?.chain
    // Levels in files of their own are measured once they are one file
    if (!subject.class.cull || !subject.bounds || (!chain && subject.parts.levels.size > 1)) return []
    const count = subject.parts.levels.size
    if (chain?.coverages && chain.coverages.length >= count && chain.coverages.at(-1)! > 0) return []
    const radius = chain?.radius ?? boundsRadius(subject.bounds)
    const plan = planSwitches(chain ? chainErrors(chain) : [], radius, subject.target.screen, {
      pixels,
      smallest,
    })
    return [
      {
        message: 'never' as const,
        data: {
          distance: plan.cull.distance,
          smallest,
          target: subject.target.title.toLowerCase(),
        },
        place: { kind: 'asset' as const },
        remedies: [
          {
            remedy: 'lods/set-switches',
            options: { coverages: toFourFigures(coveragesOf(plan, true)) },
            label: 'set' as const,
          },
        ],
      },
    ]
  },
})
