import type { Document, Primitive } from '@gltf-transform/core'
import { compactPrimitive } from '@gltf-transform/functions'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { boundsSize, joinBounds, pointBounds } from '../../geometry/pointBounds'
import { DEGENERATE_AREA_SHARE, triangleSurvey } from '../../geometry/triangleSurvey'
import { countOf } from '../../numbers/formatNumber'
import { nodePaths } from '../../scene/nodePaths'
import { MODE_TRIANGLES, primitiveView } from '../../scene/primitiveView'
import { worldPositions } from '../../scene/worldPositions'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'

export const dropDegenerate = defineRemedy({
  id: 'mesh/drop-degenerate',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Drop degenerate triangles',
  words: () => 'Drop degenerate triangles',
  about:
    'Takes out triangles that have no area or name a vertex that is not there, and the vertices that ' +
    'only they used. Nothing visible changes.',
  options: z.strictObject({
    node: nodeOption,
  }),
  safe: true,
  async apply(work, { node }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no triangles' })
    const dropped = dropFromDocument(work.document, node)
    return good({
      changed: dropped > 0,
      said: dropped > 0 ? `${countOf(dropped, 'triangle')} dropped` : 'no such triangles are there',
    })
  },
})

/** Edits in place; returns how many triangles went. */
function dropFromDocument(document: Document, only: string | null): number {
  let dropped = 0
  const done = new Set<Primitive>()
  for (const [node, path] of nodePaths(document)) {
    if (only !== null && path !== only) continue
    const mesh = node.getMesh()
    const placed = (mesh?.listPrimitives() ?? []).map((primitive) => {
      const view = primitiveView(primitive)
      return { primitive, view, world: worldPositions(node, primitive, view.positions) }
    })
    const bounds = joinBounds(placed.map((p) => pointBounds(p.world)))
    const [x, y, z] = bounds ? boundsSize(bounds) : [0, 0, 0]
    for (const { primitive, view, world } of placed) {
      if (view.mode !== 'triangles' || done.has(primitive)) continue
      done.add(primitive)
      const survey = triangleSurvey(world, view.indices, DEGENERATE_AREA_SHARE * (x * x + y * y + z * z))
      const out = new Set([...survey.degenerate, ...survey.badIndices])
      if (out.size === 0) continue
      dropped += out.size
      keepTriangles(document, primitive, view.indices, out)
    }
    for (const primitive of mesh?.listPrimitives() ?? [])
      if (primitive.getIndices()?.getCount() === 0) primitive.dispose()
  }
  return dropped
}

function keepTriangles(
  document: Document,
  primitive: Primitive,
  indices: Uint32Array,
  out: ReadonlySet<number>,
): void {
  const kept = new Uint32Array(indices.length - out.size * 3)
  let at = 0
  for (let t = 0; t * 3 + 2 < indices.length; t++)
    if (!out.has(t)) for (let i = 0; i < 3; i++) kept[at++] = indices[t * 3 + i]!
  const buffer =
    primitive.getAttribute('POSITION')?.getBuffer() ??
    document.getRoot().listBuffers()[0] ??
    document.createBuffer()
  primitive.setMode(MODE_TRIANGLES)
  primitive.setIndices(document.createAccessor().setType('SCALAR').setArray(kept).setBuffer(buffer))
  if (kept.length > 0) compactPrimitive(primitive)
}
