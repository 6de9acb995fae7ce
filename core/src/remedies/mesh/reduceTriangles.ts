import type { Document, Primitive } from '@gltf-transform/core'
import { MeshoptSimplifier } from 'meshoptimizer/simplifier'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { notFinitePoints } from '../../geometry/triangleSurvey'
import { formatCount } from '../../numbers/formatNumber'
import { partsOfDocument } from '../../measure/partsOfDocument'
import { floatsOf, primitiveView, type PrimitiveView } from '../../scene/primitiveView'
import { defineRemedy } from '../defineRemedy'
import { setTriangles } from '../meshWork'

/** How much a unit of a normal's or a UV's change counts against a move by the size of the part. */
const ATTRIBUTE_WEIGHT = 0.5

export const reduceTriangles = defineRemedy({
  id: 'mesh/reduce',
  version: 1,
  isSlow: true,
  station: 'mesh',
  needs: 'mesh',
  title: 'Reduce the triangles',
  words: ({ triangles }) => `Reduce to ${formatCount(triangles)}`,
  about:
    'Takes triangles out of the finest level, evenly by part, where the surface changes least ' +
    '(edge collapse by quadric error). Vertices that stay keep all that they carry; ' +
    'open edges and those between slots stay where they are. ' +
    'It ends early where the surface would move too far.',
  options: z.strictObject({
    triangles: z.int().min(1).describe('of the finest level, all parts together'),
    error: z
      .number()
      .min(0)
      .max(1)
      .default(0.02)
      .describe('how far the surface may move, as a share of the size of a part'),
  }),
  async apply(work, { triangles: wanted, error }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no triangles' })
    await MeshoptSimplifier.ready
    const drawn = partsOfDocument(work.document)
      .finest.flatMap(({ primitives }) => primitives)
      .filter((p) => primitiveView(p).mode === 'triangles')
    const before = trianglesIn(drawn)
    if (before <= wanted) return good({ changed: false, said: `it has ${formatCount(before)} triangles` })
    for (const primitive of new Set(drawn)) reducePrimitive(work.document, primitive, wanted / before, error)
    const after = trianglesIn(drawn)
    if (after === before)
      return good({ changed: false, said: 'nothing can go without moving the surface too far' })
    const why = after > wanted ? '; fewer would move the surface too far' : ''
    return good({
      changed: true,
      said: `${formatCount(before)} triangles became ${formatCount(after)}${why}`,
    })
  },
})

/** Triangles of primitives; a mesh that several nodes share counts with each. */
export const trianglesIn = (primitives: readonly Primitive[]): number =>
  primitives
    .filter((p) => primitiveView(p).mode === 'triangles')
    .reduce((sum, p) => sum + Math.floor(primitiveView(p).indices.length / 3), 0)

/** Edits in place. Parts with broken indices or places that are no numbers are left as they are. */
export function reducePrimitive(
  document: Document,
  primitive: Primitive,
  share: number,
  error: number,
): void {
  const view = primitiveView(primitive),
    { indices, positions } = view,
    vertices = positions.length / 3
  if (indices.length === 0 || indices.some((v) => v >= vertices) || notFinitePoints(positions) > 0) return
  const { values, size } = carriedOf(primitive, view)
  const wanted = Math.max(1, Math.floor((indices.length / 3) * share)) * 3
  const [reduced] =
    size === 0
      ? MeshoptSimplifier.simplify(indices, positions, 3, wanted, error, ['LockBorder'])
      : MeshoptSimplifier.simplifyWithAttributes(
          indices,
          positions,
          3,
          values,
          size,
          new Array<number>(size).fill(ATTRIBUTE_WEIGHT),
          null,
          wanted,
          error,
          ['LockBorder'],
        )
  if (reduced.length > 0 && reduced.length < indices.length) setTriangles(document, primitive, reduced)
}

/** What a vertex's change is weighed by besides its place: its normal and its first UVs, side by side. */
function carriedOf(
  primitive: Primitive,
  { positions, uvs }: PrimitiveView,
): { values: Float32Array; size: number } {
  const normal = primitive.getAttribute('NORMAL'),
    uv = uvs[0] ?? null,
    vertices = positions.length / 3
  const lists = [
    ...(normal ? [{ list: floatsOf(normal), own: 3 }] : []),
    ...(uv ? [{ list: uv, own: 2 }] : []),
  ]
  const size = lists.reduce((sum, l) => sum + l.own, 0),
    values = new Float32Array(vertices * size)
  let from = 0
  for (const { list, own } of lists) {
    for (let v = 0; v < vertices; v++)
      for (let i = 0; i < own; i++)
        values[v * size + from + i] = Number.isFinite(list[v * own + i]) ? list[v * own + i]! : 0
    from += own
  }
  return { values, size }
}
