import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { constantPixels } from '../../image/channelPixels'
import { channelStatistics } from '../../image/channelStatistics'
import { defineRemedy } from '../defineRemedy'
import { openTexture, rewritePixels } from '../textureSteps'

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
  async apply(work, { texture: name, side, spread }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    if (Math.max(header.width, header.height) <= side)
      return good({ changed: false, said: `${name} is that small already` })
    const rewritten = await rewritePixels(texture, ports, (pixels) =>
      channelStatistics(pixels).every((c) => c.max - c.min <= spread) ? constantPixels(pixels, side) : null,
    )
    if (!rewritten.ok) return rewritten
    return good({
      changed: rewritten.value,
      said: rewritten.value ? `${texture.name} is ${side} × ${side} texels` : `${name} is not flat`,
    })
  },
})
