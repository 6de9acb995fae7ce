import type { Document, Primitive } from '@gltf-transform/core'
import { MeshoptEncoder } from 'meshoptimizer/encoder'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { vertexCacheUse } from '../../geometry/vertexCache'
import { formatNumber } from '../../numbers/formatNumber'
import { primitiveView } from '../../scene/primitiveView'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { meshesAt, setTriangles, trianglePrimitives } from '../meshWork'

/** An order that is better by less than this is left as it is, so that doing it twice does nothing. */
const WORTH = 0.97
const NOWHERE = 0xffffffff

export const reorderTriangles = defineRemedy({
  id: 'mesh/reorder',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Reorder for the vertex cache',
  words: () => 'Reorder for the vertex cache',
  about:
    'Puts triangles and vertices into an order in which vertices are reused soon. No value changes, ' +
    'only the order. Parts with a blended slot keep theirs, because there the order is seen.',
  options: z.strictObject({
    node: nodeOption,
  }),
  async apply(work, { node: path }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no triangles' })
    await MeshoptEncoder.ready
    let before = 0,
      after = 0,
      triangles = 0
    for (const { mesh } of meshesAt(work, path))
      for (const primitive of trianglePrimitives(mesh)) {
        if (primitive.getMaterial()?.getAlphaMode() === 'BLEND') continue
        const done = reorderPrimitive(work.document, primitive)
        if (!done) continue
        triangles += done.triangles
        before += done.before * done.triangles
        after += done.after * done.triangles
      }
    if (triangles === 0) return good({ changed: false, said: 'no better order was found' })
    return good({
      changed: true,
      said: `${formatNumber(before / triangles, 'x')} vertices a triangle became ${formatNumber(after / triangles, 'x')}`,
    })
  },
})

/** Edits in place; null when the order is good already. Figures are vertices transformed per triangle. */
function reorderPrimitive(
  document: Document,
  primitive: Primitive,
): { triangles: number; before: number; after: number } | null {
  const { indices, positions } = primitiveView(primitive)
  const vertices = positions.length / 3,
    use = vertexCacheUse(indices, vertices)
  if (!use || indices.some((v) => v >= vertices)) return null
  const ordered = indices.slice()
  const [remap, count] = MeshoptEncoder.reorderMesh(ordered, true, false)
  const after = vertexCacheUse(ordered, count)
  if (!after || after.acmr > use.acmr * WORTH) return null
  for (const holder of [primitive, ...primitive.listTargets()])
    for (const semantic of holder.listSemantics()) {
      const accessor = holder.getAttribute(semantic)!,
        source = accessor.getArray()!,
        size = accessor.getElementSize()
      const out = new (source.constructor as Float32ArrayConstructor)(count * size)
      for (let v = 0; v < remap.length; v++)
        if (remap[v] !== NOWHERE)
          for (let i = 0; i < size; i++) out[remap[v]! * size + i] = source[v * size + i]!
      holder.setAttribute(semantic, accessor.clone().setArray(out))
    }
  setTriangles(document, primitive, ordered)
  return { triangles: indices.length / 3, before: use.acmr, after: after.acmr }
}
