import type { Document } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good, type Bounds } from '@stern-gate/contract'
import { longestSide } from '../../geometry/pointBounds'
import { finestBounds, partsOfDocument } from '../../measure/partsOfDocument'
import { formatLength } from '../../numbers/formatNumber'
import { noteOfAsset } from '../../scene/assetNotes'
import { primitiveView } from '../../scene/primitiveView'
import { worldPositions } from '../../scene/worldPositions'
import { defineRemedy } from '../defineRemedy'
import { moveDocument } from './movePivot'

type Vector = [number, number, number]

/** What the pivot does along one axis. */
const along = z.enum(['points', 'stays', 'lowest'])
/** A point is found again where a vertex lies no further from it than this part of the longest side. */
const FOUND_WITHIN = 1e-4

export const pivotAtPoints = defineRemedy({
  id: 'scale/pivot-at-points',
  version: 1,
  station: 'scale',
  needs: 'mesh',
  title: 'Move the pivot to picked points',
  words: ({ points, beside }) =>
    `Pivot to ${points.length / 3} ${points.length === 3 ? 'point' : 'points'}${beside ? ' beside it' : ''}`,
  about:
    'Moves the whole asset so that the middle of points that were picked stands at the origin: vertices of the ' +
    'asset, or of what stands beside it at the same origin. Along an axis the pivot may stay where it is, or go ' +
    'to the lowest end of level 0. What is picked of the asset is found again after another export by its place. ' +
    'The origin then counts as meant.',
  options: z.strictObject({
    points: z
      .array(z.number())
      .max(300)
      .refine((list) => list.length % 3 === 0, 'three numbers a point')
      .default([])
      .describe('x, y and z of each point in metres, as the asset stands before this step'),
    beside: z.boolean().default(false).describe('the points are of what stands beside it'),
    x: along
      .default('points')
      .describe('along X the pivot goes to the points, stays, or goes to the lowest end'),
    y: along.default('points').describe('the same along Y, which is up'),
    z: along.default('points').describe('the same along Z'),
  }),
  async apply(work, { points, beside, ...ways }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no pivot' })
    const bounds = finestBounds(work.document)
    if (!bounds) return good({ changed: false, said: 'there is nothing to measure the pivot by' })
    const count = points.length / 3
    if (count === 0) return good({ changed: false, said: 'no point is picked' })
    const there = beside ? count : pointsFound(work.document, points, longestSide(bounds) * FOUND_WITHIN)
    if (there === 0)
      return bad(
        'remedy/not-applicable',
        `None of the ${count} picked points is a vertex of the asset any more.`,
        'Pick the pivot anew, or take the step out.',
      )
    const to = pivotOf(points, bounds, [ways.x, ways.y, ways.z])
    noteOfAsset(work.document, { pivotMeant: true })
    const distance = Math.hypot(...to)
    if (distance >= 1e-6) moveDocument(work.document, to.map((v) => -v) as Vector)
    const found = beside || there === count ? '' : `; ${there} of ${count} points were found again`
    return good({ changed: true, said: `moved by ${formatLength(distance)}${found}` })
  },
})

/** The middle of points, each axis in its way. */
function pivotOf(points: readonly number[], bounds: Bounds, ways: readonly z.infer<typeof along>[]): Vector {
  const count = points.length / 3
  return ways.map((way, axis) => {
    if (way === 'stays') return 0
    if (way === 'lowest') return bounds.min[axis]!
    let sum = 0
    for (let p = 0; p < count; p++) sum += points[p * 3 + axis]!
    return sum / count
  }) as Vector
}

/** How many points have a vertex of the finest level within a distance in metres. */
function pointsFound(document: Document, points: readonly number[], within: number): number {
  const missing = new Set(Array.from({ length: points.length / 3 }, (_, p) => p))
  const least = Math.max(within, 1e-6) ** 2
  for (const { node, primitives } of partsOfDocument(document).finest)
    for (const primitive of primitives) {
      const places = worldPositions(node, primitive, primitiveView(primitive).positions)
      for (const p of missing)
        for (let v = 0; v + 2 < places.length; v += 3) {
          const dx = places[v]! - points[p * 3]!,
            dy = places[v + 1]! - points[p * 3 + 1]!,
            dz = places[v + 2]! - points[p * 3 + 2]!
          if (dx * dx + dy * dy + dz * dz > least) continue
          missing.delete(p)
          break
        }
    }
  return points.length / 3 - missing.size
}
