import { z } from 'zod'
import { good } from '@stern-gate/contract'
import { readTextureHeader } from '../read/readTextureHeader'
import { withPngColourSpace } from '../write/pngColourSpace'
import { defineRemedy } from './defineRemedy'
import { replaceBytes, rewritePixels, textureOf } from './textureSteps'

export const setSpace = defineRemedy({
  id: 'colour/set-space',
  title: 'Set the colour space',
  about: 'Writes what the file says about its colour space. The stored values stay as they are; a PNG keeps its picture data byte for byte, JPEG and WebP become PNG.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture'),
    space: z.enum(['srgb', 'linear']).describe('space to state in the file'),
  }),
  async apply(work, { texture: name, space }, ports) {
    const texture = textureOf(work, name)
    if (!texture.ok) return texture
    const header = readTextureHeader(texture.value.bytes, texture.value.name)
    if (!header.ok) return header
    if (header.value.colourSpace === space) return good({ changed: false, said: `${name} says ${space} already` })
    if (header.value.format !== 'png') {
      const rewritten = await rewritePixels(texture.value, ports, (pixels) => pixels)
      if (!rewritten.ok) return rewritten
    }
    const tagged = withPngColourSpace(texture.value.bytes, space)
    if (!tagged.ok) return tagged
    replaceBytes(texture.value, tagged.value)
    return good({ changed: true, said: `${texture.value.name} says ${space === 'srgb' ? 'sRGB' : 'linear'}` })
  },
})
