import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { partsOfDocument } from '../../measure/partsOfDocument'
import { defineRemedy } from '../defineRemedy'

/** Writes levels and hulls as files of their own, each with the slots and textures that it uses. */
export const ownFiles = defineRemedy({
  id: 'files/own-files',
  version: 1,
  station: 'files',
  needs: 'mesh',
  title: 'Levels and hulls as files of their own',
  words: ({ levels, hulls }) =>
    `Files of their own: ${[levels ? 'levels' : '', hulls ? 'hulls' : ''].filter(Boolean).join(', ') || 'none'}`,
  about:
    'Writes each coarser level, and the collision, as a file beside the mesh, with the same origin and the slots, ' +
    'bones and clips that it uses; textures stay shared. It says what there is at the end of the recipe, wherever ' +
    'this step stands. A level in a file of its own carries no switch distances, and how far it lies off the ' +
    'finest is not measured.',
  options: z.strictObject({
    levels: z.boolean().default(true).describe('each coarser level as a file, NAME_lod1.glb and so on'),
    hulls: z.boolean().default(true).describe('collision as a file, NAME_hull.glb'),
  }),
  apply(work, own) {
    if (!work.document) return Promise.resolve(good({ changed: false, said: 'a texture set has no levels' }))
    const { levels, collision } = partsOfDocument(work.document)
    const files = (own.levels ? levels.size - 1 : 0) + (own.hulls && collision.length > 0 ? 1 : 0)
    if (files <= 0 || levels.size === 0)
      return Promise.resolve(good({ changed: false, said: 'there is nothing besides the finest level' }))
    work.ownFiles = own
    return Promise.resolve(
      good({ changed: true, said: `${files} ${files === 1 ? 'file' : 'files'} beside the mesh` }),
    )
  },
})
