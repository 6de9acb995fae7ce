import type { Document, Material } from '@gltf-transform/core'
import type { VariantFacts } from '@stern-gate/contract'
import { slotNames } from '../scene/slotNames'
import { variantChoices, variantNames } from '../scene/variants'

/** Variants of a file, each with the slots that it exchanges and on how many of their parts. */
export function measureVariants(document: Document): VariantFacts[] {
  const names = slotNames(document),
    choices = variantChoices(document)
  const parts = new Map<Material, number>()
  for (const mesh of document.getRoot().listMeshes())
    for (const primitive of mesh.listPrimitives()) {
      const own = primitive.getMaterial()
      if (own) parts.set(own, (parts.get(own) ?? 0) + 1)
    }
  return variantNames(document).map((name) => {
    const counts = new Map<string, VariantFacts['choices'][number]>()
    for (const { variant, primitive, slot } of choices) {
      const own = primitive.getMaterial()
      if (variant !== name || !own) continue
      const key = JSON.stringify([names.get(own), names.get(slot)])
      const known = counts.get(key)
      if (known) known.parts++
      else counts.set(key, { slot: names.get(own)!, wears: names.get(slot)!, parts: 1, of: parts.get(own)! })
    }
    return { name, choices: [...counts.values()] }
  })
}
