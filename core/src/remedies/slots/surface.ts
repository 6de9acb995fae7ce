import type { Material } from '@gltf-transform/core'
import * as z from 'zod'
import { bad, good, type SlotValues } from '@stern-gate/contract'
import { linearOfHex } from '../../surfaces/hexColour'
import { noteOfSlot, type SlotNotes } from '../../scene/slotNotes'
import { presetOf, surfacePresetNames, type SurfacePreset } from '../../surfaces/presets'
import { setSlotValues } from '../../scene/slotValues'
import { defineRemedy } from '../defineRemedy'
import { slotCalled } from './slotCalled'
import { colourOption } from './slotOptions'

const share = (about: string) => z.number().min(0).max(1).nullable().default(null).describe(about)
const optionsSchema = z.strictObject({
  slot: z.string().describe('name of the slot').meta({ names: 'slot' }),
  preset: z
    .enum(surfacePresetNames)
    .nullable()
    .default(null)
    .describe('surface to begin with; null: the slot as it is'),
  shared: z
    .string()
    .nullable()
    .default(null)
    .describe('surface of the project that it follows; what is said here goes before it'),
  called: z.string().nullable().default(null).describe('name that the slot notes; null: of the preset'),
  colour: colourOption('base colour, #rrggbb; null: of the preset, or as it is'),
  metallic: share('0: none, 1: bare metal'),
  roughness: share('0: a mirror, 1: chalk'),
  emissive: colourOption('colour of its own light, #rrggbb'),
  strength: z.number().min(0).max(1000).nullable().default(null).describe('how strong its own light is'),
  opacity: share('below 1 it is blended'),
  transmission: share('share of the light that goes through'),
  ior: z.number().min(1).max(3).nullable().default(null).describe('refraction index: water 1.33, glass 1.52'),
  thickness: z
    .number()
    .min(0)
    .max(100)
    .nullable()
    .default(null)
    .describe('metres that the light goes through; 0: thin walled'),
  through: colourOption('colour of white light that went through, #rrggbb'),
  depth: z
    .number()
    .positive()
    .max(1000)
    .nullable()
    .default(null)
    .describe('metres after which light that goes through has that colour'),
  specular: share('how strongly what is no metal mirrors, against what the index gives'),
  specularColour: colourOption('colour in which what is no metal mirrors, #rrggbb'),
  coat: share('clear coat over it'),
  coatRoughness: share('roughness of the clear coat'),
  scatter: share('share of the light that is scattered through, as by leaves, cloth and wax'),
  scatterColour: colourOption('colour of the light that is scattered through, #rrggbb'),
  normal: z.number().min(0).max(10).nullable().default(null).describe('strength of the normal map'),
  heightDepth: z
    .number()
    .min(0)
    .max(10)
    .nullable()
    .default(null)
    .describe('metres between black and white of its height map'),
  occlusion: share('strength of the occlusion'),
  alpha: z
    .enum(['opaque', 'cutout', 'blend', 'add'])
    .nullable()
    .default(null)
    .describe(
      'how alpha is used; add: it is added to what stands behind, which glTF has no word for; null: as the opacity says',
    ),
  cutoff: share('alpha below which a cutout is not drawn'),
  twoSided: z.boolean().nullable().default(null).describe('seen from both sides'),
})
type SurfaceOptions = z.infer<typeof optionsSchema>

export const surface = defineRemedy({
  id: 'slots/surface',
  version: 1,
  station: 'slots',
  needs: 'file',
  title: 'Set the surface of a slot',
  words: ({ slot, preset, shared }) => `${slot}: ${shared ?? (preset ? presetOf(preset)!.title : 'values')}`,
  about:
    'Sets what a slot is by values: colour, metal, roughness, own light, opacity, what goes through and how it is refracted, ' +
    'what is scattered, what mirrors, clear coat, strength of normal map, depth of the height map and occlusion. ' +
    'Textures stay, and are multiplied by them as glTF says. ' +
    'The slot notes the name of its surface, so that it counts as complete without textures.',
  options: optionsSchema,
  async apply(work, options) {
    const { slot: name, preset } = options
    const found = slotCalled(work, name)
    if (!found.ok) return found
    if (options.shared !== null)
      return bad(
        'remedy/not-applicable',
        `The rulebook has no surface called ${options.shared}.`,
        'Choose another surface for the slot, or add it to the rulebook again.',
        { slot: name },
      )
    const values = valuesOf(options)
    if (Object.values(values).every((v) => v === undefined))
      return good({ changed: false, said: `nothing is set on ${name}` })
    const slot = found.value
    setCore(slot, values)
    setSlotValues(work.document!, slot, values)
    const title = options.called ?? (preset ? presetOf(preset)!.title : 'values')
    noteOfSlot(slot, { surface: title, ...notesOf(values) })
    return good({ changed: true, said: `${name} is ${title === 'values' ? 'set' : title}` })
  },
})

