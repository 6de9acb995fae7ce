import { type AssetState, type RemedyOptions, type Tint, tintChannels } from '@stern-gate/contract'
import { linearOfHex, maskOfSlot } from '@stern-gate/core/surfaces'
import { pictureAddress } from '../api/client'
import type { TriedSurfaces } from './wornSurface'

/** Names of the channels as the step that sets them has them. */
export const tintNames = { R: 'red', G: 'green', B: 'blue', A: 'alpha' } as const

/** What a slot is tinted with: as its file says, with what is being tried over it. */
export function tintsWith(own: readonly Tint[], tried: RemedyOptions): Tint[] {
  return tintChannels.flatMap((channel) => {
    const was = own.find((t) => t.channel === channel),
      said = tried[tintNames[channel]] ?? null,
      strength = tried[`${tintNames[channel]}Strength`]
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

/** Surfaces that are tried, with the tints that slots have by their masks: those are no part of a glTF's look. */
export function withTints(tried: TriedSurfaces, state: AssetState | null): TriedSurfaces {
  const all = new Map(tried)
  for (const slot of state?.mesh?.slots ?? []) {
    const now = tried.get(slot.name)
    const tints = tintsWith(slot.tints, now?.tint ?? {})
    if (tints.length === 0 && !now) continue
    const mask = maskOfSlot(state!.textures, slot.name)
    const address = mask ? pictureAddress(mask) : null
    all.set(slot.name, {
      values: {},
      places: {},
      ...now,
      tinted: address && tints.length > 0 ? { mask: address, tints } : null,
    })
  }
  return all
}
