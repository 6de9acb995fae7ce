import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { cornerTangents } from '../../geometry/cornerTangents'
import { mergeVertices } from '../../geometry/mergeVertices'
import { pointIds } from '../../geometry/pointIds'
import { vertexAttributes } from '../../measure/measurePrimitive'
import { floatsOf } from '../../scene/primitiveView'
import { channelOf } from '../../scene/texturePlacement'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { joinVertices, meshesAt, setFloats, trianglePrimitives, unweldPrimitive } from '../meshWork'

export const generateTangents = defineRemedy({
  id: 'mesh/generate-tangents',
  version: 2,
  station: 'mesh',
  needs: 'mesh',
  title: 'Generate tangents',
  words: () => 'Generate tangents',
  about:
    'Computes tangents by MikkTSpace, as normal maps are baked, for the UV channel of the normal ' +
    'map. Parts without normals or without that channel are left alone.',
  options: z.strictObject({
    node: nodeOption,
  }),
  async apply(work, { node: path }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no tangents' })
    let done = 0
    for (const { mesh } of meshesAt(work, path))
      for (const primitive of trianglePrimitives(mesh)) {
        const info = primitive.getMaterial()?.getNormalTextureInfo(),
          channel = info ? channelOf(info) : 0
        if (!primitive.getAttribute('NORMAL') || !primitive.getAttribute(`TEXCOORD_${channel}`)) continue
        primitive.setAttribute('TANGENT', null)
        unweldPrimitive(work.document, primitive)
        const tangents = cornerTangents(
          floatsOf(primitive.getAttribute('POSITION')!),
          floatsOf(primitive.getAttribute('NORMAL')!),
          floatsOf(primitive.getAttribute(`TEXCOORD_${channel}`)!),
        )
        setFloats(work.document, primitive, 'TANGENT', tangents, 'VEC4')
        const { ids, count } = pointIds(floatsOf(primitive.getAttribute('POSITION')!))
        joinVertices(work.document, primitive, mergeVertices(ids, count, vertexAttributes(primitive)).rep)
        done++
      }
    return good({
      changed: done > 0,
      said:
        done > 0
          ? `tangents of ${done} ${done === 1 ? 'part' : 'parts'} computed`
          : 'no part has both normals and UVs',
    })
  },
})
