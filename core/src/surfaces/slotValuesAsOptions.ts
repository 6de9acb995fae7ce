import type { RemedyOptions, SlotFacts } from '@stern-gate/contract'
import { hexOfLinear } from './hexColour'

type Value = string | number | boolean | null
const hex = (colour: readonly number[] | undefined): string => hexOfLinear(colour ?? [1, 1, 1])

/** Each value of a slot as the option of slots/surface that would set it; null: nothing is said. */
export const slotOption = {
  colour: (s) => hex(s.baseColour),
  opacity: (s) => s.baseColour[3],
  alpha: (s) => (s.adds ? 'add' : s.alphaMode),
  cutoff: (s) => s.alphaCutoff,
  twoSided: (s) => s.doubleSided,
  metallic: (s) => s.metallic,
  roughness: (s) => s.roughness,
  specular: (s) => s.values?.specular ?? 1,
  specularColour: (s) => hex(s.values?.specularColour),
  coat: (s) => s.values?.coat ?? 0,
  coatRoughness: (s) => s.values?.coatRoughness ?? 0,
  normal: (s) => s.values?.normalStrength ?? 1,
  heightDepth: (s) => s.heightDepth,
  occlusion: (s) => s.values?.occlusionStrength ?? 1,
  emissive: (s) => hex(s.emissive),
  strength: (s) => s.values?.emissiveStrength ?? 1,
  transmission: (s) => s.values?.transmission ?? 0,
  ior: (s) => s.values?.ior ?? 1.5,
  thickness: (s) => s.values?.thickness ?? 0,
  through: (s) => hex(s.values?.attenuationColour),
  scatter: (s) => s.values?.scatter ?? 0,
  scatterColour: (s) => hex(s.values?.scatterColour),
  depth: (s) => s.values?.attenuationDistance ?? null,
} as const satisfies Record<string, (slot: SlotFacts) => Value>
export type SlotOption = keyof typeof slotOption

/** Every value of a slot as options of slots/surface, to give them to another one. */
export const slotValuesAsOptions = (slot: SlotFacts): RemedyOptions =>
  Object.fromEntries(
    Object.entries(slotOption)
      .map(([key, of]) => [key, of(slot)] as const)
      .filter(([, value]) => value !== null),
  )
