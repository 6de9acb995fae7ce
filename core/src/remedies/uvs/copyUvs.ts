import type { Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { changeChannels, uvChannel } from './changeChannels'

export const copyUvs = defineRemedy({
  id: 'uvs/copy',
  version: 1,
  station: 'uvs',
  needs: 'mesh',
  title: 'Copy a UV channel',
  words: ({ from, to }) => `Copy UV${from} to UV${to}`,
  about: 'Copies one UV channel to the number of another, over what stood there.',
  options: z.strictObject({
    node: nodeOption,
    from: uvChannel.default(0).describe('channel that is copied, counted from 0'),
    to: uvChannel.default(1).describe('number that it is copied to'),
  }),
  apply: async (work, { node, from, to }) =>
    changeChannels(work, node, (p) => from !== to && copy(p, from, to), {
      said: (parts) => `UV${from} of ${parts} copied to UV${to}`,
      none: `no part has UV${from}`,
    }),
})

function copy(primitive: Primitive, from: number, to: number): boolean {
  const source = primitive.getAttribute(`TEXCOORD_${from}`)
  if (source) primitive.setAttribute(`TEXCOORD_${to}`, source.clone())
  return source !== null
}
