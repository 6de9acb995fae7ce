import type { Document, Material } from '@gltf-transform/core'

/** What a slot is called here that has no name in its file. */
export const NO_SLOT_NAME = '(slot)'

/**
 * Stable names of material slots in the order of the file: unnamed ones as (slot), doubled names with #2, #3
 * …
 */
export function slotNames(document: Document): Map<Material, string> {
  return uniqueNames(document.getRoot().listMaterials(), (m) => m.getName() || NO_SLOT_NAME)
}

/** Gives each thing its own name, adding #2, #3 … to later ones of the same name. */
export function uniqueNames<T>(things: readonly T[], nameOf: (thing: T) => string): Map<T, string> {
  const seen = new Map<string, number>()
  const names = new Map<T, string>()
  for (const thing of things) names.set(thing, uniqueName(nameOf(thing), seen))
  return names
}

/** A name with #2, #3 … where it was seen before; counts it. */
export function uniqueName(name: string, seen: Map<string, number>): string {
  const count = (seen.get(name) ?? 0) + 1
  seen.set(name, count)
  return count > 1 ? `${name}#${count}` : name
}
