import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { defineRemedy } from '../defineRemedy'
import { textureOf } from '../textureSteps'

export const pointTo = defineRemedy({
  id: 'files/point-to',
  version: 1,
  station: 'files',
  needs: 'mesh',
  title: 'Take another texture for one that is missing',
  words: ({ texture }) => `Take ${texture}`,
  about:
    'Points the mesh at a texture that came, in place of the file it asks for. The texture stays byte for byte.',
  options: z.strictObject({
    asked: z.string().describe('path that the mesh asks for').meta({ names: 'missing' }),
    texture: z.string().describe('name of the texture that is taken').meta({ names: 'texture' }),
  }),
  async apply(work, { asked, texture: name }) {
    const texture = textureOf(work, name)
    if (!texture.ok) return texture
    const wanting = work.missing.filter((m) => m.asked === asked)
    // What was found under another extension is pointed at already: writing the mesh is all that is left
    if (wanting.length === 0)
      return texture.value.pictures.length > 0
        ? good({ changed: true, said: `${name} is what the mesh asks for` })
        : bad(
            'remedy/not-applicable',
            `Nothing that is missing is asked for as ${asked}.`,
            'Look at the list of files again.',
            { part: asked },
          )
    texture.value.pictures.push(...wanting.map((m) => m.picture))
    work.missing = work.missing.filter((m) => m.asked !== asked)
    return good({ changed: true, said: `${name} is taken for ${asked}` })
  },
})
