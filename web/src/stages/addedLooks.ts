import type { AssetState, RemedyOptions, SurfaceSetting } from '@stern-gate/contract'
import {
  detailAfter,
  detailInputs,
  keptSurface,
  type KeptSurface,
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
 * maps, second layers, relief by height, scattered light, additive blending. `asKept`: what the target does not take
 * is left out, whatever is tried.
 */
export function withAddedLooks(
  tried: TriedSurfaces,
  state: AssetState | null,
  asKept = false,
): TriedSurfaces {
  const all = new Map(tried)
  for (const slot of state?.mesh?.slots ?? []) {
    const kept = asKept ? keptSurface(state!.carryOver, slot.name) : null
    const now = kept ? lessened(tried.get(slot.name), kept) : tried.get(slot.name)
    const has = (setting: SurfaceSetting): boolean => !kept?.without.has(setting)
    const tints = tintsAfter(slot.tints, now?.tint ?? {}),
      layered = has('second layer') ? layeredOf(state!, slot, now, has('mask')) : null,
      detailed = has('detail map') ? detailedOf(state!, slot, now) : null,
      added = addedOf(state!, slot, now)
    if (tints.length === 0 && !layered && !detailed && !added && !now) continue
    const mask = maskOfSlot(state!.textures, slot.name)
    const address = mask ? pictureAddress(mask) : null
    all.set(slot.name, {
      values: {},
      places: {},
      ...now,
      tinted: has('mask') && address && tints.length > 0 ? { mask: address, tints } : null,
      layered,
      detailed,
      added,
    })
  }
  return all
}

/** Where a target places no textures, they lie as the UV channel says. */
const unplaced = { tilingU: 1, tilingV: 1, offsetU: 0, offsetV: 0, turn: 0 }

/** A surface without what the target does not keep of it. */
const lessened = (now: TriedSurface | undefined, { values, without }: KeptSurface): TriedSurface => ({
  ...now,
  values: { ...now?.values, ...values },
  places: without.has('texture placement') ? { all: unplaced } : (now?.places ?? {}),
  without,
})

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

function layeredOf(
  state: AssetState,
  slot: Slot,
  now: TriedSurface | undefined,
  hasMask: boolean,
): Layered | null {
  const layer = layerAfter(slot.layer, now?.layer ?? {})
  if (!layer) return null
  const mask = hasMask ? maskOfSlot(state.textures, slot.name) : null
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
