import type { TextureRole } from '@stern-gate/contract'
import { fileStem } from '../read/deliveryPath'

/** What has to be known of a texture to tell whose mask it is. */
export interface MaskCandidate {
  name: string
  role: TextureRole | null
  uses: readonly { slot: string; input: string; field: string }[]
}

/**
 * The mask that tints a slot: the one it is fed with; else the one of the same set as its base colour, by name; else
 * the asset's only one.
 */
export function maskOfSlot<Texture extends MaskCandidate>(
  textures: readonly Texture[],
  slot: string,
): Texture | undefined {
  const fed = textures.find((t) => t.uses.some((u) => u.slot === slot && u.field === 'tint'))
  if (fed) return fed
  const masks = textures.filter((t) => t.role === 'tint'),
    base = textures.find((t) => t.uses.some((u) => u.slot === slot && u.input === 'basecolor'))
  const ofSet = base && masks.find((mask) => setOf(mask.name) === setOf(base.name))
  return ofSet ?? (masks.length === 1 ? masks[0] : undefined)
}

/** A file's name up to its last part, where roles stand. */
const setOf = (name: string): string => fileStem(name).replace(/[^A-Za-z0-9]*[A-Za-z0-9]+$/, '')
