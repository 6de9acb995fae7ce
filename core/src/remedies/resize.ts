import { z } from 'zod'
import { good } from '@stern-gate/contract'
import { resizePixels } from '../image/resizePixels'
import { readTextureHeader } from '../read/readTextureHeader'
import { defineRemedy } from './defineRemedy'
import { meaningOf, rewritePixels, textureOf } from './textureSteps'

export const resize = defineRemedy({
  id: 'compression/resize',
  title: 'Resize',
  about: 'Filters a texture to another size (Lanczos): colour in linear light and weighted by alpha, vectors of a normal map unit long again, data as they are.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture'),
    width: z.int().min(1).max(16384).describe('texels across'),
    height: z.int().min(1).max(16384).describe('texels down'),
  }),
  async apply(work, { texture: name, width, height }, ports) {
    const texture = textureOf(work, name)
    if (!texture.ok) return texture
    const header = readTextureHeader(texture.value.bytes, texture.value.name)
    if (!header.ok) return header
    if (header.value.width === width && header.value.height === height) return good({ changed: false, said: `${name} has that size already` })
    const meaning = meaningOf(work, texture.value, header.value)
    const rewritten = await rewritePixels(texture.value, ports, (pixels) => resizePixels(pixels, width, height, meaning))
    return rewritten.ok ? good({ changed: true, said: `${texture.value.name} is ${width} × ${height} texels` }) : rewritten
  },
})
