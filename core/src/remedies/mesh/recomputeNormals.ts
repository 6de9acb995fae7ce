import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { mergeVertices } from '../../geometry/mergeVertices'
import { pointIds } from '../../geometry/pointIds'
import { smoothNormals } from '../../geometry/smoothNormals'
import { vertexAttributes } from '../../measure/measurePrimitive'
import { joinFloats } from '../../measure/placedMesh'
import { floatsOf, primitiveView } from '../../scene/primitiveView'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { joinVertices, meshesAt, setFloats, trianglePrimitives, unweldPrimitive } from '../meshWork'

export const recomputeNormals = defineRemedy({
  id: 'mesh/recompute-normals',
  version: 1,
  station: 'mesh',
  needs: 'mesh',
  title: 'Recompute normals',
  words: ({ angle }) => `Normals, hard from ${angle}°`,
  about:
    'Gives every corner the mean of the faces around it, each weighted by its angle there; edges ' +
    'sharper than the angle stay hard. Tangents go, since they no longer fit. Places and UVs stay as ' +
    'they are.',
  options: z.strictObject({
    node: nodeOption,
    angle: z
      .number()
      .min(0)
      .max(180)
      .default(45)
      .describe('degrees between faces from which an edge is hard'),
  }),
  async apply(work, { node: path, angle }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no normals' })
    let done = 0
    for (const { mesh } of meshesAt(work, path)) {
      const primitives = trianglePrimitives(mesh)
      for (const primitive of primitives) {
        primitive.setAttribute('TANGENT', null)
        unweldPrimitive(work.document, primitive)
      }
      // Points are numbered over the whole mesh, so that normals go on across slots
      const { ids, first, count } = pointIds(
        joinFloats(primitives.map((p) => floatsOf(p.getAttribute('POSITION')!))),
      )
      const all = joinFloats(primitives.map((p) => floatsOf(p.getAttribute('POSITION')!))),
        places = new Float32Array(count * 3)
      for (let p = 0; p < count; p++) places.set(all.subarray(first[p]! * 3, first[p]! * 3 + 3), p * 3)
      const normals = smoothNormals(ids, places, (angle * Math.PI) / 180)
      let from = 0
      for (const primitive of primitives) {
        const length = primitiveView(primitive).positions.length
        setFloats(work.document, primitive, 'NORMAL', normals.slice(from, from + length), 'VEC3')
        const own = pointIds(floatsOf(primitive.getAttribute('POSITION')!))
        joinVertices(
          work.document,
          primitive,
          mergeVertices(own.ids, own.count, vertexAttributes(primitive)).rep,
        )
        from += length
        done++
      }
    }
    return good({
      changed: done > 0,
      said:
        done > 0
          ? `normals of ${done} ${done === 1 ? 'part' : 'parts'} computed, edges hard from ${angle}°`
          : 'there is nothing to compute them for',
    })
  },
})
