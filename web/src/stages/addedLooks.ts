import type { AssetState, RemedyOptions } from '@stern-gate/contract'
import {
  detailAfter,
  detailInputs,
  layerAfter,
  layerInputs,
  linearOfHex,
  maskOfSlot,
  tintsAfter,
} from '@stern-gate/core/surfaces'
import { pictureAddress } from '../api/client'
import type { Layered } from './layerLook'
import type { AddedValues, Detailed } from './reliefLook'
import type { TriedSurface, TriedSurfaces } from './wornSurface'

type Slot = NonNullable<NonNullable<AssetState['mesh']>['slots']>[number]

/**
 * Surfaces that are tried, with what glTF has no place for and slots have all the same: tints by their masks, detail
 * maps, second layers, relief by height, scattered light, additive blending.
 */
export function withAddedLooks(tried: TriedSurfaces, state: AssetState | null): TriedSurfaces {
  const all = new Map(tried)
  for (const slot of state?.mesh?.slots ?? []) {
    const now = tried.get(slot.name)
    const tints = tintsAfter(slot.tints, now?.tint ?? {}),
      layered = layeredOf(state!, slot, now),
      detailed = detailedOf(state!, slot, now),
      added = addedOf(state!, slot, now)
    if (tints.length === 0 && !layered && !detailed && !added && !now) continue
    const mask = maskOfSlot(state!.textures, slot.name)
    const address = mask ? pictureAddress(mask) : null
    all.set(slot.name, {
      values: {},
      places: {},
      ...now,
      tinted: address && tints.length > 0 ? { mask: address, tints } : null,
      layered,
      detailed,
      added,
    })
  }
  return all
}

/** Address of the texture that an option names, or else of the one that feeds the input; null: none. */
function addressOf(
  { textures }: AssetState,
  slot: Slot,
  chosen: RemedyOptions[string] | undefined,
  input: string,
): string | null {
  const texture =
    chosen === undefined
      ? textures.find((t) => t.uses.some((u) => u.slot === slot.name && u.field === input))
      : textures.find((t) => t.name === chosen)
  return texture ? pictureAddress(texture) : null
}

function layeredOf(state: AssetState, slot: Slot, now: TriedSurface | undefined): Layered | null {
  const layer = layerAfter(slot.layer, now?.layer ?? {})
  if (!layer) return null
  const mask = maskOfSlot(state.textures, slot.name)
  const own = (option: keyof typeof layerInputs) =>
    addressOf(state, slot, now?.layer?.[option], layerInputs[option])
  return {
    layer,
    mask: mask ? pictureAddress(mask) : null,
    texture: own('texture'),
    normal: own('normalTexture'),
    roughness: own('roughnessTexture'),
  }
}

function detailedOf(state: AssetState, slot: Slot, now: TriedSurface | undefined): Detailed | null {
  const detail = detailAfter(slot.detail, now?.detail ?? {})
  if (!detail) return null
  const own = (option: keyof typeof detailInputs) =>
    addressOf(state, slot, now?.detail?.[option], detailInputs[option])
  return { detail, texture: own('texture'), normal: own('normalTexture') }
}

/** What is tried goes before what the slot has; null where there is nothing to add. */
function addedOf(state: AssetState, slot: Slot, now: TriedSurface | undefined): AddedValues | null {
  const said = now?.values ?? {}
  const number = (key: string, otherwise: number): number =>
    typeof said[key] === 'number' ? said[key] : otherwise
  const depth = number('heightDepth', slot.heightDepth ?? 0),
    share = number('scatter', slot.values?.scatter ?? 0)
  const adds = typeof said['alpha'] === 'string' ? said['alpha'] === 'add' : slot.adds
  const picture = depth > 0 ? addressOf(state, slot, undefined, 'height') : null
  const colour =
    typeof said['scatterColour'] === 'string'
      ? linearOfHex(said['scatterColour'])
      : slot.values?.scatterColour
  const height = picture === null ? null : { picture, depth },
    scatter = share > 0 ? { share, colour: colour ?? ([1, 1, 1] as const) } : null
  return height || scatter || adds ? { height, scatter, adds } : null
}
