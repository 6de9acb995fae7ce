import * as z from 'zod'
import { good, layerModes, tintChannels } from '@stern-gate/contract'
import { noteOfSlot, slotNotes } from '../../scene/slotNotes'
import { layerInputs } from '../../scene/addedInputs'
import { layerOf } from '../../surfaces/secondLayer'
import { defineRemedy } from '../defineRemedy'
import { inputsWith } from './notedInputs'
import { slotCalled } from './slotCalled'
import { textureOption } from './slotOptions'

const share = z.number().min(0).max(1)

export const layerOptionsSchema = z.strictObject({
  slot: z.string().describe('name of the slot').meta({ names: 'slot' }),
  by: z
    .enum(['vertex', 'mask', 'ramp', 'none'])
    .default('vertex')
    .describe(
      'what says how much of it there is: vertex colours, the mask of the slot, ' +
        'a ramp along a UV channel; none: it has no second layer',
    ),
  set: z.int().min(0).max(3).default(1).describe('set of vertex colours, counted from 0'),
  channel: z.enum(tintChannels).default('R').describe('channel of the vertex colours or of the mask'),
  axis: z.enum(['u', 'v']).default('v').describe('of the ramp'),
  from: z.number().default(0).describe('where the ramp begins, in UV'),
  to: z.number().default(1).describe('where the ramp ends, in UV'),
  inverted: z.boolean().default(false).describe('most where there would be none'),
  strength: share.default(1).describe('of the layer, everywhere'),
  mode: z.enum(layerModes).default('mix').describe('how its colour meets the one below'),
  colour: z
    .string()
    .regex(/^#[0-9a-fA-F]{6}$/, 'a colour is written #rrggbb')
    .default('#6b4a33')
    .describe('of the layer, #rrggbb')
    .meta({ names: 'colour' }),
  roughness: share
    .nullable()
    .default(null)
    .describe('of the layer, or where its roughness map is black; null: that of the surface below'),
  roughnessMost: share.nullable().default(null).describe('where its roughness map is white; null: 1'),
  roughnessTexture: textureOption('roughness map of the layer; null: none'),
  roughnessChannel: z.enum(tintChannels).default('G').describe('channel of the roughness map'),
  metallic: share.nullable().default(null).describe('of the layer; null: that of the surface below'),
  texture: textureOption('texture of the layer’s colour; null: none'),
  normalTexture: textureOption('normal map of the layer; null: it has the relief of the surface below'),
  normal: z.number().min(0).max(10).default(1).describe('strength of its normal map'),
  uv: z.int().min(0).max(7).default(0).describe('UV channel of its textures and ramp, counted from 0'),
  tiling: z.number().positive().max(1000).default(1).describe('how often its textures repeat'),
})

/** Lays a second layer over the surface of a slot. */
export const secondLayer = defineRemedy({
  id: 'slots/second-layer',
  version: 2,
  station: 'slots',
  needs: 'texels',
  title: 'Lay a second layer over a slot',
  words: ({ slot, by }) =>
    by === 'none'
      ? `${slot}: no second layer`
      : `${slot}: second layer by ${by === 'vertex' ? 'vertex colours' : by}`,
  about:
    'Lays a second layer over the surface of a slot: wear, dirt, moss, or a colour that runs into another. ' +
    'A channel of the vertex colours, of the mask or a ramp along a UV channel says how much of it there is. ' +
    'glTF has no place for it: it stands in the extras of the slot, for a target that reads it there.',
  options: layerOptionsSchema,
  async apply(work, options, ports) {
    const found = slotCalled(work, options.slot)
    if (!found.ok) return found
    const slot = found.value,
      before = slotNotes(slot)
    const layer = layerOf(options)
    const inputs = await inputsWith(
      work,
      before.inputs,
      Object.entries(layerInputs).map(([option, input]) => [
        input,
        layer ? options[option as keyof typeof layerInputs] : null,
      ]),
      ports,
    )
    if (!inputs.ok) return inputs
    if (!noteOfSlot(slot, { layer: layer ?? undefined, inputs: inputs.value }))
      return good({
        changed: false,
        said: layer ? `${options.slot} has this layer already` : `${options.slot} has no second layer`,
      })
    return good({
      changed: true,
      said: layer ? `${options.slot} has a second layer` : `${options.slot} has no second layer any more`,
    })
  },
})
