import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { heightFromNormal } from '../../image/heightFromNormal'
import { fileStem } from '../../read/deliveryPath'
import { noteOfSlot, slotNotes } from '../../scene/slotNotes'
import { defineRemedy } from '../defineRemedy'
import { addMadeTexture, decodedTexture } from '../madeTextures'
import { openTexture, rewritePixels, stateRole } from '../textureSteps'

/** So many texels are worked on at the most; mirrored there are four times as many. */
const MOST_TEXELS = 4096 * 4096

export const normalToHeight = defineRemedy({
  id: 'colour/height-from-normal',
  version: 1,
  station: 'colour',
  needs: 'texels',
  title: 'Height from a normal map',
  words: ({ texture }) => `Height of ${texture}`,
  about:
    'Finds the height whose slopes come nearest to those of a normal map, as a grey map of 16 bits. It becomes the ' +
    'height of every slot that has the normal map, and stands beside it; where no mesh is there it takes its place. ' +
    'The finest detail comes out a little softer, and a map that leans as a whole comes out level.',
  options: z.strictObject({
    texture: z.string().describe('name of the normal map').meta({ names: 'texture' }),
    edge: z
      .enum(['wrap', 'mirror'])
      .default('wrap')
      .describe('wrap: it goes on at its other side; mirror: it ends where the map does'),
    green: z.enum(['up', 'down']).default('up').describe('the way that green points'),
  }),
  isSlow: true,
  async apply(work, { texture: name, edge, green }, ports) {
    const opened = openTexture(work, name)
    if (!opened.ok) return opened
    const { texture, header } = opened.value
    const texels = header.width * header.height * (edge === 'mirror' ? 4 : 1)
    if (header.channels < 3 || texels > MOST_TEXELS)
      return bad(
        'remedy/not-applicable',
        header.channels < 3
          ? `${name} has no red, green and blue.`
          : `${header.width} × ${header.height} is more than is worked on at once${edge === 'mirror' ? ', mirrored' : ''}.`,
        header.channels < 3 ? 'Choose a normal map.' : 'Resize it first, or let it wrap.',
        { part: 'texture' },
      )
    const depth = (relief: number): string => `${relief.toFixed(1)} texels from its lowest to its highest`
    if (!work.document) {
      let relief = 0
      const done = await rewritePixels(texture, ports, (pixels) => {
        const found = heightFromNormal(pixels, { edge, green })
        relief = found.relief
        return found.pixels
      })
      if (!done.ok) return done
      const stated = stateRole(texture, 'height', 'linear')
      return stated.ok
        ? good({ changed: true, said: `${texture.name} is a height map: ${depth(relief)}` })
        : stated
    }
    const pixels = await decodedTexture(texture, ports)
    if (!pixels.ok) return pixels
    const found = heightFromNormal(pixels.value, { edge, green })
    const stem = `${fileStem(texture.name).replace(/[_\- ]?(normal|nrm|nor|n)$/i, '')}_height`
    const made = await addMadeTexture(
      work,
      { stem, pixels: found.pixels, space: 'linear', beside: texture },
      ports,
    )
    if (!made.ok) return made
    const slots = work.document
      .getRoot()
      .listMaterials()
      .filter((slot) => texture.pictures.some((p) => p === slot.getNormalTexture()))
    for (const slot of slots)
      noteOfSlot(slot, { inputs: { ...slotNotes(slot).inputs, height: made.value.name } })
    return good({ changed: true, said: `${made.value.name}: ${depth(found.relief)}` })
  },
})
