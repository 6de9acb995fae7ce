import { z } from 'zod'
import { good } from '@stern-gate/contract'
import { normalFromHeight } from '../image/normalPixels'
import { readTextureHeader } from '../read/readTextureHeader'
import { withPngColourSpace } from '../write/pngColourSpace'
import { withPngRole } from '../write/pngRole'
import { defineRemedy } from './defineRemedy'
import { replaceBytes, rewritePixels, textureOf } from './textureSteps'

export const heightToNormal = defineRemedy({
  id: 'colour/normal-from-height',
  title: 'Normal map from height',
  about: 'Makes a normal map of a grey height map: 3 × 3 Sobel slopes times the strength. The file says that it is a normal map afterwards.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture'),
    strength: z.number().positive().max(1000).default(4).describe('slope of a step from black to white over one texel'),
    edge: z.enum(['wrap', 'clamp']).default('wrap').describe('where the map ends'),
    green: z.enum(['up', 'down']).default('up').describe('the way that green points'),
  }),
  async apply(work, { texture: name, strength, edge, green }, ports) {
    const texture = textureOf(work, name)
    if (!texture.ok) return texture
    const header = readTextureHeader(texture.value.bytes, texture.value.name)
    if (!header.ok) return header
    const rewritten = await rewritePixels(texture.value, ports, (pixels) => normalFromHeight(pixels, { strength, edge, green }))
    if (!rewritten.ok) return rewritten
    const tagged = withPngColourSpace(texture.value.bytes, 'linear')
    const marked = tagged.ok ? withPngRole(tagged.value, 'normal') : tagged
    if (!marked.ok) return marked
    replaceBytes(texture.value, marked.value)
    return good({ changed: true, said: `${texture.value.name} is a normal map now` })
  },
})
