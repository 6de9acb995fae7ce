import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { flipChannel } from '../../image/flipChannel'
import { defineRemedy } from '../defineRemedy'
import { openTexture, rewritePixels } from '../textureSteps'

export const flipGreen = defineRemedy({
  id: 'colour/flip-green',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Flip green',
  words: () => 'Flip green',
  about:
    'Turns the green channel of a normal map: each value becomes full minus itself, at the depth of ' +
    'the file. Done twice it changes nothing.',
  options: z.strictObject({ texture: z.string().describe('name of the normal map') }),
  async apply(work, { texture: name }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    if (header.channels < 3) return good({ changed: false, said: `${name} has no green channel` })
    const rewritten = await rewritePixels(texture, ports, (pixels) => flipChannel(pixels, 1))
    return rewritten.ok ? good({ changed: true, said: `green of ${texture.name} is turned` }) : rewritten
  },
})
