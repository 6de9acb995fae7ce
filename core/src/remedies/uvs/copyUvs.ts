import type { Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { defineRemedy } from '../defineRemedy'
import { meshesAt } from '../meshWork'

const channel = z.int().min(0).max(7)

export const copyUvs = defineRemedy({
  id: 'uvs/copy',
  version: 1,
  station: 'uvs',
  needs: 'mesh',
  title: 'Copy a UV channel',
  words: ({ from, to }) => `Copy UV${from} to UV${to}`,
  about: 'Copies one UV channel to the number of another, over what stood there.',
  options: z.strictObject({
    node: z
      .string()
      .nullable()
      .default(null)
      .describe('path of one node; null: everywhere')
      .meta({ names: 'node' }),
    from: channel.default(0).describe('channel that is copied, counted from 0'),
    to: channel.default(1).describe('number that it is copied to'),
  }),
  async apply(work, { node, from, to }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no UVs' })
    const primitives = [...new Set(meshesAt(work, node).flatMap(({ mesh }) => mesh.listPrimitives()))]
    let changed = 0
    for (const primitive of primitives) if (from !== to && copy(primitive, from, to)) changed++
    return good({
      changed: changed > 0,
      said:
        changed > 0
          ? `UV${from} of ${changed} ${changed === 1 ? 'part' : 'parts'} copied to UV${to}`
          : `no part has UV${from}`,
    })
  },
})

function copy(primitive: Primitive, from: number, to: number): boolean {
  const source = primitive.getAttribute(`TEXCOORD_${from}`)
  if (source) primitive.setAttribute(`TEXCOORD_${to}`, source.clone())
  return source !== null
}
