import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { normalFromHeight } from '../../image/normalPixels'
import { defineRemedy } from '../defineRemedy'
import { openTexture, rewritePixels, stateRole } from '../textureSteps'

export const heightToNormal = defineRemedy({
  id: 'colour/normal-from-height',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Normal map from height',
  words: () => 'Normal map from height',
  about:
    'Makes a normal map of a grey height map: 3 × 3 Sobel slopes times the strength. The file says ' +
    'that it is a normal map afterwards.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    strength: z
      .number()
      .positive()
      .max(1000)
      .default(4)
      .describe('slope of a step from black to white over one texel'),
    edge: z.enum(['wrap', 'clamp']).default('wrap').describe('where the map ends'),
    green: z.enum(['up', 'down']).default('up').describe('the way that green points'),
  }),
  async apply(work, { texture: name, strength, edge, green }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture } = opened.value
    const rewritten = await rewritePixels(texture, ports, (pixels) =>
      normalFromHeight(pixels, { strength, edge, green }),
    )
    if (!rewritten.ok) return rewritten
    const stated = stateRole(texture, 'normal', 'linear')
    if (!stated.ok) return stated
    return good({ changed: true, said: `${texture.name} is a normal map now` })
  },
})
