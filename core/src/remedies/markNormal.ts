import { z } from 'zod'
import { good } from '@stern-gate/contract'
import { readTextureHeader } from '../read/readTextureHeader'
import { withPngColourSpace } from '../write/pngColourSpace'
import { withPngRole } from '../write/pngRole'
import { defineRemedy } from './defineRemedy'
import { replaceBytes, rewritePixels, textureOf } from './textureSteps'

export const markNormal = defineRemedy({
  id: 'colour/mark-normal',
  title: 'Mark as normal map',
  about: 'Writes into the file that it carries a normal map and that its values are linear. The picture stays as it is; JPEG, WebP and TGA become PNG.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture'),
  }),
  async apply(work, { texture: name }, ports) {
    const texture = textureOf(work, name)
    if (!texture.ok) return texture
    const header = readTextureHeader(texture.value.bytes, texture.value.name)
    if (!header.ok) return header
    if (header.value.statedRole === 'normal' && header.value.colourSpace === 'linear') return good({ changed: false, said: `${name} is marked already` })
    if (header.value.format !== 'png') {
      const rewritten = await rewritePixels(texture.value, ports, (pixels) => pixels)
      if (!rewritten.ok) return rewritten
    }
    const tagged = withPngColourSpace(texture.value.bytes, 'linear')
    const marked = tagged.ok ? withPngRole(tagged.value, 'normal') : tagged
    if (!marked.ok) return marked
    replaceBytes(texture.value, marked.value)
    return good({ changed: true, said: `${texture.value.name} says that it is a normal map` })
  },
})
