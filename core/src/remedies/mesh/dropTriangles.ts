import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { FACE_CRUMB, FACE_DUPLICATE, meshTopology } from '../../geometry/meshTopology'
import { countOf } from '../../numbers/formatNumber'
import { cornersOf, placeMesh } from '../../measure/placedMesh'
import { defineRemedy, type Remedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { meshesAt, setTriangles } from '../meshWork'
import type { Work } from '../work'

const options = z.strictObject({
  node: nodeOption,
})

/** A remedy that takes out what topology flags. */
const dropping = (
  flag: number,
  none: string,
  about: Omit<Remedy<z.infer<typeof options>>, 'options' | 'apply'>,
) =>
  defineRemedy({
    ...about,
    options,
    async apply(work, { node }) {
      if (!work.document) return good({ changed: false, said: 'a texture set has no triangles' })
      const dropped = dropFlagged(work, node, flag)
      return good({
        changed: dropped > 0,
        said: dropped > 0 ? `${countOf(dropped, 'triangle')} dropped` : none,
      })
    },
  })

export const dropDuplicates = dropping(FACE_DUPLICATE, 'no triangle is there twice', {
  id: 'mesh/drop-duplicates',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Drop duplicate triangles',
  words: () => 'Drop duplicate triangles',
  about:
    'Of triangles over the same three points the first stays. A sheet that is modelled from both ' +
    'sides loses its back; the rest of the mesh is left alone.',
})

export const dropCrumbs = dropping(FACE_CRUMB, 'no crumbs lie about', {
  id: 'mesh/drop-crumbs',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Drop tiny loose pieces',
  words: () => 'Drop tiny pieces',
  about:
    "Takes out open pieces of at most four triangles that are less than 0.01 % of their node's " +
    'surface. Larger pieces and closed ones stay.',
})

/**
 * Takes out the triangles that topology flags, over all primitives of each node. Edits in place; returns how
 * many went.
 */
function dropFlagged(work: Work, path: string | null, flag: number): number {
  let dropped = 0
  for (const { node, mesh } of meshesAt(work, path)) {
    const placed = placeMesh(node, () => null)
    const { flags } = meshTopology(cornersOf(placed), placed.places, placed.winding)
    let from = 0
    for (const { primitive, view } of placed.primitives) {
      const own = flags.subarray(from, (from += Math.floor(view.indices.length / 3)))
      const kept = view.indices.filter((_, k) => ((own[Math.floor(k / 3)] ?? 0) & flag) === 0)
      if (kept.length === view.indices.length) continue
      dropped += (view.indices.length - kept.length) / 3
      setTriangles(work.document!, primitive, kept)
    }
    for (const primitive of mesh.listPrimitives())
      if (primitive.getIndices()?.getCount() === 0) primitive.dispose()
  }
  return dropped
}
