import type { Document, Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { mergeVertices } from '../../geometry/mergeVertices'
import { nearPoints } from '../../geometry/nearPoints'
import { boundsSize, pointBounds } from '../../geometry/pointBounds'
import { placesOf, pointIds } from '../../geometry/pointIds'
import { formatCount } from '../../numbers/formatNumber'
import { joinFloats } from '../../measure/placedMesh'
import { vertexAttributes } from '../../measure/measurePrimitive'
import { floatsOf } from '../../scene/primitiveView'
import { worldPositions } from '../../scene/worldPositions'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { joinVertices, meshesAt, setFloats, trianglePrimitives } from '../meshWork'

export const weld = defineRemedy({
  id: 'mesh/weld',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Weld vertices',
  words: () => 'Weld vertices',
  about:
    'Moves points within the distance onto one another, none further than that, and joins vertices ' +
    'that then agree in every attribute. Seams and hard edges stay: their vertices share a place but ' +
    'not their UVs or normals. Triangles that collapse go.',
  options: z.strictObject({
    node: nodeOption,
    distance: z.number().min(0).max(1000).default(0.0001).describe('metres in the world'),
    share: z
      .number()
      .min(0)
      .max(0.1)
      .nullable()
      .default(null)
      .describe(
        'in place of the distance: of the diagonal of the part, so that it holds whatever was scaled before',
      ),
  }),
  // Vertices at the very same place; anything further moves the surface
  safe: ({ share, distance }) => (share ?? distance) === 0,
  async apply(work, { node: path, distance, share }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no points' })
    let moved = 0,
      joined = 0,
      gone = 0
    for (const { node, mesh } of meshesAt(work, path)) {
      const primitives = trianglePrimitives(mesh)
      const world = joinFloats(
        primitives.map((p) => worldPositions(node, p, floatsOf(p.getAttribute('POSITION')!))),
      )
      moved += snap(work.document, primitives, world, share === null ? distance : share * diagonalOf(world))
      for (const primitive of primitives) {
        const { ids, count } = pointIds(floatsOf(primitive.getAttribute('POSITION')!))
        const { rep, merged } = mergeVertices(ids, count, [
          ...vertexAttributes(primitive),
          ...primitive.listTargets().flatMap(targetAttributes),
        ])
        joined += merged
        if (merged > 0) gone += joinVertices(work.document, primitive, rep)
      }
    }
    if (moved + joined === 0) return good({ changed: false, said: 'no points lie that near' })
    return good({
      changed: true,
      said: `${formatCount(joined)} vertices joined, ${formatCount(moved)} points moved${gone > 0 ? `, ${formatCount(gone)} triangles collapsed` : ''}`,
    })
  },
})

/** Of the box around points, in metres; those that are no numbers do not count. */
function diagonalOf(points: Float32Array): number {
  const box = pointBounds(points)
  return box ? Math.hypot(...boundsSize(box)) : 0
}

/**
 * Gives points that lie within the distance in the world the local place of the one they go to. Returns how
 * many moved.
 */
function snap(
  document: Document,
  primitives: readonly Primitive[],
  world: Float32Array,
  distance: number,
): number {
  const all = pointIds(world)
  const { rep, near } = nearPoints(placesOf(world, all), distance)
  if (near === 0) return 0
  const local = joinFloats(primitives.map((p) => floatsOf(p.getAttribute('POSITION')!)))
  let from = 0
  for (const primitive of primitives) {
    const count = primitive.getAttribute('POSITION')!.getCount()
    const positions = new Float32Array(count * 3)
    for (let v = 0; v < count; v++) {
      const target = all.first[rep[all.ids[from + v]!]!]! * 3
      positions.set(local.subarray(target, target + 3), v * 3)
    }
    setFloats(document, primitive, 'POSITION', positions, 'VEC3')
    from += count
  }
  return near
}

const targetAttributes = (target: ReturnType<Primitive['listTargets']>[number]) =>
  target.listSemantics().map((s) => ({
    values: floatsOf(target.getAttribute(s)!),
    size: target.getAttribute(s)!.getElementSize(),
    tolerance: 1e-4,
  }))
