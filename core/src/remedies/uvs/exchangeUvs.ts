import type { Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { defineRemedy } from '../defineRemedy'
import { meshesAt } from '../meshWork'

const channel = z.int().min(0).max(7)

export const exchangeUvs = defineRemedy({
  id: 'uvs/exchange',
  version: 1,
  station: 'uvs',
  needs: 'mesh',
  title: 'Exchange UV channels',
  words: ({ a, b }) => `Exchange UV${a} and UV${b}`,
  about: 'Exchanges two UV channels. Slots keep reading the channel of the number that they read before.',
  options: z.strictObject({
    node: z
      .string()
      .nullable()
      .default(null)
      .describe('path of one node; null: everywhere')
      .meta({ names: 'node' }),
    a: channel.default(0).describe('one channel, counted from 0'),
    b: channel.default(1).describe('the other channel'),
  }),
  async apply(work, { node, a, b }) {
    if (!work.document) return good({ changed: false, said: 'a texture set has no UVs' })
    const primitives = [...new Set(meshesAt(work, node).flatMap(({ mesh }) => mesh.listPrimitives()))]
    let changed = 0
    for (const primitive of primitives) if (a !== b && exchange(primitive, a, b)) changed++
    return good({
      changed: changed > 0,
      said:
        changed > 0
          ? `UV${a} and UV${b} of ${changed} ${changed === 1 ? 'part' : 'parts'} changed places`
          : `no part has UV${a} or UV${b}`,
    })
  },
})

/** A channel that is missing on one side leaves its number free. */
function exchange(primitive: Primitive, a: number, b: number): boolean {
  const first = primitive.getAttribute(`TEXCOORD_${a}`),
    second = primitive.getAttribute(`TEXCOORD_${b}`)
  if (!first && !second) return false
  primitive.setAttribute(`TEXCOORD_${a}`, second).setAttribute(`TEXCOORD_${b}`, first)
  return true
}
