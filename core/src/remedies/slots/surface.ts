import type { Document, Material } from '@gltf-transform/core'
import {
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsTransmission,
} from '@gltf-transform/extensions'
import * as z from 'zod'
import { bad, good } from '@stern-gate/contract'
import { srgbToLinear } from '../../image/transferCurves'
import { slotNames } from '../../scene/slotNames'
import { noteOfSlot } from '../../scene/slotNotes'
import { presetOf, surfacePresetNames } from '../../surfaces/presets'
import { defineRemedy } from '../defineRemedy'

const share = (about: string) => z.number().min(0).max(1).nullable().default(null).describe(about)
const hex = (about: string) =>
  z
    .string()
    .regex(/^#[0-9a-fA-F]{6}$/, 'a colour is written #rrggbb')
    .nullable()
    .default(null)
    .describe(about)
    .meta({ names: 'colour' })

const optionsSchema = z.strictObject({
  slot: z.string().describe('name of the slot').meta({ names: 'slot' }),
  preset: z
    .enum(surfacePresetNames)
    .nullable()
    .default(null)
    .describe('surface to begin with; null: the slot as it is'),
  colour: hex('base colour, #rrggbb; null: of the preset, or as it is'),
  metallic: share('0: none, 1: bare metal'),
  roughness: share('0: a mirror, 1: chalk'),
  emissive: hex('colour of its own light, #rrggbb'),
  strength: z.number().min(0).max(1000).nullable().default(null).describe('how strong its own light is'),
  opacity: share('below 1 it is blended'),
  transmission: share('share of the light that goes through'),
  ior: z.number().min(1).max(3).nullable().default(null).describe('refraction index: water 1.33, glass 1.52'),
  twoSided: z.boolean().nullable().default(null).describe('seen from both sides'),
})
type SurfaceOptions = z.infer<typeof optionsSchema>

export const surface = defineRemedy({
  id: 'slots/surface',
  version: 1,
  station: 'slots',
  needs: 'file',
  title: 'Set the surface of a slot',
  words: ({ slot, preset }) => `${slot}: ${preset ? presetOf(preset)!.title : 'values'}`,
  about:
    'Sets what a slot is by values: colour, metal, roughness, own light, opacity, what goes through and how it is refracted. ' +
    'Textures stay, and are multiplied by them as glTF says. ' +
    'The slot notes the name of its surface, so that it counts as complete without textures.',
  options: optionsSchema,
  async apply(work, options) {
    const { slot: name, preset } = options
    const slot = work.document
      ? [...slotNames(work.document)].find(([, own]) => own === name)?.[0]
      : undefined
    if (!work.document || !slot)
      return bad('remedy/not-applicable', `No slot is called ${name}.`, 'Choose one of its slots.', {
        slot: name,
      })
    const values = valuesOf(options)
    if (Object.values(values).every((v) => v === null))
      return good({ changed: false, said: `nothing is set on ${name}` })
    setValues(work.document, slot, values)
    const title = preset ? presetOf(preset)!.title : 'values'
    noteOfSlot(slot, { surface: title })
    return good({ changed: true, said: `${name} is ${preset ? title : 'set'}` })
  },
})

type Rgb = [number, number, number]

interface Values {
  colour: Rgb | null
  metallic: number | null
  roughness: number | null
  emissive: Rgb | null
  strength: number | null
  opacity: number | null
  transmission: number | null
  ior: number | null
  twoSided: boolean | null
}

/** What is said by itself goes before what the preset says. */
function valuesOf(options: SurfaceOptions): Values {
  const preset = options.preset ? presetOf(options.preset)! : null
  const light = preset?.emissive ? ([...preset.emissive] as Rgb) : null
  return {
    colour: linear(options.colour) ?? (preset ? ([...preset.baseColour] as Rgb) : null),
    metallic: options.metallic ?? preset?.metallic ?? null,
    roughness: options.roughness ?? preset?.roughness ?? null,
    emissive: linear(options.emissive) ?? light,
    strength: options.strength ?? preset?.emissiveStrength ?? null,
    opacity: options.opacity,
    transmission: options.transmission ?? preset?.transmission ?? null,
    ior: options.ior ?? preset?.ior ?? null,
    twoSided: options.twoSided,
  }
}

const linear = (colour: string | null): Rgb | null =>
  colour === null
    ? null
    : ([1, 3, 5].map((at) => srgbToLinear(Number.parseInt(colour.slice(at, at + 2), 16) / 255)) as Rgb)

function setValues(document: Document, slot: Material, values: Values): void {
  const { colour, metallic, roughness, emissive, strength, opacity, transmission, ior, twoSided } = values
  const [r, g, b, a] = slot.getBaseColorFactor()
  slot.setBaseColorFactor([...(colour ?? ([r, g, b] as Rgb)), opacity ?? a])
  if (metallic !== null) slot.setMetallicFactor(metallic)
  if (roughness !== null) slot.setRoughnessFactor(roughness)
  if (emissive) slot.setEmissiveFactor(emissive)
  if (opacity !== null) slot.setAlphaMode(opacity < 1 ? 'BLEND' : 'OPAQUE')
  if (twoSided !== null) slot.setDoubleSided(twoSided)
  if (strength !== null)
    slot.setExtension(
      'KHR_materials_emissive_strength',
      document
        .createExtension(KHRMaterialsEmissiveStrength)
        .createEmissiveStrength()
        .setEmissiveStrength(strength),
    )
  if (ior !== null)
    slot.setExtension('KHR_materials_ior', document.createExtension(KHRMaterialsIOR).createIOR().setIOR(ior))
  if (transmission !== null)
    slot.setExtension(
      'KHR_materials_transmission',
      document
        .createExtension(KHRMaterialsTransmission)
        .createTransmission()
        .setTransmissionFactor(transmission),
    )
}
