import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { dropAlphaChannel } from '../../image/channelPixels'
import { defineRemedy } from '../defineRemedy'
import { openTexture, rewritePixels } from '../textureSteps'

export const dropAlpha = defineRemedy({
  id: 'colour/drop-alpha',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Drop the alpha channel',
  words: () => 'Drop alpha',
  about: 'Takes the alpha channel out; all other values stay as they are.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
  }),
  safe: true,
  async apply(work, { texture: name }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    if (!header.alpha) return good({ changed: false, said: `${name} has no alpha channel` })
    const rewritten = await rewritePixels(texture, ports, dropAlphaChannel)
    return rewritten.ok
      ? good({ changed: true, said: `${texture.name} has no alpha channel now` })
      : rewritten
  },
})
