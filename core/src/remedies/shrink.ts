import { z } from 'zod'
import { good } from '@stern-gate/contract'
import { constantPixels } from '../image/channelPixels'
import { channelStatistics } from '../image/channelStatistics'
import { readTextureHeader } from '../read/readTextureHeader'
import { defineRemedy } from './defineRemedy'
import { rewritePixels, textureOf } from './textureSteps'

export const shrink = defineRemedy({
  id: 'colour/shrink',
  title: 'Shrink to a constant',
  about: 'Makes a small texture of one value out of a flat one. A texture that is not flat is left alone.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture'),
    side: z.int().min(1).max(64).default(4).describe('texels a side'),
  }),
  async apply(work, { texture: name, side }, ports) {
    const texture = textureOf(work, name)
    if (!texture.ok) return texture
    const header = readTextureHeader(texture.value.bytes, texture.value.name)
    if (!header.ok) return header
    if (Math.max(header.value.width, header.value.height) <= side) return good({ changed: false, said: `${name} is that small already` })
    let flat = true
    const rewritten = await rewritePixels(texture.value, ports, (pixels) => {
      flat = channelStatistics(pixels).every((c) => c.max - c.min <= 0.1)
      return flat ? constantPixels(pixels, side) : pixels
    })
    if (!rewritten.ok) return rewritten
    return flat ? good({ changed: true, said: `${texture.value.name} is ${side} × ${side} texels` }) : good({ changed: false, said: `${name} is not flat` })
  },
})
