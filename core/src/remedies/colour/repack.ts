import * as z from 'zod'
import { bad, CHANNEL_ORDER, good, type TextureRole } from '@stern-gate/contract'
import { packChannels, type ChannelName, type ChannelSource } from '../../image/packChannels'
import type { Pixels } from '../../image/pixels'
import { layoutLetters, layoutWords } from '../../rulebook/layoutLetters'
import { defineRemedy } from '../defineRemedy'
import { openTexture, rewritePixels, stateRole } from '../textureSteps'

export const repack = defineRemedy({
  id: 'colour/repack',
  version: 2,
  station: 'colour',
  needs: 'texels',
  title: 'Repack channels',
  words: ({ from, to }) => `Repack ${from} → ${to}`,
  about:
    'Puts the channels of a packed map into another order. Gloss becomes roughness and the other ' +
    'way round where the orders differ in that; a channel that the map has not becomes one value: ' +
    'occlusion none, metal none. What comes out in the order of glTF says so in its file.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    from: z
      .string()
      .regex(CHANNEL_ORDER)
      .default('mro')
      .describe(`order of the channels as they are: ${layoutWords}`),
    to: z.string().regex(CHANNEL_ORDER).default('orm').describe('order that is wanted'),
  }),
  async apply(work, { texture: name, from, to }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    if (from === to) return good({ changed: false, said: `${name} has that order already` })
    if (header.channels < Math.min(3, from.length))
      return bad(
        'remedy/not-applicable',
        `${name} has ${header.channels} ${header.channels === 1 ? 'channel' : 'channels'}, and ${from} names ${from.length}.`,
        'Pack single maps by giving them to the slot.',
      )
    const rewritten = await rewritePixels(texture, ports, (pixels) => reordered(pixels, from, to))
    if (!rewritten.ok) return rewritten
    // Its name may go on saying the order of before
    const stated = to === 'orm' ? stateRole(texture, 'orm', 'linear') : good(true)
    return stated.ok ? good({ changed: true, said: `the channels of ${texture.name} are ${to}` }) : stated
  },
})

/** What stands in a channel that no source has: no occlusion, full roughness, no metal, middle height. */
const absent: Partial<Record<TextureRole, number>> = { occlusion: 1, roughness: 1, metallic: 0, height: 0.5 }

function reordered(pixels: Pixels, from: string, to: string): Pixels {
  const own = [...from].map((letter) => layoutLetters[letter])
  const sources = [...to].map((letter, at): ChannelSource => {
    const wanted = layoutLetters[letter]
    // Nothing is wanted there: what stands there stays
    if (!wanted) return { pixels, channel: 'RGBA'[at] as ChannelName, inverted: false }
    const found = own.findIndex((o) => o?.role === wanted.role)
    if (found >= 0)
      return {
        pixels,
        channel: 'RGBA'[found] as ChannelName,
        inverted: own[found]!.inverted !== wanted.inverted,
      }
    const value = absent[wanted.role]!
    return wanted.inverted ? 1 - value : value
  })
  return packChannels(sources)
}
