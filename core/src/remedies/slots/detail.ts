import * as z from 'zod'
import { good } from '@stern-gate/contract'
import { noteOfSlot, slotNotes } from '../../scene/slotNotes'
import { detailInputs } from '../../scene/addedInputs'
import { firstDetail } from '../../surfaces/detailMap'
import { defineRemedy } from '../defineRemedy'
import { inputsWith } from './notedInputs'
import { slotCalled } from './slotCalled'
import { textureOption } from './slotOptions'

/** Lays a detail map over the surface of a slot, or takes it off. */
export const detail = defineRemedy({
  id: 'slots/detail',
  version: 1,
  station: 'slots',
  needs: 'texels',
  title: 'Lay a detail map over a slot',
  words: ({ slot, texture, normalTexture }) =>
    (texture ?? normalTexture) ? `${slot}: detail map` : `${slot}: no detail map`,
  about:
    'Lays fine structure that repeats over the surface of a slot: its colour multiplies the base colour, where a grey ' +
    'of 50 % leaves it as it is; its normals lie on those of the surface. ' +
    'glTF has no place for it: it stands in the extras of the slot, for a target that reads it there.',
  options: z.strictObject({
    slot: z.string().describe('name of the slot').meta({ names: 'slot' }),
    texture: textureOption('colour of the detail; null: none'),
    normalTexture: textureOption('normals of the detail; null: none'),
    uv: z.int().min(0).max(7).default(firstDetail.uv).describe('UV channel that it lies on, counted from 0'),
    tiling: z
      .number()
      .positive()
      .max(1000)
      .default(firstDetail.tiling)
      .describe('how often it repeats on that channel'),
    colour: z.number().min(0).max(1).default(firstDetail.colour).describe('how strongly its colour counts'),
    normal: z.number().min(0).max(10).default(firstDetail.normal).describe('strength of its normals'),
  }),
  async apply(work, options, ports) {
    const found = slotCalled(work, options.slot)
    if (!found.ok) return found
    const slot = found.value,
      before = slotNotes(slot)
    const { uv, tiling, colour, normal } = options
    const inputs = await inputsWith(
      work,
      before.inputs,
      [
        [detailInputs.texture, options.texture],
        [detailInputs.normalTexture, options.normalTexture],
      ],
      ports,
    )
    if (!inputs.ok) return inputs
    const isThere = options.texture !== null || options.normalTexture !== null
    if (
      !noteOfSlot(slot, {
        detail: isThere ? { uv, tiling, colour, normal } : undefined,
        inputs: inputs.value,
      })
    )
      return good({
        changed: false,
        said: isThere ? `${options.slot} has this detail map already` : `${options.slot} has no detail map`,
      })
    return good({
      changed: true,
      said: isThere ? `${options.slot} has a detail map` : `${options.slot} has no detail map any more`,
    })
  },
})
