import * as z from 'zod'
import { constantPixels } from '../../image/channelPixels'
import { channelStatistics } from '../../image/channelStatistics'
import { defineRemedy } from '../defineRemedy'
import { changeTexels } from './changeTexels'

export const shrink = defineRemedy({
  id: 'colour/shrink',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Shrink to a constant',
  words: ({ side }) => `Shrink to ${side} × ${side}`,
  about:
    'Makes a small texture of the mean value out of a flat one. A texture that is not flat is left alone.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    side: z.int().min(1).max(64).default(4).describe('texels a side'),
    spread: z.number().min(0).max(0.1).default(0).describe('between least and greatest value, still flat'),
  }),
  apply: (work, { texture: name, side, spread }, ports) =>
    changeTexels(work, ports, name, {
      cannot: ({ width, height }) =>
        Math.max(width, height) <= side ? `${name} is that small already` : null,
      change: (pixels) =>
        channelStatistics(pixels).every((c) => c.max - c.min <= spread) ? constantPixels(pixels, side) : null,
      said: (own) => `${own} is ${side} × ${side} texels`,
      kept: `${name} is not flat`,
    }),
})
