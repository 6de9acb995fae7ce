import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { renormalisePixels } from '../../image/normalPixels'
import { defineRemedy } from '../defineRemedy'
import { openTexture, rewritePixels } from '../textureSteps'

export const renormalise = defineRemedy({
  id: 'colour/renormalise',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Renormalise the vectors',
  words: () => 'Renormalise vectors',
  about:
    'Scales every vector of a normal map to length 1, at the depth of the file. Directions stay as they are.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
  }),
  async apply(work, { texture: name }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    if (header.channels < 3) return good({ changed: false, said: `${name} has no vectors` })
    const rewritten = await rewritePixels(texture, ports, renormalisePixels)
    return rewritten.ok
      ? good({ changed: true, said: `vectors of ${texture.name} are unit long` })
      : rewritten
  },
})
