import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { resizeFilters, resizePixels } from '../../image/resizePixels'
import { defineRemedy } from '../defineRemedy'
import { meaningOf, openTexture, rewritePixels } from '../textureSteps'

export const resize = defineRemedy({
  id: 'compression/resize',
  version: 1,
  station: 'compression',
  needs: 'texels',
  title: 'Resize',
  words: ({ width, height }) => `Resize to ${width} × ${height}`,
  about:
    'Filters a texture to another size: colour in linear light and weighted by alpha, ' +
    'vectors of a normal map unit long again, data as they are.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    width: z.int().min(1).max(16384).describe('texels across'),
    height: z.int().min(1).max(16384).describe('texels down'),
    filter: z
      .enum(resizeFilters)
      .default('lanczos')
      .describe(
        'lanczos: sharp; mitchell: softer, without rings; mean: of what a texel covers; nearest: values as they are',
      ),
  }),
  async apply(work, { texture: name, width, height, filter }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    if (header.width === width && header.height === height)
      return good({ changed: false, said: `${name} has that size already` })
    const meaning = meaningOf(work, texture, header)
    const rewritten = await rewritePixels(texture, ports, (pixels) =>
      resizePixels(pixels, width, height, meaning, filter),
    )
    return rewritten.ok
      ? good({ changed: true, said: `${texture.name} is ${width} × ${height} texels` })
      : rewritten
  },
})
