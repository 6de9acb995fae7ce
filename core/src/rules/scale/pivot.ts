import * as z from 'zod'
import type { PivotKind, RemedyOptions } from '@stern-gate/contract'
import { longestSide } from '../../geometry/pointBounds'
import { nearestPivot } from '../../geometry/pivotPoints'
import { defineRule } from '../defineRule'

export const pivotWords: Record<PivotKind, string> = {
  'base-centre': 'base centre',
  centre: 'centre',
  corner: 'base corner',
  'origin-inside': 'body',
  any: 'anywhere',
}

export const pivot = defineRule({
  id: 'scale/pivot',
  station: 'scale',
  meta: {
    title: 'The pivot stands where the class wants it',
    why: 'An asset is placed, turned and snapped by its pivot; one that stands off makes each copy float or sink.',
    level: 'caution',
    kinds: ['mesh'],
    reads: ['bounds of level 0', 'pivot of the class'],
  },
  options: z.strictObject({
    share: z.number().min(0).max(1).default(0.02).describe('of the longest side, tolerated'),
    least: z.number().min(0).default(0.01).describe('metres, tolerated in any case'),
  }),
  messages: { off: { byClass: true, text: 'The pivot stands {distance|m} from the {wanted}.' } },
  labels: { move: 'Move to {wanted}', keep: 'The origin is meant' },
  judge(subject, { share, least }) {
    const bounds = subject.bounds
    if (!bounds) return []
    const tolerance = Math.max(least, longestSide(bounds) * share)
    const { pivots } = subject.class
    if (pivots.some((kind) => nearestPivot(bounds, kind).distance <= tolerance)) return []
    const best = { kind: pivots[0]!, ...nearestPivot(bounds, pivots[0]!) }
    return [
      {
        message: 'off' as const,
        data: {
          distance: best.distance,
          wanted: pivotWords[best.kind],
          offsetX: -best.point[0],
          offsetY: -best.point[1],
          offsetZ: -best.point[2],
        },
        place: { kind: 'asset' as const },
        gauge: { value: best.distance, unit: 'm' as const, max: tolerance, scale: 'linear' as const },
        measure: best.distance,
        remedies: [
          { remedy: 'scale/move-pivot', options: { to: best.kind }, label: 'move' as const },
          { remedy: 'scale/keep-pivot', options: {} as RemedyOptions, label: 'keep' as const },
        ],
      },
    ]
  },
})
