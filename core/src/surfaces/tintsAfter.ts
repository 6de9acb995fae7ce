import { tintChannels, type RemedyOptions, type Tint } from '@stern-gate/contract'
import { linearOfHex } from './hexColour'

/** Names of the channels of a mask as options of slots/tint have them; each has a strength beside it. */
export const tintNames = { R: 'red', G: 'green', B: 'blue', A: 'alpha' } as const

/**
 * The tints of a slot after options of slots/tint: a colour declares a channel, `none` ends it, what is not said stays.
 * A strength by itself declares none.
 */
export function tintsAfter(before: readonly Tint[], options: Readonly<RemedyOptions>): Tint[] {
  return tintChannels.flatMap((channel) => {
    const was = before.find((t) => t.channel === channel),
      said = options[tintNames[channel]] ?? null,
      strength = options[`${tintNames[channel]}Strength`]
    if (said === 'none' || (typeof said !== 'string' && !was)) return []
    return [
      {
        channel,
        colour: typeof said === 'string' ? linearOfHex(said) : was!.colour,
        strength: typeof strength === 'number' ? strength : (was?.strength ?? 1),
      },
    ]
  })
}
