import type { CarriedSetting, SlotFacts, SurfaceSetting, Target } from '@stern-gate/contract'
import { formatLength, formatNumber } from '../numbers/formatNumber'

interface Setting {
  setting: SurfaceSetting
  value: string
}

/** What a target that does not take a setting draws in its place. */
const instead: Readonly<Record<SurfaceSetting, string>> = {
  'emissive strength': 'its own light is drawn at strength 1',
  'refraction index': 'light is refracted as by 1.5',
  transmission: 'it is drawn opaque: nothing is seen through it',
  thickness: 'it is drawn as thin as a pane',
  'specular level': 'it mirrors as its index says',
  'clear coat': 'it is drawn without the coat',
  sheen: 'it is drawn without the sheen',
  anisotropy: 'its highlights are round',
  iridescence: 'it is drawn without the film',
  'texture placement': 'its textures lie as the UV channel says, once',
  scattering: 'no light is scattered through it',
  height: 'the height map is not used',
  mask: 'the mask is not used',
  'second layer': 'the surface below is drawn alone',
  'detail map': 'it is drawn without the fine structure',
  'additive blending': 'it is blended, and dims what stands behind',
  blending: 'it is cut out at half of the alpha',
  'both sides': 'it is drawn from its front alone',
}

/** Settings in whose place something else is drawn; the others are lost. */
const drawnOtherwise: ReadonlySet<SurfaceSetting> = new Set(['blending', 'additive blending'])

/** Extensions of which the facts hold no values; that they are there is what counts. */
const byExtension: Readonly<Record<string, SurfaceSetting>> = {
  KHR_materials_sheen: 'sheen',
  KHR_materials_anisotropy: 'anisotropy',
  KHR_materials_iridescence: 'iridescence',
}

/**
 * Settings of the slots that not every target takes, each with what becomes of it at one: kept or lost. Inputs and UV
 * channels beyond its limits are lost, too. What every target draws is not listed.
 */
export const carryOver = (slots: readonly SlotFacts[], target: Target): CarriedSetting[] =>
  slots.flatMap((slot) => [
    ...settingsOf(slot).map(({ setting, value }): CarriedSetting => {
      const isTaken = target.takes.includes(setting)
      return {
        slot: slot.name,
        setting,
        value,
        fate: isTaken ? 'kept' : drawnOtherwise.has(setting) ? 'changed' : 'lost',
        how: isTaken ? '' : instead[setting],
      }
    }),
    ...overLimits(slot, target),
  ])

function settingsOf(slot: SlotFacts): Setting[] {
  const v = slot.values
  const found: (Setting | false | null | undefined)[] = [
    v &&
      v.emissiveStrength !== 1 && { setting: 'emissive strength', value: formatNumber(v.emissiveStrength) },
    v && v.ior !== 1.5 && { setting: 'refraction index', value: formatNumber(v.ior) },
    v && v.transmission > 0 && { setting: 'transmission', value: formatNumber(v.transmission) },
    v && v.thickness > 0 && { setting: 'thickness', value: formatLength(v.thickness) },
    v &&
      (v.specular !== 1 || v.specularColour.some((c) => c !== 1)) && {
        setting: 'specular level',
        value: formatNumber(v.specular),
      },
    v && v.coat > 0 && { setting: 'clear coat', value: formatNumber(v.coat) },
    ...slot.extensions.map((e) => byExtension[e] && { setting: byExtension[e], value: 'set' }),
    isPlaced(slot) && { setting: 'texture placement', value: placed(slot) },
    slot.textures.some((t) => t.field === 'height') && { setting: 'height', value: heightWords(slot) },
    (slot.tints.length > 0 || slot.textures.some((t) => t.field === 'tint')) && {
      setting: 'mask',
      value: slot.tints.length > 0 ? `tints ${slot.tints.map((t) => t.channel).join('')}` : 'a map',
    },
    slot.layer && { setting: 'second layer', value: layerWords(slot.layer) },
    slot.detail && { setting: 'detail map', value: `${formatNumber(slot.detail.tiling)} ×` },
    v && v.scatter > 0 && { setting: 'scattering', value: formatNumber(v.scatter) },
    slot.adds && { setting: 'additive blending', value: 'added' },
    slot.alphaMode === 'blend' && { setting: 'blending', value: 'by alpha' },
    slot.doubleSided && { setting: 'both sides', value: 'drawn' },
  ]
  return found.filter((s): s is Setting => !!s)
}

/** What a layer or a detail map brings is placed by it, and goes with it. */
const placedTexture = ({ textures }: SlotFacts) =>
  textures.find((t) => t.placement && !/^(layer|detail)/.test(t.field))
const isPlaced = (slot: SlotFacts): boolean => placedTexture(slot) !== undefined

const heightWords = ({ heightDepth }: SlotFacts): string =>
  heightDepth === null ? 'a map' : `${formatLength(heightDepth)} deep`

const layerWords = ({ by }: NonNullable<SlotFacts['layer']>): string =>
  by.kind === 'ramp' ? 'by a ramp' : by.kind === 'mask' ? `by ${by.channel} of the mask` : 'painted'

function placed(slot: SlotFacts): string {
  const { tiling } = placedTexture(slot)!.placement!
  return `${formatNumber(tiling[0])} × ${formatNumber(tiling[1])}`
}

/** Settings that textures of noted inputs belong to, by how their field begins. */
const settingOfField: readonly (readonly [string, SurfaceSetting])[] = [
  ['layer', 'second layer'],
  ['detail', 'detail map'],
  ['height', 'height'],
  ['tint', 'mask'],
]

/** Textures of a slot that a target reads: those of a setting that it does not take stay behind with it. */
export const takenTextures = (slot: SlotFacts, target: Target): SlotFacts['textures'] =>
  slot.textures.filter(({ input, field }) => {
    const setting = input === 'other' && settingOfField.find(([begin]) => field.startsWith(begin))?.[1]
    return !setting || target.takes.includes(setting)
  })

function overLimits(slot: SlotFacts, target: Target): CarriedSetting[] {
  const taken = takenTextures(slot, target)
  const images = new Set(taken.map((t) => t.image).filter((i) => i !== null)).size
  const far = taken.filter((t) => t.channel >= target.uvChannels)
  return [
    ...(images > target.inputsPerSlot
      ? [
          {
            slot: slot.name,
            setting: 'inputs' as const,
            value: `${images} textures`,
            fate: 'lost' as const,
            how: `${images - target.inputsPerSlot} of them are not drawn: a slot takes ${target.inputsPerSlot}`,
          },
        ]
      : []),
    ...far.map((t) => ({
      slot: slot.name,
      setting: 'UV channel' as const,
      value: `UV${t.channel} for ${t.field}`,
      fate: 'changed' as const,
      how: `it follows UV${target.uvChannels - 1}: there are ${target.uvChannels} channels`,
    })),
  ]
}
