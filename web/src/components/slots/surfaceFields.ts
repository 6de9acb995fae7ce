import type { SlotFacts, SlotInput } from '@stern-gate/contract'
import { slotOption, type SlotOption } from '@stern-gate/core/surfaces'

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
  /** The same for inputs that glTF has not. */
  needsField?: string
}

export interface FieldGroup {
  title: string
  fields: readonly SurfaceField[]
}

const field = (kind: SurfaceField['kind'], key: SlotOption, label: string): SurfaceField => ({
  key,
  label,
  kind,
  of: slotOption[key],
})
const share = (key: SlotOption, label: string): SurfaceField => ({
  ...field('number', key, label),
  min: 0,
  max: 1,
})
const colour = (key: SlotOption, label: string): SurfaceField => field('colour', key, label)

/** Grouped by what the eye sees, not by the order of a file. */
export const surfaceGroups: readonly FieldGroup[] = [
  {
    title: 'Colour',
    fields: [
      colour('colour', 'Base colour'),
      share('opacity', 'Opacity'),
      { ...field('choice', 'alpha', 'Alpha'), choices: ['opaque', 'cutout', 'blend', 'add'] },
      share('cutoff', 'Cutout at'),
      field('switch', 'twoSided', 'Both sides'),
    ],
  },
  {
    title: 'Shine',
    fields: [
      share('metallic', 'Metallic'),
      share('roughness', 'Roughness'),
      share('specular', 'Specular level'),
      colour('specularColour', 'Specular colour'),
      share('coat', 'Clear coat'),
      share('coatRoughness', 'Coat roughness'),
    ],
  },
  {
    title: 'Relief',
    fields: [
      {
        ...share('normal', 'Normal strength'),
        max: 10,
        reach: 2,
        needs: ['normal'],
      },
      {
        ...share('heightDepth', 'Depth of the height map'),
        max: 10,
        reach: 0.05,
        unit: 'm',
        needsField: 'height',
      },
      {
        ...share('occlusion', 'Occlusion strength'),
        needs: ['occlusion', 'orm'],
      },
    ],
  },
  {
    title: 'Own light',
    fields: [colour('emissive', 'Colour'), { ...share('strength', 'Strength'), max: 1000, reach: 10 }],
  },
  {
    title: 'Light that goes through',
    fields: [
      share('transmission', 'Transmission'),
      { ...share('ior', 'Refraction index'), min: 1, max: 3, reach: 2.5 },
      {
        ...share('thickness', 'Thickness'),
        max: 100,
        reach: 0.5,
        unit: 'm',
      },
      colour('through', 'Colour inside'),
      {
        ...share('depth', 'Reached after'),
        min: 0.0001,
        max: 1000,
        reach: 1,
        unit: 'm',
      },
      share('scatter', 'Scattered through'),
      colour('scatterColour', 'Colour of scattered light'),
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
