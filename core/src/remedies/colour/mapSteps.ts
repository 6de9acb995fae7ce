import * as z from 'zod'
import {
  toEightBits,
  withAlphaOf,
  withDetail,
  withRange,
  withStrength,
  withThird,
} from '../../image/mapConversions'
import { defineRemedy } from '../defineRemedy'
import { decodedTexture } from '../madeTextures'
import { textureOf } from '../textureSteps'
import { changeTexels } from './changeTexels'

const texture = z.string().describe('name of the texture').meta({ names: 'texture' })
const channels = ['R', 'G', 'B', 'A'] as const
const share = (about: string) => z.number().min(0).max(1).describe(about)

export const setRange = defineRemedy({
  id: 'colour/set-range',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Set the range of a map',
  words: ({ least, most }) => `Range ${least} … ${most}`,
  about:
    'Brings values from 0 … 1 to a least and a most: roughness that never gets glossy, occlusion ' +
    'half as dark. With the least above the most it is turned round, too.',
  options: z.strictObject({
    texture,
    channel: z
      .enum(['all', ...channels])
      .default('all')
      .describe('which channel; all: every one but alpha'),
    least: share('what 0 becomes').default(0),
    most: share('what full becomes').default(1),
  }),
  apply: (work, { texture: name, channel, least, most }, ports) =>
    changeTexels(work, ports, name, {
      cannot: (header) =>
        channel !== 'all' && channels.indexOf(channel) >= header.channels
          ? `${name} has no channel ${channel}`
          : least === 0 && most === 1
            ? 'the range is as it was'
            : null,
      change: (pixels) =>
        withRange(pixels, channel === 'all' ? null : channels.indexOf(channel), least, most),
      said: (own) =>
        `${channel === 'all' ? own : `channel ${channel} of ${own}`} goes from ${least} to ${most}`,
    }),
})

export const normalStrength = defineRemedy({
  id: 'colour/normal-strength',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Make a normal map steeper or flatter',
  words: ({ strength }) => `Slopes × ${strength}`,
  about: 'Multiplies the slopes of a normal map and makes its vectors unit long again.',
  options: z.strictObject({
    texture,
    strength: z.number().min(0).max(100).default(1).describe('0 flat, 1 as it is, 2 twice as steep'),
  }),
  apply: (work, { texture: name, strength }, ports) =>
    changeTexels(work, ports, name, {
      cannot: (header) =>
        header.channels < 3
          ? `${name} has no three channels`
          : strength === 1
            ? 'the slopes stay as they are'
            : null,
      change: (pixels) => withStrength(pixels, strength),
      said: (own) => `slopes of ${own} are ${strength} times as steep`,
    }),
})

export const rebuildBlue = defineRemedy({
  id: 'colour/rebuild-blue',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Find blue of a normal map',
  words: () => 'Blue from red and green',
  about:
    'Makes the third channel of a normal map from the first two: √(1 − x² − y²). For maps that ' +
    'carry two channels, or something else in blue.',
  options: z.strictObject({ texture }),
  apply: (work, { texture: name }, ports) =>
    changeTexels(work, ports, name, {
      cannot: (header) => (header.channels < 2 ? `${name} has one channel alone` : null),
      change: withThird,
      said: (own) => `blue of ${own} is what red and green leave`,
    }),
})

export const addDetail = defineRemedy({
  id: 'colour/add-detail',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Lay a detail over a normal map',
  words: ({ detail, repeats }) => `${detail} × ${repeats}`,
  about:
    'Turns the vectors of a finer normal map onto those of a base, so that both slopes are kept. ' +
    'The detail repeats as often as is said; its file stays as it is.',
  options: z.strictObject({
    texture,
    detail: z.string().describe('normal map that is laid over it').meta({ names: 'texture' }),
    repeats: z.int().min(1).max(256).default(4).describe('times along each side'),
    strength: z.number().min(0).max(10).default(1).describe('of the slopes of the detail'),
  }),
  async apply(work, { texture: name, detail: other, repeats, strength }, ports) {
    const found = textureOf(work, other)
    if (!found.ok) return found
    const detail = await decodedTexture(found.value, ports)
    if (!detail.ok) return detail
    return changeTexels(work, ports, name, {
      cannot: (header) =>
        header.channels < 3 || detail.value.channels < 2 ? 'one of them is no normal map' : null,
      change: (pixels) => withDetail(pixels, detail.value, repeats, strength),
      said: (own) => `${found.value.name} lies over ${own}, ${repeats} times along each side`,
    })
  },
})

export const alphaFrom = defineRemedy({
  id: 'colour/alpha-from',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Alpha from the picture itself',
  words: ({ from }) => `Alpha from ${from}`,
  about:
    'Gives a texture an alpha: the grey of its colour as the eye takes it, or one of its ' +
    'channels. An alpha that it had is replaced. How a slot uses it is a setting of the slot.',
  options: z.strictObject({
    texture,
    from: z
      .enum(['grey', ...channels])
      .default('grey')
      .describe('what becomes the alpha'),
    inverted: z.boolean().default(false).describe('dark becomes opaque'),
  }),
  apply: (work, { texture: name, from, inverted }, ports) =>
    changeTexels(work, ports, name, {
      cannot: (header) =>
        from !== 'grey' && channels.indexOf(from) >= header.channels
          ? `${name} has no channel ${from}`
          : null,
      change: (pixels) => withAlphaOf(pixels, from === 'grey' ? 'grey' : channels.indexOf(from), inverted),
      said: (own) => `alpha of ${own} is its ${from === 'grey' ? 'grey' : `channel ${from}`}`,
    }),
})

export const eightBits = defineRemedy({
  id: 'colour/eight-bits',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Bring to 8 bit',
  words: () => '8 bit',
  about:
    'Writes 16-bit values with 8 bits and a seeded dither, so that soft slopes show no steps. Half of the bytes go.',
  options: z.strictObject({ texture }),
  apply: (work, { texture: name }, ports) =>
    changeTexels(work, ports, name, {
      cannot: (header) => (header.depth === 8 ? `${name} has 8 bit already` : null),
      change: toEightBits,
      said: (own) => `${own} has 8 bit`,
    }),
})
