import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { partsOfDocument } from '../../measure/partsOfDocument'
import { defineRemedy } from '../defineRemedy'

/** What a collision mesh needs: where its triangles are. */
const NEEDED = 'POSITION'

export const stripCollision = defineRemedy({
  id: 'collision/strip',
  version: 1,
  station: 'collision',
  needs: 'mesh',
  title: 'Take slots and UVs off the collision',
  words: () => 'Collision: shape alone',
  about:
    'Takes slots, UVs, normals, colours and weights off the collision meshes; their places and triangles stay. ' +
    'A mesh that is drawn, too, is left as it is.',
  options: z.strictObject({}),
  apply(work) {
    if (!work.document)
      return Promise.resolve(good({ changed: false, said: 'a texture set collides with nothing' }))
    const { collision, drawn } = partsOfDocument(work.document)
    const shown = new Set(drawn.map((n) => n.node.getMesh()))
    let count = 0
    for (const { node } of collision) {
      const mesh = node.getMesh()
      if (!mesh || shown.has(mesh)) continue
      for (const primitive of mesh.listPrimitives()) {
        const more = primitive.listSemantics().filter((s) => s !== NEEDED)
        if (more.length === 0 && !primitive.getMaterial()) continue
        count++
        primitive.setMaterial(null)
        for (const semantic of more) primitive.setAttribute(semantic, null)
      }
    }
    return Promise.resolve(
      good({
        changed: count > 0,
        said:
          count > 0
            ? `${count} ${count === 1 ? 'part has' : 'parts have'} its shape alone`
            : 'it is its shape alone',
      }),
    )
  },
})
