import * as z from 'zod'
import { dropAlphaChannel, isAlphaFull } from '../../image/channelPixels'
import { defineRemedy } from '../defineRemedy'
import { changeTexels } from './changeTexels'

export const dropAlpha = defineRemedy({
  id: 'colour/drop-alpha',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Drop the alpha channel',
  words: () => 'Drop alpha',
  about: 'Takes the alpha channel out; all other values stay as they are.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    full: z.boolean().default(false).describe('only where the alpha is full everywhere'),
  }),
  // An alpha that is the same everywhere, but not full, makes what is drawn translucent
  safe: ({ full }) => full,
  apply: (work, { texture: name, full }, ports) =>
    changeTexels(work, ports, name, {
      cannot: ({ alpha }) => (alpha ? null : `${name} has no alpha channel`),
      change: (pixels) => (full && !isAlphaFull(pixels) ? null : dropAlphaChannel(pixels)),
      said: (own) => `${own} has no alpha channel now`,
      kept: `the alpha of ${name} is not full everywhere`,
    }),
})
