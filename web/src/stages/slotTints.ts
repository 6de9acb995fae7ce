import type { AssetState } from '@stern-gate/contract'
import { maskOfSlot, tintsAfter } from '@stern-gate/core/surfaces'
import { pictureAddress } from '../api/client'
import type { TriedSurfaces } from './wornSurface'

/** Surfaces that are tried, with the tints that slots have by their masks: those are no part of a glTF's look. */
export function withTints(tried: TriedSurfaces, state: AssetState | null): TriedSurfaces {
  const all = new Map(tried)
  for (const slot of state?.mesh?.slots ?? []) {
    const now = tried.get(slot.name)
    const tints = tintsAfter(slot.tints, now?.tint ?? {})
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
