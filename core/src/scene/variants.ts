import type { Document, Material, Primitive } from '@gltf-transform/core'
import {
  KHRMaterialsVariants,
  type Mapping,
  type MappingList,
  type Variant,
} from '@gltf-transform/extensions'

const EXTENSION = 'KHR_materials_variants'

/** What a primitive wears under a variant. */
export interface VariantChoice {
  variant: string
  primitive: Primitive
  /** The slot in place of the primitive's own. */
  slot: Material
}

/** Names of the variants of a file, in its order (KHR_materials_variants). */
export const variantNames = (document: Document): string[] => [
  ...new Set(variantsOf(document).map((v) => v.getName())),
]

const variantsOf = (document: Document): Variant[] =>
  extensionOf(document)
    ?.listProperties()
    .filter((p): p is Variant => p.propertyType === 'Variant') ?? []

const extensionOf = (document: Document): KHRMaterialsVariants | undefined =>
  document
    .getRoot()
    .listExtensionsUsed()
    .find((e): e is KHRMaterialsVariants => e.extensionName === EXTENSION)

const mappingsOf = (primitive: Primitive): Mapping[] =>
  primitive.getExtension<MappingList>(EXTENSION)?.listMappings() ?? []

/** Every choice that some primitive has. */
export const variantChoices = (document: Document): VariantChoice[] =>
  document
    .getRoot()
    .listMeshes()
    .flatMap((mesh) =>
      mesh.listPrimitives().flatMap((primitive) =>
        mappingsOf(primitive).flatMap((mapping) => {
          const slot = mapping.getMaterial()
          return slot ? mapping.listVariants().map((v) => ({ variant: v.getName(), primitive, slot })) : []
        }),
      ),
    )

/** Slots that triangles wear, by themselves or under a variant. */
export const wornSlots = (document: Document): ReadonlySet<Material> =>
  new Set([
    ...document
      .getRoot()
      .listMeshes()
      .flatMap((m) => m.listPrimitives().flatMap((p) => p.getMaterial() ?? [])),
    ...variantChoices(document).map((c) => c.slot),
  ])

/** Lets whatever chose one slot choose another. */
export function exchangeChoices(document: Document, from: Material, to: Material): void {
  for (const mesh of document.getRoot().listMeshes())
    for (const primitive of mesh.listPrimitives())
      for (const mapping of mappingsOf(primitive)) if (mapping.getMaterial() === from) mapping.setMaterial(to)
}

/** Gives primitives another slot under a variant, which is made where the file has none of that name. */
export function chooseSlot(
  document: Document,
  primitives: readonly Primitive[],
  name: string,
  slot: Material,
): void {
  const extension = document.createExtension(KHRMaterialsVariants)
  const variant = variantsOf(document).find((v) => v.getName() === name) ?? extension.createVariant(name)
  for (const primitive of primitives) {
    let list = primitive.getExtension<MappingList>(EXTENSION)
    if (!list) primitive.setExtension(EXTENSION, (list = extension.createMappingList()))
    for (const mapping of list.listMappings()) {
      mapping.removeVariant(variant)
      if (mapping.listVariants().length === 0) mapping.dispose()
    }
    list.addMapping(extension.createMapping().setMaterial(slot).addVariant(variant))
  }
}
