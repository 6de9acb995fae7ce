import { z } from 'zod'
import { good } from '@stern-gate/contract'
import { dropAlphaChannel } from '../image/channelPixels'
import { readTextureHeader } from '../read/readTextureHeader'
import { defineRemedy } from './defineRemedy'
import { rewritePixels, textureOf } from './textureSteps'

export const dropAlpha = defineRemedy({
  id: 'colour/drop-alpha',
  title: 'Drop the alpha channel',
  about: 'Takes the alpha channel out; all other values stay as they are.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture'),
  }),
  async apply(work, { texture: name }, ports) {
    const texture = textureOf(work, name)
    if (!texture.ok) return texture
    const header = readTextureHeader(texture.value.bytes, texture.value.name)
    if (!header.ok) return header
    if (!header.value.alpha) return good({ changed: false, said: `${name} has no alpha channel` })
    const rewritten = await rewritePixels(texture.value, ports, dropAlphaChannel)
    return rewritten.ok ? good({ changed: true, said: `${texture.value.name} has no alpha channel now` }) : rewritten
  },
})
