import * as z from 'zod'
import { nearestPivot } from '../../geometry/pivotPoints'
import { longestSide } from '../../geometry/pointBounds'
import { defineRule } from '../defineRule'

export const farFromOrigin = defineRule({
  id: 'scale/far-from-origin',
  station: 'scale',
  meta: {
    title: 'The asset stands near the origin',
    why: 'Far from the origin positions lose their last figures, and whoever drops the asset into a level does not find it.',
    level: 'note',
    kinds: ['mesh'],
    reads: ['bounds of level 0'],
  },
  options: z.strictObject({
    times: z.number().positive().default(5).describe('longest sides that it may stand away'),
    least: z.number().min(0).default(1).describe('metres that are tolerated in any case'),
  }),
  messages: {
    far: 'The nearest point stands {distance|m} from the origin.',
  },
  labels: {},
  judge(subject, { times, least }) {
    const bounds = subject.bounds
    if (!bounds) return []
    const { distance } = nearestPivot(bounds, 'origin-inside')
    const limit = Math.max(least, longestSide(bounds) * times)
    if (distance <= limit) return []
    return [
      {
        message: 'far' as const,
        data: { distance },
        place: { kind: 'asset' as const },
        gauge: { value: distance, unit: 'm' as const, max: limit, scale: 'linear' as const },
        measure: distance,
      },
    ]
  },
})
