import type {
  PairingDecision,
  PairingProblem,
  PairingSlot,
  PairingTexture,
  Recipe,
  SlotInput,
  TextureRole,
} from '@stern-gate/contract'
import { textureRoles } from '@stern-gate/contract'
import type { Subject, SubjectTexture } from '../subject/subject'

/** An asset as it stands now, with the id by which it is known. */
export interface PairedAsset {
  /** Null on the command line. */
  id: string | null
  subject: Subject
}

/** The slot's id: the asset with the slot's name. */
export const slotId = ({ id, subject }: PairedAsset, slot: string): string =>
  `${id ?? subject.path} › ${slot}`

/** The texture's id: what holds it with its path. */
export const textureId = ({ id, subject }: PairedAsset, texture: SubjectTexture): string =>
  `${id ?? subject.path} › ${texture.path ?? texture.name}`

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
  const { subject } = asset,
    names = (subject.mesh?.slots ?? []).map((s) => s.name)
  const nodes = nodesBySlot(subject)
  return names
    .filter((name) => subject.slotShares.has(name))
    .map((slot) => ({
      id: slotId(asset, slot),
      asset: subject.name,
      owner: asset.id,
      slot,
      nodes: nodes.get(slot) ?? [],
      path: subject.path,
      share: Math.min(1, subject.slotShares.get(slot) ?? 0),
      wants: [...subject.class.inputs],
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
        id: texture.embedded || texture.path === null ? null : textureId(asset, texture),
      })
    }
  return [...wired.values()]
}

const pairingTexture = (asset: PairedAsset, texture: SubjectTexture): PairingTexture => ({
  id: textureId(asset, texture),
  path: texture.path!,
  owner: asset.id,
  sha256: texture.sha256!,
  width: texture.facts?.header.width ?? 0,
  height: texture.facts?.header.height ?? 0,
  content: texture.content?.probabilities ?? [],
})

/** What a recipe has decided for the slots of its asset, by the names of textures that stand in its steps. */
export function decisionsOfRecipe(
  asset: PairedAsset,
  recipe: Recipe,
): (Omit<PairingDecision, 'texture'> & { texture: string })[] {
  return recipe.steps
    .filter((step) => step.on && step.remedy === 'slots/feed')
    .flatMap((step) =>
      textureRoles.flatMap((input) => {
        const texture = step.options[input]
        return typeof texture === 'string'
          ? [{ slot: slotId(asset, String(step.options['slot'])), input, texture }]
          : []
      }),
    )
}
