import * as z from 'zod'
import { alphaMeanings, good, tintChannels } from '@stern-gate/contract'
import { noteOfSlot, slotNotes } from '../../scene/slotNotes'
import { tintNames, tintsAfter } from '../../surfaces/tintsAfter'
import { defineRemedy } from '../defineRemedy'
import { slotCalled } from './slotCalled'

const colour = (channel: string) =>
  z
    .string()
    .regex(/^(#[0-9a-fA-F]{6}|none)$/, 'a colour is written #rrggbb, or none')
    .nullable()
    .default(null)
    .describe(
      `colour where ${channel} of the mask is full, #rrggbb; none: not declared any more; null: as it is`,
    )
    .meta({ names: 'colour' })
const strength = (channel: string) =>
  z.number().min(0).max(1).nullable().default(null).describe(`strength of the colour of ${channel}`)

const optionsSchema = z.strictObject({
  slot: z.string().describe('name of the slot').meta({ names: 'slot' }),
  red: colour('red'),
  redStrength: strength('red'),
  green: colour('green'),
  greenStrength: strength('green'),
  blue: colour('blue'),
  blueStrength: strength('blue'),
  alpha: colour('alpha'),
  alphaStrength: strength('alpha'),
  alphaMeans: z
    .enum(alphaMeanings)
    .nullable()
    .default(null)
    .describe('what the alpha of the base colour stands for; null: as it is'),
})
/** Declares which channels of its mask a slot is tinted by, and with which colours it is handed over. */
export const tint = defineRemedy({
  id: 'slots/tint',
  version: 1,
  station: 'slots',
  needs: 'file',
  title: 'Tint a slot by its mask',
  words: (options) =>
    `${options.slot}: ${tintChannels
      .filter((channel) => options[tintNames[channel]] !== null)
      .map((channel) => tintNames[channel])
      .join(', ')}`,
  about:
    'Declares which channels of its mask a slot is tinted by, and the colours that are handed over as defaults. ' +
    'Where the mask is full the base colour is multiplied by the colour, in linear light. ' +
    'glTF has no place for this: it stands in the extras of the slot. ' +
    'What the alpha of its base colour means can be declared, too; rules hold to it.',
  options: optionsSchema,
  apply(work, options) {
    const found = slotCalled(work, options.slot)
    if (!found.ok) return Promise.resolve(found)
    const slot = found.value,
      before = slotNotes(slot)
    const tints = tintsAfter(before.tints ?? [], options)
    const alpha = options.alphaMeans ?? before.alpha
    const isSame = alpha === before.alpha && JSON.stringify(tints) === JSON.stringify(before.tints ?? [])
    if (isSame) return Promise.resolve(good({ changed: false, said: `${options.slot} is tinted so already` }))
    noteOfSlot(slot, { tints, ...(alpha ? { alpha } : {}) })
    const said = tints.map((t) => tintNames[t.channel]).join(', ')
    return Promise.resolve(
      good({
        changed: true,
        said: said ? `${options.slot} is tinted by ${said}` : `${options.slot} has no tint`,
      }),
    )
  },
})
