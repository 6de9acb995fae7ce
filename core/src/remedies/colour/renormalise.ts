import * as z from 'zod'
import { renormalisePixels } from '../../image/normalPixels'
import { defineRemedy } from '../defineRemedy'
import { changeTexels } from './changeTexels'

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
  apply: (work, { texture: name }, ports) =>
    changeTexels(work, ports, name, {
      cannot: ({ channels }) => (channels < 3 ? `${name} has no vectors` : null),
      change: renormalisePixels,
      said: (own) => `vectors of ${own} are unit long`,
    }),
})
