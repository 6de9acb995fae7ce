import { Primitive, type Material } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { coreInputs, inputTextures } from '../../scene/slotInputs'
import { lieOf, placeTexture as place } from '../../scene/texturePlacement'
import { defineRemedy } from '../defineRemedy'
import { slotCalled } from './slotCalled'

const value = (about: string) => z.number().min(-1000).max(1000).nullable().default(null).describe(about)

export const placeTexture = defineRemedy({
  id: 'slots/place-texture',
  version: 1,
  station: 'slots',
  needs: 'mesh',
  title: 'Tile, move or turn textures on a slot',
  words: ({ slot, input }) => `${slot}: ${input === 'all' ? 'all textures' : input} placed`,
  about:
    'Sets how textures lie on the mesh: how often they repeat, how far they are moved and turned, ' +
    'and which UV channel they follow. ' +
    'It is written as KHR_texture_transform; pixels and UVs stay. Roughness and metallic share one texture in glTF.',
  options: z.strictObject({
    slot: z.string().describe('name of the slot').meta({ names: 'slot' }),
    input: z
      .enum(['all', ...coreInputs])
      .default('all')
      .describe('which input'),
    tilingU: value('how often it repeats along U; null: as it is'),
    tilingV: value('how often it repeats along V; null: as it is'),
    offsetU: value('moved along U; null: as it is'),
    offsetV: value('moved along V; null: as it is'),
    turn: value('degrees, counter-clockwise; null: as it is'),
    channel: z
      .int()
      .min(0)
      .max(7)
      .nullable()
      .default(null)
      .describe('UV channel, counted from 0; null: as it is'),
  }),
  async apply(work, options) {
    const found = slotCalled(work, options.slot)
    if (!found.ok) return found
    const wanted = inputTextures(found.value)
      .filter(({ input }) => options.input === 'all' || options.input === input)
      .map(({ info }) => info)
    if (wanted.length === 0) return good({ changed: false, said: `${options.slot} has no texture there` })
    const { channel, tilingU, tilingV, offsetU, offsetV, turn } = options
    if (channel !== null && !hasChannel(found.value, channel))
      return bad(
        'remedy/not-applicable',
        `What wears ${options.slot} has no UV channel ${channel}.`,
        'Choose a channel that every part of the slot has.',
        { slot: options.slot },
      )
    const state = JSON.stringify(wanted.map(lieOf))
    for (const info of wanted) {
      const now = lieOf(info)
      place(work.document!, info, {
        tiling: [tilingU ?? now.tiling[0], tilingV ?? now.tiling[1]],
        offset: [offsetU ?? now.offset[0], offsetV ?? now.offset[1]],
        ...(turn === null ? {} : { turn: (turn * Math.PI) / 180 }),
        ...(channel === null ? {} : { channel }),
      })
    }
    const changed = JSON.stringify(wanted.map(lieOf)) !== state
    const which = options.input === 'all' ? 'textures' : options.input
    return good({ changed, said: `${which} of ${options.slot} ${changed ? 'are placed' : 'lie so already'}` })
  },
})

const hasChannel = (slot: Material, channel: number): boolean =>
  slot
    .listParents()
    .filter((p) => p instanceof Primitive)
    .every((p) => p.getAttribute(`TEXCOORD_${channel}`) !== null)
