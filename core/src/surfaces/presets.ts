/** A surface that is said by values alone. Colours are linear, 0 to 1. */
export interface SurfacePreset {
  title: string
  /** Words of slot names that mean it. */
  words: readonly string[]
  baseColour: readonly [number, number, number]
  metallic: number
  roughness: number
  emissive?: readonly [number, number, number]
  emissiveStrength?: number
  /** Share of the light that goes through. */
  transmission?: number
  /** Refraction index. */
  ior?: number
  /** The colour is a stand-in: somebody has to choose it. */
  anyColour?: boolean
}

/**
 * Surfaces that ship. Metals have their reflectance at normal incidence, ((n − 1)² + k²) / ((n + 1)² + k²) at 650, 550
 * and 450 nm, rounded, with n and k by Johnson and Christy (1972, 1974) for copper and iron and by Querry (1985) for
 * brass; refraction indices are those of handbooks. The others are chosen by eye: docs/surfaces.md says which is which.
 */
export const surfacePresets = {
  glass: {
    title: 'glass',
    words: ['glass', 'pane', 'window', 'port', 'lens', 'porthole'],
    baseColour: [1, 1, 1],
    metallic: 0,
    roughness: 0.05,
    transmission: 1,
    ior: 1.52,
  },
  water: {
    title: 'clear water',
    words: ['water', 'puddle'],
    baseColour: [0.94, 0.98, 1],
    metallic: 0,
    roughness: 0.02,
    transmission: 1,
    ior: 1.33,
  },
  copper: {
    title: 'bare copper',
    words: ['copper'],
    baseColour: [0.94, 0.62, 0.54],
    metallic: 1,
    roughness: 0.35,
  },
  iron: {
    title: 'bare iron',
    words: ['iron', 'steel', 'metal'],
    baseColour: [0.53, 0.52, 0.51],
    metallic: 1,
    roughness: 0.5,
  },
  brass: {
    title: 'brass',
    words: ['brass', 'bronze'],
    baseColour: [0.89, 0.77, 0.44],
    metallic: 1,
    roughness: 0.3,
  },
  galvanised: {
    title: 'galvanised steel',
    words: ['galvanised', 'galvanized', 'zinc'],
    baseColour: [0.5, 0.52, 0.53],
    metallic: 1,
    roughness: 0.55,
  },
  paint: {
    title: 'coated paint',
    words: ['paint', 'painted', 'lacquer', 'coating', 'enamel'],
    baseColour: [0.18, 0.18, 0.18],
    metallic: 0,
    roughness: 0.4,
    ior: 1.5,
    anyColour: true,
  },
  rubber: {
    title: 'rubber',
    words: ['rubber', 'tyre', 'tire', 'hose', 'seal', 'gasket'],
    baseColour: [0.03, 0.03, 0.03],
    metallic: 0,
    roughness: 0.85,
    ior: 1.52,
  },
  'wet-stone': {
    title: 'wet stone',
    words: ['wetstone'],
    baseColour: [0.07, 0.07, 0.06],
    metallic: 0,
    roughness: 0.25,
    ior: 1.33,
  },
  stone: {
    title: 'dry stone',
    words: ['stone', 'rock', 'granite', 'concrete', 'slate'],
    baseColour: [0.22, 0.21, 0.19],
    metallic: 0,
    roughness: 0.85,
  },
  wood: {
    title: 'dry wood',
    words: ['wood', 'oak', 'pine', 'teak', 'timber', 'plank', 'planks', 'board'],
    baseColour: [0.24, 0.14, 0.07],
    metallic: 0,
    roughness: 0.7,
  },
  canvas: {
    title: 'canvas',
    words: ['canvas', 'cloth', 'sail', 'tarp', 'fabric', 'linen', 'awning'],
    baseColour: [0.48, 0.42, 0.31],
    metallic: 0,
    roughness: 0.95,
  },
  rope: {
    title: 'rope',
    words: ['rope', 'hemp', 'line', 'cord', 'twine', 'net'],
    baseColour: [0.32, 0.22, 0.11],
    metallic: 0,
    roughness: 0.95,
  },
  lamp: {
    title: 'lamp',
    words: ['lamp', 'light', 'bulb', 'lantern', 'glow'],
    baseColour: [0.9, 0.86, 0.75],
    metallic: 0,
    roughness: 0.4,
    emissive: [1, 0.78, 0.48],
    emissiveStrength: 4,
  },
} as const satisfies Record<string, SurfacePreset>

export type SurfacePresetName = keyof typeof surfacePresets
export const surfacePresetNames = Object.keys(surfacePresets) as [SurfacePresetName, ...SurfacePresetName[]]

/** A preset by its name; undefined where there is none of it. */
export const presetOf = (name: string): SurfacePreset | undefined =>
  Object.hasOwn(surfacePresets, name) ? surfacePresets[name as SurfacePresetName] : undefined
