import type { Primitive } from '@gltf-transform/core'
import * as z from 'zod'
import { defineRemedy } from '../defineRemedy'
import { nodeOption } from '../nodeOption'
import { changeChannels, moveReadChannels, uvChannel } from './changeChannels'

export const exchangeUvs = defineRemedy({
  id: 'uvs/exchange',
  version: 2,
  station: 'uvs',
  needs: 'mesh',
  title: 'Exchange UV channels',
  words: ({ a, b }) => `Exchange UV${a} and UV${b}`,
  about:
    'Exchanges two UV channels. Slots keep reading the channel of the number that they read before, unless they ' +
    'are to follow: then every texture lies as it lay.',
  options: z.strictObject({
    node: nodeOption,
    a: uvChannel.default(0).describe('one channel, counted from 0'),
    b: uvChannel.default(1).describe('the other channel'),
    follow: z.boolean().default(false).describe('slots read the other number, too'),
  }),
  async apply(work, { node, a, b, follow }) {
    const { changed, ...done } = changeChannels(work, node, (p) => a !== b && exchange(p, a, b, follow), {
      said: (parts) => `UV${a} and UV${b} of ${parts} changed places`,
      none: `no part has UV${a} or UV${b}`,
    })
    if (follow && changed.size > 0)
      moveReadChannels(work, changed, (read) => (read === a ? b : read === b ? a : read))
    return done
  },
})

/**
 * A channel that is missing on one side leaves its number free; with `fill` the other one stands in its place, too, for
 * slots that follow read both.
 */
function exchange(primitive: Primitive, a: number, b: number, fill: boolean): boolean {
  const first = primitive.getAttribute(`TEXCOORD_${a}`),
    second = primitive.getAttribute(`TEXCOORD_${b}`)
  if (!first && !second) return false
  primitive
    .setAttribute(`TEXCOORD_${a}`, second ?? (fill ? first : null))
    .setAttribute(`TEXCOORD_${b}`, first ?? (fill ? second : null))
  return true
}
