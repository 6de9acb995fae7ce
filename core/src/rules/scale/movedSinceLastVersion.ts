import * as z from 'zod'
import type { Bounds } from '@stern-gate/contract'
import { boundsSize, longestSide } from '../../geometry/pointBounds'
import { defineRule } from '../defineRule'

export const movedSinceLastVersion = defineRule({
  id: 'scale/moved-since-last-version',
  station: 'scale',
  meta: {
    title: 'The pivot stays where it was in the version before',
    why: 'Everything that was placed by the old pivot moves along when the new version comes in, and nobody sees why.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['bounds of level 0', 'those of the version before'],
  },
  options: z.strictObject({
    share: z.number().min(0).max(1).default(0.02).describe('of the longest side, tolerated'),
    least: z.number().min(0).default(0.01).describe('metres, tolerated in any case'),
    alike: z
      .number()
      .min(0)
      .max(1)
      .default(0.05)
      .describe(
        'of the longest side that a side may have changed; what has another shape cannot be held against the old one',
      ),
  }),
  messages: { moved: 'The body stands {distance|m} from where it stood in version {version}.' },
  labels: { back: 'Move back by {distance|m}' },
  judge(subject, { share, least, alike }) {
    const { previous } = subject,
      bounds = previous && subject.bounds
    if (!bounds || !sameShape(bounds, previous.bounds, alike)) return []
    const by = centreOf(bounds).map((v, i) => v - centreOf(previous.bounds)[i]!) as [number, number, number]
    const distance = Math.hypot(...by),
      tolerance = Math.max(least, longestSide(bounds) * share)
    if (distance <= tolerance) return []
    return [
      {
        message: 'moved' as const,
        data: { distance, version: previous.version },
        place: { kind: 'asset' as const },
        gauge: { value: distance, unit: 'm' as const, max: tolerance, scale: 'linear' as const },
        measure: distance,
        remedies: [
          { remedy: 'scale/shift', options: { x: -by[0], y: -by[1], z: -by[2] }, label: 'back' as const },
        ],
      },
    ]
  },
})

const centreOf = ({ min, max }: Bounds): number[] => min.map((v, i) => (v + max[i]!) / 2)

function sameShape(a: Bounds, b: Bounds, alike: number): boolean {
  const own = boundsSize(a),
    other = boundsSize(b),
    longest = Math.max(...own, ...other)
  return longest > 0 && own.every((side, i) => Math.abs(side - other[i]!) <= alike * longest)
}
