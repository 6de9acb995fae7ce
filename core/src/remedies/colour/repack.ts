import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { packChannels, type ChannelName, type ChannelSource } from '../../image/packChannels'
import type { Pixels } from '../../image/pixels'
import { defineRemedy } from '../defineRemedy'
import { openTexture, rewritePixels } from '../textureSteps'

const LAYOUT = /^[oarmgshx]{3,4}$/
const letters = 'o or a occlusion, r roughness, g or s gloss, m metallic, h height, x nothing'

export const repack = defineRemedy({
  id: 'colour/repack',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Repack channels',
  words: ({ from, to }) => `Repack ${from} → ${to}`,
  about:
    'Puts the channels of a packed map into another order. Gloss becomes roughness and the other ' +
    'way round where the orders differ in that; a channel that the map has not becomes one value: ' +
    'occlusion none, metal none.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    from: z.string().regex(LAYOUT).default('mro').describe(`order of the channels as they are: ${letters}`),
    to: z.string().regex(LAYOUT).default('orm').describe('order that is wanted'),
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
    return rewritten.ok
      ? good({ changed: true, said: `the channels of ${texture.name} are ${to}` })
      : rewritten
  },
})

/** Letters that mean the same channel; upper case: the other way round. */
const meanings: Readonly<Record<string, string>> = {
  o: 'o',
  a: 'o',
  r: 'r',
  g: 'R',
  s: 'R',
  m: 'm',
  h: 'h',
}
/** What stands in a channel that no source has. */
const absent: Readonly<Record<string, number>> = { o: 1, r: 1, R: 0, m: 0, h: 0.5 }

function reordered(pixels: Pixels, from: string, to: string): Pixels {
  const own = [...from].map((letter) => meanings[letter] ?? '')
  const sources = [...to].map((letter, at): ChannelSource => {
    const wanted = meanings[letter]
    // Nothing is wanted there: what stands there stays
    if (wanted === undefined) return { pixels, channel: 'RGBA'[at] as ChannelName, inverted: false }
    const found = own.findIndex((o) => o.toLowerCase() === wanted.toLowerCase())
    return found < 0
      ? absent[wanted]!
      : { pixels, channel: 'RGBA'[found] as ChannelName, inverted: own[found] !== wanted }
  })
  return packChannels(sources)
}
