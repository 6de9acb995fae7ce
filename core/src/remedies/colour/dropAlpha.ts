import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { dropAlphaChannel, isAlphaFull } from '../../image/channelPixels'
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
    full: z.boolean().default(false).describe('only where the alpha is full everywhere'),
  }),
  // An alpha that is the same everywhere, but not full, makes what is drawn translucent
  safe: ({ full }) => full,
  async apply(work, { texture: name, full }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    if (!header.alpha) return good({ changed: false, said: `${name} has no alpha channel` })
    const rewritten = await rewritePixels(texture, ports, (pixels) =>
      full && !isAlphaFull(pixels) ? null : dropAlphaChannel(pixels),
    )
    if (!rewritten.ok) return rewritten
    return good(
      rewritten.value
        ? { changed: true, said: `${texture.name} has no alpha channel now` }
        : { changed: false, said: `the alpha of ${name} is not full everywhere` },
    )
  },
})
