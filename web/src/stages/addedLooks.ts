import type { AssetState } from '@stern-gate/contract'
import { layerAfter, maskOfSlot, tintsAfter } from '@stern-gate/core/surfaces'
import { pictureAddress } from '../api/client'
import type { Layered } from './layerLook'
import type { TriedSurface, TriedSurfaces } from './wornSurface'

/**
 * Surfaces that are tried, with what glTF has no place for and slots have all the same: tints by their masks, and
 * second layers.
 */
export function withAddedLooks(tried: TriedSurfaces, state: AssetState | null): TriedSurfaces {
  const all = new Map(tried)
  for (const slot of state?.mesh?.slots ?? []) {
    const now = tried.get(slot.name)
    const tints = tintsAfter(slot.tints, now?.tint ?? {}),
      layered = layeredOf(state!, slot, now)
    if (tints.length === 0 && !layered && !now) continue
    const mask = maskOfSlot(state!.textures, slot.name)
    const address = mask ? pictureAddress(mask) : null
    all.set(slot.name, {
      values: {},
      places: {},
      ...now,
      tinted: address && tints.length > 0 ? { mask: address, tints } : null,
      layered,
    })
  }
  return all
}

type Slot = NonNullable<NonNullable<AssetState['mesh']>['slots']>[number]

function layeredOf(state: AssetState, slot: Slot, now: TriedSurface | undefined): Layered | null {
  const layer = layerAfter(slot.layer, now?.layer ?? {})
  if (!layer) return null
  const mask = maskOfSlot(state.textures, slot.name),
    chosen = now?.layer?.['texture']
  const texture =
    chosen === undefined
      ? state.textures.find((t) => t.uses.some((u) => u.slot === slot.name && u.field === 'layer'))
      : state.textures.find((t) => t.name === chosen)
  return {
    layer,
    mask: mask ? pictureAddress(mask) : null,
    texture: texture ? pictureAddress(texture) : null,
  }
}
