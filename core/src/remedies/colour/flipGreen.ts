import * as z from 'zod'
import { flipChannel } from '../../image/flipChannel'
import { defineRemedy } from '../defineRemedy'
import { changeTexels } from './changeTexels'

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
  options: z.strictObject({
    texture: z.string().describe('name of the normal map').meta({ names: 'texture' }),
  }),
  apply: (work, { texture: name }, ports) =>
    changeTexels(work, ports, name, {
      cannot: ({ channels }) => (channels < 3 ? `${name} has no green channel` : null),
      change: (pixels) => flipChannel(pixels, 1),
      said: (own) => `green of ${own} is turned`,
    }),
})
