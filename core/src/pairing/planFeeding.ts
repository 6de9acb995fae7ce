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
import { SURFACE } from '../surfaces/sharedSurfaces'
import { FEED, slotAfterSteps, slotId, textureId, type PairedAsset } from './pairingProblem'

/** A texture that joins a mesh: the path that it gets there, and the name by which steps speak of it. */
export interface JoiningTexture {
  texture: PairingTexture
  path: string
  name: string
}

/** What makes accepted cells of one mesh true: textures that join it, and a step for each slot. */
export interface Feeding {
  asset: PairedAsset
  join: JoiningTexture[]
  steps: { remedy: typeof FEED | typeof SURFACE; options: RemedyOptions }[]
}

export type AcceptedCell = Pick<PairingCell, 'slot' | 'input' | 'texture' | 'preset' | 'layout' | 'inverted'>

/**
 * Plans what accepted cells come to. A texture that the mesh holds is named as it is there; one that joins it by
 * its file's name, or by its path where the name is taken. Nothing that the mesh holds gives way to it.
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
    const place = placesIn(asset),
      join = new Map<string, JoiningTexture>()
    const steps = (asset.subject.mesh?.slots ?? []).flatMap(({ name: slot }): Feeding['steps'] => {
      const cells = bySlot.get(slotId(asset, slot)) ?? []
      if (cells.length === 0) return []
      const preset = cells.find((c) => c.preset !== null)?.preset
      if (preset) return [{ remedy: SURFACE, options: { slot: slotAfterSteps(asset.recipe, slot), preset } }]
      const options = feedOptions(slotAfterSteps(asset.recipe, slot), cells, (input) => {
        const texture = byId.get(cells.find((c) => c.input === input)!.texture!)!
        const known = join.get(texture.id) ?? place(texture)
        if (typeof known === 'string') return known
        join.set(texture.id, known)
        return known.name
      })
      return [{ remedy: FEED, options }]
    })
    return steps.length === 0 ? [] : [{ asset, join: [...join.values()], steps }]
  })
}

/** The name of a texture that an asset holds, the same bytes under the same path too; else where it joins. */
function placesIn(asset: PairedAsset): (texture: PairingTexture) => string | JoiningTexture {
  const { textures, files } = asset.subject
  const own = new Map(
    textures.flatMap((t) => (t.path === null ? [] : [[textureId(asset, t.path), t.name] as const])),
  )
  const names = new Set(textures.map((t) => t.name.toLowerCase())),
    paths = new Set(files.map((f) => f.path.toLowerCase()))
  return (texture) => {
    const known = own.get(texture.id)
    const same = textures.find((t) => t.path === texture.path && t.sha256 === texture.sha256)
    if (known !== undefined || same) return known ?? same!.name
    const path = freePath(texture.path, paths)
    paths.add(path.toLowerCase())
    const name = fileName(path)
    if (names.has(name.toLowerCase())) return { texture, path, name: path }
    names.add(name.toLowerCase())
    return { texture, path, name }
  }
}

/** A path that is not taken: in a folder 2, 3 … beside what stands there. */
function freePath(path: string, taken: ReadonlySet<string>): string {
  const file = fileName(path),
    folder = path.slice(0, path.length - file.length)
  let free = path
  for (let n = 2; taken.has(free.toLowerCase()); n++) free = `${folder}${n}/${file}`
  return free
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
