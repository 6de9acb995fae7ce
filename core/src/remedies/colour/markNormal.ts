import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { defineRemedy } from '../defineRemedy'
import { asPng, openTexture, stateNormal } from '../textureSteps'

export const markNormal = defineRemedy({
  id: 'colour/mark-normal',
  title: 'Mark as normal map',
  about:
    'Writes into the file that it carries a normal map and that its values are linear. The picture stays as it is; JPEG, WebP and TGA become PNG.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture'),
  }),
  async apply(work, { texture: name }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    if (header.statedRole === 'normal' && header.colourSpace === 'linear')
      return good({ changed: false, said: `${name} is marked already` })
    const png = await asPng(texture, header, ports)
    if (!png.ok) return png
    const stated = stateNormal(texture)
    if (!stated.ok) return stated
    return good({ changed: true, said: `${texture.name} says that it is a normal map` })
  },
})
