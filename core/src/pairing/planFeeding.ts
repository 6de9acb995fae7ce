import {
  textureRoles,
  type PairingCell,
  type PairingTexture,
  type Recipe,
  type RecipeStep,
  type RemedyOptions,
} from '@stern-gate/contract'
import { fileName } from '../read/deliveryPath'
import { feedOptions } from './feedOptions'
import { FEED, SURFACE, slotAfterSteps, slotId, textureId, type PairedAsset } from './pairingProblem'

/** What makes accepted cells of one mesh true: textures that join it, and a step for each slot. */
export interface Feeding {
  asset: PairedAsset
  join: PairingTexture[]
  steps: { remedy: typeof FEED | typeof SURFACE; options: RemedyOptions }[]
}

export type AcceptedCell = Pick<PairingCell, 'slot' | 'input' | 'texture' | 'preset' | 'layout' | 'inverted'>

/**
 * Plans what accepted cells come to. A texture that the mesh holds is named as it is there; one that joins it by
 * its file's name, or by its path where the name is taken.
 */
export function planFeeding(
  assets: readonly PairedAsset[],
  textures: readonly PairingTexture[],
  accepted: readonly AcceptedCell[],
): Feeding[] {
  const byId = new Map(textures.map((t) => [t.id, t]))
  const bySlot = new Map<string, AcceptedCell[]>()
  for (const cell of accepted)
    if ((cell.texture !== null && byId.has(cell.texture)) || cell.preset !== null)
      bySlot.set(cell.slot, [...(bySlot.get(cell.slot) ?? []), cell])
  return assets.flatMap((asset): Feeding[] => {
    const names = nameIn(asset),
      join = new Map<string, PairingTexture>()
    const steps = (asset.subject.mesh?.slots ?? []).flatMap(({ name: slot }): Feeding['steps'] => {
      const cells = bySlot.get(slotId(asset, slot)) ?? []
      if (cells.length === 0) return []
      const preset = cells.find((c) => c.preset !== null)?.preset
      if (preset) return [{ remedy: SURFACE, options: { slot: slotAfterSteps(asset.recipe, slot), preset } }]
      const options = feedOptions(slotAfterSteps(asset.recipe, slot), cells, (input) => {
        const texture = byId.get(cells.find((c) => c.input === input)!.texture!)!
        const { name, own } = names(texture)
        if (!own) join.set(texture.id, texture)
        return name
      })
      return [{ remedy: FEED, options }]
    })
    return steps.length === 0 ? [] : [{ asset, join: [...join.values()], steps }]
  })
}

/** By which name steps of an asset speak of a texture. */
function nameIn(asset: PairedAsset): (texture: PairingTexture) => { name: string; own: boolean } {
  const own = new Map(
    asset.subject.textures.flatMap((t) =>
      t.path === null ? [] : [[textureId(asset, t.path), t.name] as const],
    ),
  )
  const taken = new Map<string, string>(asset.subject.textures.map((t) => [t.name.toLowerCase(), '']))
  return ({ id, path }) => {
    const known = own.get(id)
    if (known !== undefined) return { name: known, own: true }
    const name = fileName(path),
      key = name.toLowerCase(),
      holder = taken.get(key)
    if (holder === undefined) taken.set(key, id)
    return { name: holder === undefined || holder === id ? name : path, own: false }
  }
}

/**
 * A recipe with the steps that feed slots: one a slot, so that what a slot was given before stays where nothing
 * else is given now.
 */
export function withFeeding(
  recipe: Recipe,
  steps: readonly (Pick<RecipeStep, 'remedy' | 'options'> & { id: string })[],
): Recipe {
  const kept = [...recipe.steps]
  for (const step of steps) {
    const slot = step.options['slot']
    const at = kept.findIndex((s) => s.on && s.remedy === step.remedy && s.options['slot'] === slot)
    const before = at < 0 ? {} : kept[at]!.options
    // A packed map takes the place of the single ones that it carries
    const replaced = typeof step.options['orm'] === 'string' ? NO_SINGLES : {}
    if (at >= 0) kept.splice(at, 1)
    kept.push({
      on: true,
      why: 'slots/missing-input',
      ...step,
      options: { ...before, ...replaced, ...step.options },
    })
  }
  return { ...recipe, steps: kept }
}

const NO_SINGLES = { occlusion: null, roughness: null, metallic: null }

/** Names of textures that the steps of a recipe give to slots. */
export const fedTextures = (recipe: Recipe): string[] => [
  ...new Set(
    recipe.steps
      .filter((s) => s.on && s.remedy === FEED)
      .flatMap((s) => textureRoles.map((role) => s.options[role]))
      .filter((name) => typeof name === 'string'),
  ),
]
