import * as z from 'zod'
import type { NodeFacts } from '@stern-gate/contract'
import { longestSide } from '../../geometry/pointBounds'
import type { Subject } from '../../subject/subject'
import { defineRule } from '../defineRule'

export const fitOut = defineRule({
  id: 'collision/fit-out',
  station: 'collision',
  meta: {
    title: 'The collision encloses the surface',
    why: 'What is not enclosed can be walked through; a hand goes into the wall.',
    level: 'caution',
    kinds: ['mesh'],
    reads: [
      '4 096 points of the surface against the hulls',
      'reach of surface and collision in 26 directions',
    ],
  },
  options: z.strictObject({
    share: z
      .number()
      .min(0)
      .max(1)
      .default(0.05)
      .describe('of the longest side that the surface may stand out'),
  }),
  messages: {
    out: 'The surface stands out by up to {distance|m}; {outside|%} of it lies outside.',
    reach: 'The surface reaches {distance|m} further than its collision.',
  },
  labels: {},
  judge(subject, { share }) {
    const bounds = subject.bounds
    if (!bounds || subject.parts.collision.length === 0) return []
    const limit = longestSide(bounds) * share,
      place = { kind: 'node' as const, node: subject.parts.collision[0]!.path }
    const fit = subject.mesh?.fit
    // Where the collision came as a file of its own only the reach of both is known
    const distance = fit ? fit.farthestOut : reachBeyond(subject)
    if (distance <= limit) return []
    const gauge = { value: distance, unit: 'm' as const, max: limit, scale: 'linear' as const }
    return [
      {
        message: fit ? ('out' as const) : ('reach' as const),
        data: { distance, outside: fit?.shareOutside ?? 0 },
        place,
        gauge,
        measure: distance,
      },
    ]
  },
})

function reachBeyond(subject: Subject): number {
  const reach = (nodes: readonly NodeFacts[]): number[] =>
    nodes
      .filter((n) => n.support.length > 0)
      .reduce<number[]>((most, n) => n.support.map((v, i) => Math.max(v, most[i] ?? -Infinity)), [])
  const surface = reach(subject.parts.finest),
    shapes = reach(subject.parts.collision)
  return shapes.length === 0 ? 0 : Math.max(0, ...surface.map((v, i) => v - shapes[i]!))
}
