import { z } from 'zod'
import { good } from '@stern-gate/contract'
import { renormalisePixels } from '../image/normalPixels'
import { readTextureHeader } from '../read/readTextureHeader'
import { defineRemedy } from './defineRemedy'
import { rewritePixels, textureOf } from './textureSteps'

export const renormalise = defineRemedy({
  id: 'colour/renormalise',
  title: 'Make vectors unit long',
  about: 'Scales every vector of a normal map to length 1, at the depth of the file. Directions stay as they are.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture'),
  }),
  async apply(work, { texture: name }, ports) {
    const texture = textureOf(work, name)
    if (!texture.ok) return texture
    const header = readTextureHeader(texture.value.bytes, texture.value.name)
    if (!header.ok) return header
    if (header.value.channels < 3) return good({ changed: false, said: `${name} has no vectors` })
    const rewritten = await rewritePixels(texture.value, ports, renormalisePixels)
    return rewritten.ok ? good({ changed: true, said: `vectors of ${texture.value.name} are unit long` }) : rewritten
  },
})
