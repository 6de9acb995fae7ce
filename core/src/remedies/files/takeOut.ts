import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { defineRemedy } from '../defineRemedy'
import { textureOf } from '../textureSteps'

export const takeOut = defineRemedy({
  id: 'files/take-out',
  version: 1,
  station: 'files',
  needs: 'mesh',
  title: 'Take out a texture',
  words: () => 'Take out texture',
  about:
    'Makes a file of a picture that stands inside the mesh file, in a folder beside it, and points ' +
    'the mesh at it. The picture stays byte for byte.',
  options: z.strictObject({
    texture: z.string().describe('name of the texture').meta({ names: 'texture' }),
    folder: z
      .string()
      .regex(/^[A-Za-z0-9_-]*$/)
      .default('textures')
      .describe('folder beside the mesh; empty: the same folder'),
  }),
  async apply(work, { texture: name, folder }) {
    const texture = textureOf(work, name)
    if (!texture.ok) return texture
    if (texture.value.path !== null) return good({ changed: false, said: `${name} is a file already` })
    const path = [
      ...(work.path ?? '').split('/').slice(0, -1),
      ...(folder ? [folder] : []),
      texture.value.name.replace(/#\d+$/, ''),
    ].join('/')
    if (work.textures.some((t) => t.path?.toLowerCase() === path.toLowerCase()))
      return bad(
        'remedy/name-taken',
        `Another texture is the file ${path} already.`,
        'Rename one of them first.',
        { part: path },
      )
    texture.value.path = path
    return good({ changed: true, said: `${name} is now ${path}` })
  },
})
