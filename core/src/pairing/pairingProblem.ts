import { SURFACE } from '../surfaces/sharedSurfaces'
import {
  activeSteps,
  textureRoles,
  type PairingDecision,
  type PairingProblem,
  type PairingSlot,
  type PairingTexture,
  type Recipe,
  type SlotInput,
  type TextureRole,
} from '@stern-gate/contract'
import { bareSurfaces } from '../rulebook/bareSurfaces'
import type { Subject, SubjectTexture } from '../subject/subject'

/** An asset as it stands now, with the id by which it is known. */
export interface PairedAsset {
  /** Null on the command line. */
  id: string | null
  /** Of the files as they arrived: names of slots are those of the source. */
  subject: Subject
  /** Steps that stand before what pairing adds; null: none. */
  recipe?: Recipe | null
}

const BETWEEN = ' › '

/** The id of a slot: the asset with the slot's name. */
export const slotId = ({ id, subject }: PairedAsset, slot: string): string =>
  `${id ?? subject.path}${BETWEEN}${slot}`

/** The id of a loose texture: what holds it with its path there. */
export const textureId = ({ id, subject }: PairedAsset, path: string): string =>
  `${id ?? subject.path}${BETWEEN}${path}`

/** The asset that a slot or a texture of this id belongs to. */
export const ownerOfId = (id: string): string => id.split(BETWEEN, 1)[0]!

/** Slots of meshes, with what feeds them, and all loose textures, those of texture sets among them. */
export function pairingProblem(assets: readonly PairedAsset[]): PairingProblem {
  return {
    slots: assets.flatMap((asset) => slotsOf(asset)),
    textures: assets.flatMap((asset) =>
      asset.subject.textures
        .filter((t) => !t.embedded && t.path !== null && t.sha256 !== null)
        .map((t) => pairingTexture(asset, t)),
    ),
  }
}

function slotsOf(asset: PairedAsset): PairingSlot[] {
  const { subject } = asset
  const nodes = nodesBySlot(subject)
  return (subject.mesh?.slots ?? [])
    .filter(({ name }) => subject.slotShares.has(name))
    .map(({ name: slot, extensions, surface }) => ({
      id: slotId(asset, slot),
      asset: subject.name,
      owner: asset.id,
      slot,
      nodes: nodes.get(slot) ?? [],
      path: subject.path,
      share: Math.min(1, subject.slotShares.get(slot) ?? 0),
      wants:
        surface !== null || extensions.some((e) => bareSurfaces.includes(e)) ? [] : [...subject.class.inputs],
      wired: wiredInputs(asset, slot),
    }))
}

function nodesBySlot({ parts }: Subject): Map<string, string[]> {
  const nodes = new Map<string, string[]>()
  for (const node of parts.finest)
    for (const { slot } of node.primitives) {
      const known = nodes.get(slot ?? '') ?? []
      if (!known.includes(node.name)) nodes.set(slot ?? '', [...known, node.name])
    }
  return nodes
}

const roleOfInput: Readonly<Partial<Record<SlotInput, TextureRole>>> = {
  basecolor: 'basecolor',
  normal: 'normal',
  orm: 'orm',
  'metallic-roughness': 'orm',
  occlusion: 'occlusion',
  emissive: 'emissive',
}

/** What feeds a slot, by role; height and mask stand by the name of their field. */
function wiredInputs(asset: PairedAsset, slot: string): PairingSlot['wired'] {
  const wired = new Map<TextureRole, PairingSlot['wired'][number]>()
  for (const texture of asset.subject.textures)
    for (const use of texture.uses) {
      if (use.slot !== slot) continue
      const input = roleOfInput[use.input] ?? textureRoles.find((role) => role === use.field)
      if (input === undefined || wired.has(input)) continue
      wired.set(input, {
        input,
        texture: texture.name,
        id: texture.embedded || texture.path === null ? null : textureId(asset, texture.path),
      })
    }
  return [...wired.values()]
}

const pairingTexture = (asset: PairedAsset, texture: SubjectTexture): PairingTexture => ({
  id: textureId(asset, texture.path!),
  path: texture.path!,
  owner: asset.id,
  sha256: texture.sha256!,
  width: texture.facts?.header.width ?? 0,
  height: texture.facts?.header.height ?? 0,
  content: texture.content?.probabilities ?? [],
})

/** What the recipe of an asset has decided for its slots, where it still has those textures. */
export function decisionsOfRecipe(asset: PairedAsset): PairingDecision[] {
  const steps = activeSteps(asset.recipe ?? { steps: [] }),
    textures = asset.subject.textures
  return steps.flatMap((step, at) => {
    if (step.remedy !== FEED && step.remedy !== SURFACE) return []
    const slot = slotAtSource(steps.slice(0, at), String(step.options['slot'])),
      { preset } = step.options
    if (step.remedy === SURFACE)
      return typeof preset === 'string'
        ? [{ slot: slotId(asset, slot), input: 'basecolor', texture: null, preset }]
        : []
    return textureRoles.flatMap((input): PairingDecision[] => {
      const name = step.options[input]
      const texture = textures.find((t) => t.name === name) ?? textures.find((t) => t.path === name)
      return typeof name === 'string' && texture?.path
        ? [{ slot: slotId(asset, slot), input, texture: textureId(asset, texture.path) }]
        : []
    })
  })
}

/** The remedy that gives a slot its textures; SURFACE gives it values in their place. */
export const FEED = 'slots/feed'

const renamesSlot = (step: Recipe['steps'][number]): boolean =>
  step.remedy === 'names/rename' && step.options['what'] === 'slot'

/** What a slot of the source is called once the steps that are on have been done. */
export const slotAfterSteps = (recipe: Recipe | null | undefined, name: string): string =>
  activeSteps(recipe ?? { steps: [] })
    .filter(renamesSlot)
    .reduce((now, { options }) => (options['from'] === now ? String(options['to']) : now), name)

/** What the source calls a slot that has this name behind some steps. */
const slotAtSource = (steps: Recipe['steps'], name: string): string =>
  steps
    .filter(renamesSlot)
    .reduceRight((now, { options }) => (options['to'] === now ? String(options['from']) : now), name)