type Rgb = [number, number, number]

/** What is set; what is not said is undefined and stays. */
interface Values extends Partial<SlotValues> {
  colour?: Rgb | undefined
  opacity?: number | undefined
  metallic?: number | undefined
  roughness?: number | undefined
  emissive?: Rgb | undefined
  alpha?: keyof typeof alphaModes | undefined
  cutoff?: number | undefined
  twoSided?: boolean | undefined
  heightDepth?: number | undefined
}

const alphaModes = { opaque: 'OPAQUE', cutout: 'MASK', blend: 'BLEND', add: 'BLEND' } as const

/** What glTF has no place for stands with the slot; what is not said stays. */
const notesOf = ({ alpha, heightDepth }: Values): SlotNotes => ({
  ...(alpha ? { blending: alpha === 'add' ? alpha : undefined } : {}),
  ...(heightDepth === undefined ? {} : { heightDepth }),
})

/** What is said by itself goes before what the preset says. */
function valuesOf(options: SurfaceOptions): Values {
  const preset = options.preset ? presetOf(options.preset) : undefined
  return {
    ...presetValues(preset),
    ...said({
      colour: linear(options.colour),
      opacity: options.opacity,
      metallic: options.metallic,
      roughness: options.roughness,
      emissive: linear(options.emissive),
      emissiveStrength: options.strength,
      transmission: options.transmission,
      ior: options.ior,
      thickness: options.thickness,
      attenuationColour: linear(options.through),
      attenuationDistance: options.depth,
      specular: options.specular,
      specularColour: linear(options.specularColour),
      coat: options.coat,
      coatRoughness: options.coatRoughness,
      normalStrength: options.normal,
      occlusionStrength: options.occlusion,
      scatter: options.scatter,
      scatterColour: linear(options.scatterColour),
      heightDepth: options.heightDepth,
      alpha: options.alpha ?? (options.opacity === null ? null : options.opacity < 1 ? 'blend' : 'opaque'),
      cutoff: options.cutoff,
      twoSided: options.twoSided,
    }),
  }
}

const presetValues = (preset: SurfacePreset | undefined): Values =>
  preset
    ? said({
        colour: [...preset.baseColour] as Rgb,
        metallic: preset.metallic,
        roughness: preset.roughness,
        emissive: preset.emissive ? ([...preset.emissive] as Rgb) : null,
        emissiveStrength: preset.emissiveStrength ?? null,
        transmission: preset.transmission ?? null,
        ior: preset.ior ?? null,
      })
    : {}

const said = (values: { [K in keyof Values]: Values[K] | null }): Values =>
  Object.fromEntries(Object.entries(values).filter(([, v]) => v !== null && v !== undefined))

const linear = (colour: string | null): Rgb | null => (colour === null ? null : linearOfHex(colour))

function setCore(slot: Material, values: Values): void {
  const { colour, metallic, roughness, emissive, opacity, alpha, cutoff, twoSided } = values
  const [r, g, b, a] = slot.getBaseColorFactor()
  slot.setBaseColorFactor([...(colour ?? ([r, g, b] as Rgb)), opacity ?? a])
  if (metallic !== undefined) slot.setMetallicFactor(metallic)
  if (roughness !== undefined) slot.setRoughnessFactor(roughness)
  if (emissive) slot.setEmissiveFactor(emissive)
  if (alpha) slot.setAlphaMode(alphaModes[alpha])
  if (cutoff !== undefined) slot.setAlphaCutoff(cutoff)
  if (twoSided !== undefined) slot.setDoubleSided(twoSided)
}
