import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { defineRemedy } from '../defineRemedy'

/** Writes the surface of each slot as a file beside the mesh. */
export const writeSurfaces = defineRemedy({
  id: 'slots/write-surfaces',
  version: 1,
  station: 'slots',
  needs: 'file',
  title: 'Write surface files',
  words: ({ name }) => `Surface files: ${name}`,
  about:
    'Writes the surface of each slot as a readable JSON file beside the mesh: values, textures with their placement, ' +
    'tints, second layer. It says what slots are at the end of the recipe, wherever this step stands.',
  options: z.strictObject({
    name: z
      .string()
      .min(1)
      .max(120)
      .default('{asset}_{slot}')
      .describe('name of each file, with {asset} and {slot}; .surface.json comes behind it'),
  }),
  apply(work, { name }) {
    if (!work.document) return Promise.resolve(good({ changed: false, said: 'a texture set has no slots' }))
    work.surfaceFiles = name
    const slots = work.document.getRoot().listMaterials().length
    return Promise.resolve(
      good({ changed: slots > 0, said: `${slots} surface ${slots === 1 ? 'file' : 'files'} written` }),
    )
  },
})
