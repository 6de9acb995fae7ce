import type { RemedyOptions, SlotFacts, SlotInput } from '@stern-gate/contract'
import { hexOfLinear } from '@stern-gate/core/surfaces'

/** One value of a surface, as an option of the step that sets it. */
export interface SurfaceField {
  key: string
  label: string
  kind: 'number' | 'colour' | 'switch' | 'choice'
  /** What it is now, as the option would say it; null: nothing is said. */
  of: (slot: SlotFacts) => string | number | boolean | null
  min?: number
  max?: number
  /** The end of the drawn scale, where typing may go beyond it. */
  reach?: number
  unit?: 'm' | '°'
  choices?: readonly string[]
  /** Without a texture in one of these inputs it says nothing. */
  needs?: readonly SlotInput[]
}

export interface FieldGroup {
  title: string
  fields: readonly SurfaceField[]
}

const share = (key: string, label: string, of: SurfaceField['of']): SurfaceField => ({
  key,
  label,
  kind: 'number',
  min: 0,
  max: 1,
  of,
})
const colour = (
  key: string,
  label: string,
  of: (slot: SlotFacts) => readonly number[] | undefined,
): SurfaceField => ({
  key,
  label,
  kind: 'colour',
  of: (slot) => hexOfLinear(of(slot) ?? [1, 1, 1]),
})

/** Grouped by what the eye sees, not by the order of a file. */
export const surfaceGroups: readonly FieldGroup[] = [
  {
    title: 'Colour',
    fields: [
      colour('colour', 'Base colour', (s) => s.baseColour),
      share('opacity', 'Opacity', (s) => s.baseColour[3]),
      {
        key: 'alpha',
        label: 'Alpha',
        kind: 'choice',
        choices: ['opaque', 'cutout', 'blend'],
        of: (s) => s.alphaMode,
      },
      share('cutoff', 'Cutout at', (s) => s.alphaCutoff),
      { key: 'twoSided', label: 'Both sides', kind: 'switch', of: (s) => s.doubleSided },
    ],
  },
  {
    title: 'Shine',
    fields: [
      share('metallic', 'Metallic', (s) => s.metallic),
      share('roughness', 'Roughness', (s) => s.roughness),
      share('specular', 'Specular level', (s) => s.values?.specular ?? 1),
      colour('specularColour', 'Specular colour', (s) => s.values?.specularColour),
      share('coat', 'Clear coat', (s) => s.values?.coat ?? 0),
      share('coatRoughness', 'Coat roughness', (s) => s.values?.coatRoughness ?? 0),
    ],
  },
  {
    title: 'Relief',
    fields: [
      {
        ...share('normal', 'Normal strength', (s) => s.values?.normalStrength ?? 1),
        max: 10,
        reach: 2,
        needs: ['normal'],
      },
      {
        ...share('occlusion', 'Occlusion strength', (s) => s.values?.occlusionStrength ?? 1),
        needs: ['occlusion', 'orm'],
      },
    ],
  },
  {
    title: 'Own light',
    fields: [
      colour('emissive', 'Colour', (s) => s.emissive),
      { ...share('strength', 'Strength', (s) => s.values?.emissiveStrength ?? 1), max: 1000, reach: 10 },
    ],
  },
  {
    title: 'Light that goes through',
    fields: [
      share('transmission', 'Transmission', (s) => s.values?.transmission ?? 0),
      { ...share('ior', 'Refraction index', (s) => s.values?.ior ?? 1.5), min: 1, max: 3, reach: 2.5 },
      {
        ...share('thickness', 'Thickness', (s) => s.values?.thickness ?? 0),
        max: 100,
        reach: 0.5,
        unit: 'm',
      },
      colour('through', 'Colour inside', (s) => s.values?.attenuationColour),
      {
        ...share('depth', 'Reached after', (s) => s.values?.attenuationDistance ?? null),
        min: 0.0001,
        max: 1000,
        reach: 1,
        unit: 'm',
      },
    ],
  },
]

/** Inputs that a placement speaks of, by the words of the step that places textures. */
export const placedInputs: readonly (readonly [string, string, readonly SlotInput[]])[] = [
  ['all', 'all textures', []],
  ['basecolor', 'base colour', ['basecolor']],
  ['normal', 'normal', ['normal']],
  ['roughness', 'roughness, metallic', ['orm', 'metallic-roughness']],
  ['occlusion', 'occlusion', ['occlusion', 'orm']],
  ['emissive', 'emissive', ['emissive']],
]

type Lie = SlotFacts['textures'][number]
/** How the textures of an input lie; of several the first. */
export const lieOf = (slot: SlotFacts, input: string): Lie | null => {
  const asked = placedInputs.find(([key]) => key === input)?.[2] ?? []
  return slot.textures.find((t) => asked.length === 0 || asked.includes(t.input)) ?? null
}

const placed = (
  key: string,
  label: string,
  reach: number,
  of: (lie: Lie) => number,
): { field: SurfaceField; of: (lie: Lie) => number } => ({
  field: { key, label, kind: 'number', min: -1000, max: 1000, reach, of: () => 0 },
  of,
})
export const placeFields = [
  placed('tilingU', 'Tiling U', 8, (l) => l.placement?.tiling[0] ?? 1),
  placed('tilingV', 'Tiling V', 8, (l) => l.placement?.tiling[1] ?? 1),
  placed('offsetU', 'Offset U', 1, (l) => l.placement?.offset[0] ?? 0),
  placed('offsetV', 'Offset V', 1, (l) => l.placement?.offset[1] ?? 0),
  placed('turn', 'Turn, degrees', 180, (l) => ((l.placement?.turn ?? 0) * 180) / Math.PI),
] as const

/** Every value of a surface as options, to give them to another slot. */
export const allValues = (slot: SlotFacts): RemedyOptions =>
  Object.fromEntries(
    surfaceGroups
      .flatMap((g) => g.fields.map((f) => [f.key, f.of(slot)] as const))
      .filter(([, v]) => v !== null),
  )
