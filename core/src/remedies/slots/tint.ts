import * as z from 'zod'
import { alphaMeanings, good, tintChannels, type Tint, type TintChannel } from '@stern-gate/contract'
import { noteOfSlot, slotNotes } from '../../scene/slotNotes'
import { linearOfHex } from '../../surfaces/hexColour'
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
type TintOptions = z.infer<typeof optionsSchema>

const names = { R: 'red', G: 'green', B: 'blue', A: 'alpha' } as const satisfies Record<TintChannel, string>

/** Declares which channels of its mask a slot is tinted by, and with which colours it is handed over. */
export const tint = defineRemedy({
  id: 'slots/tint',
  version: 1,
  station: 'slots',
  needs: 'file',
  title: 'Tint a slot by its mask',
  words: (options) =>
    `${options.slot}: ${tintChannels
      .filter((channel) => options[names[channel]] !== null)
      .map((channel) => names[channel])
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
    const tints = tintChannels.flatMap((channel) => tintOf(channel, options, before.tints ?? []) ?? [])
    const alpha = options.alphaMeans ?? before.alpha
    const now = { tints, ...(alpha ? { alpha } : {}) }
    if (
      JSON.stringify(now) ===
      JSON.stringify({ tints: before.tints ?? [], ...(before.alpha ? { alpha } : {}) })
    )
      return Promise.resolve(good({ changed: false, said: `${options.slot} is tinted so already` }))
    noteOfSlot(slot, now)
    const said = tints.map((t) => names[t.channel]).join(', ')
    return Promise.resolve(
      good({
        changed: true,
        said: said ? `${options.slot} is tinted by ${said}` : `${options.slot} has no tint`,
      }),
    )
  },
})

/** A channel's tint after the step; null: it is not declared. A strength by itself declares none. */
function tintOf(channel: TintChannel, options: TintOptions, before: readonly Tint[]): Tint | null {
  const was = before.find((t) => t.channel === channel),
    said = options[names[channel]]
  if (said === 'none' || (said === null && !was)) return null
  return {
    channel,
    colour: said === null ? was!.colour : linearOfHex(said),
    strength: options[`${names[channel]}Strength`] ?? was?.strength ?? 1,
  }
}
