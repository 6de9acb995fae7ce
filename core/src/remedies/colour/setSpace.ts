import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { withPngColourSpace } from '../../write/pngColourSpace'
import { defineRemedy } from '../defineRemedy'
import { asPng, openTexture, replaceBytes } from '../textureSteps'

export const setSpace = defineRemedy({
  id: 'colour/set-space',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Set the colour space',
  words: ({ space }) => `Set ${space === 'srgb' ? 'sRGB' : 'linear'}`,
  about:
    'Writes what the file says about its colour space. The stored values stay as they are; a PNG ' +
    'keeps its picture data byte for byte, JPEG and WebP become PNG.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    space: z.enum(['srgb', 'linear']).describe('space to state in the file'),
  }),
  async apply(work, { texture: name, space }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    if (header.colourSpace === space) return good({ changed: false, said: `${name} says ${space} already` })
    const png = await asPng(texture, header, ports)
    if (!png.ok) return png
    const tagged = withPngColourSpace(texture.bytes, space)
    if (!tagged.ok) return tagged
    replaceBytes(texture, tagged.value)
    return good({ changed: true, said: `${texture.name} says ${space === 'srgb' ? 'sRGB' : 'linear'}` })
  },
})
