import type { Document, ExtensionProperty, Material } from '@gltf-transform/core'
import {
  type Clearcoat,
  type DiffuseTransmission,
  type EmissiveStrength,
  type IOR,
  KHRMaterialsClearcoat,
  KHRMaterialsDiffuseTransmission,
  KHRMaterialsEmissiveStrength,
  KHRMaterialsIOR,
  KHRMaterialsSpecular,
  KHRMaterialsTransmission,
  KHRMaterialsVolume,
  type Specular,
  type Transmission,
  type Volume,
} from '@gltf-transform/extensions'
import type { SlotValues } from '@stern-gate/contract'

type Rgb = [number, number, number]

const CLEARCOAT = 'KHR_materials_clearcoat',
  SCATTER = 'KHR_materials_diffuse_transmission',
  STRENGTH = 'KHR_materials_emissive_strength',
  INDEX = 'KHR_materials_ior',
  SPECULAR = 'KHR_materials_specular',
  TRANSMISSION = 'KHR_materials_transmission',
  VOLUME = 'KHR_materials_volume'

/** What a slot says by the values of its extensions; what it does not say is glTF's default. */
export function slotValues(slot: Material): SlotValues {
  const coat = slot.getExtension<Clearcoat>(CLEARCOAT),
    strength = slot.getExtension<EmissiveStrength>(STRENGTH),
    index = slot.getExtension<IOR>(INDEX),
    specular = slot.getExtension<Specular>(SPECULAR),
    transmission = slot.getExtension<Transmission>(TRANSMISSION),
    volume = slot.getExtension<Volume>(VOLUME),
    scatter = slot.getExtension<DiffuseTransmission>(SCATTER)
  const distance = volume?.getAttenuationDistance() ?? Infinity
  return {
    normalStrength: slot.getNormalScale(),
    occlusionStrength: slot.getOcclusionStrength(),
    emissiveStrength: strength?.getEmissiveStrength() ?? 1,
    transmission: transmission?.getTransmissionFactor() ?? 0,
    ior: index?.getIOR() ?? 1.5,
    thickness: volume?.getThicknessFactor() ?? 0,
    attenuationColour: volume?.getAttenuationColor() ?? [1, 1, 1],
    // The library reads a distance that is not given as 0 or as Infinity: neither is one
    attenuationDistance: Number.isFinite(distance) && distance > 0 ? distance : null,
    specular: specular?.getSpecularFactor() ?? 1,
    specularColour: specular?.getSpecularColorFactor() ?? [1, 1, 1],
    coat: coat?.getClearcoatFactor() ?? 0,
    coatRoughness: coat?.getClearcoatRoughnessFactor() ?? 0,
    scatter: scatter?.getDiffuseTransmissionFactor() ?? 0,
    scatterColour: scatter?.getDiffuseTransmissionColorFactor() ?? [1, 1, 1],
  }
}

/** Sets what is given; an extension that is there keeps its textures and other values. */
export function setSlotValues(document: Document, slot: Material, given: Partial<SlotValues>): void {
  if (given.normalStrength !== undefined) slot.setNormalScale(given.normalStrength)
  if (given.occlusionStrength !== undefined) slot.setOcclusionStrength(given.occlusionStrength)
  if (given.emissiveStrength !== undefined)
    own(slot, STRENGTH, () =>
      document.createExtension(KHRMaterialsEmissiveStrength).createEmissiveStrength(),
    ).setEmissiveStrength(given.emissiveStrength)
  if (given.ior !== undefined)
    own(slot, INDEX, () => document.createExtension(KHRMaterialsIOR).createIOR()).setIOR(given.ior)
  if (given.transmission !== undefined)
    own(slot, TRANSMISSION, () =>
      document.createExtension(KHRMaterialsTransmission).createTransmission(),
    ).setTransmissionFactor(given.transmission)
  setVolume(document, slot, given)
  setSpecular(document, slot, given)
  setCoat(document, slot, given)
  setScatter(document, slot, given)
}

function setVolume(
  document: Document,
  slot: Material,
  { thickness, attenuationColour, attenuationDistance }: Partial<SlotValues>,
): void {
  if (thickness === undefined && attenuationColour === undefined && attenuationDistance === undefined) return
  const volume = own(slot, VOLUME, () => document.createExtension(KHRMaterialsVolume).createVolume())
  if (thickness !== undefined) volume.setThicknessFactor(thickness)
  if (attenuationColour) volume.setAttenuationColor(attenuationColour)
  if (attenuationDistance !== undefined) volume.setAttenuationDistance(attenuationDistance ?? Infinity)
}

function setSpecular(
  document: Document,
  slot: Material,
  { specular, specularColour }: Partial<SlotValues>,
): void {
  if (specular === undefined && specularColour === undefined) return
  const layer = own(slot, SPECULAR, () => document.createExtension(KHRMaterialsSpecular).createSpecular())
  if (specular !== undefined) layer.setSpecularFactor(specular)
  if (specularColour) layer.setSpecularColorFactor(specularColour as Rgb)
}

function setCoat(document: Document, slot: Material, { coat, coatRoughness }: Partial<SlotValues>): void {
  if (coat === undefined && coatRoughness === undefined) return
  const layer = own(slot, CLEARCOAT, () => document.createExtension(KHRMaterialsClearcoat).createClearcoat())
  if (coat !== undefined) layer.setClearcoatFactor(coat)
  if (coatRoughness !== undefined) layer.setClearcoatRoughnessFactor(coatRoughness)
}

function setScatter(
  document: Document,
  slot: Material,
  { scatter, scatterColour }: Partial<SlotValues>,
): void {
  if (scatter === undefined && scatterColour === undefined) return
  const layer = own(slot, SCATTER, () =>
    document.createExtension(KHRMaterialsDiffuseTransmission).createDiffuseTransmission(),
  )
  if (scatter !== undefined) layer.setDiffuseTransmissionFactor(scatter)
  if (scatterColour) layer.setDiffuseTransmissionColorFactor(scatterColour as Rgb)
}

/** The extension that the slot has, or a new one. */
function own<T extends ExtensionProperty>(slot: Material, name: string, make: () => T): T {
  const there = slot.getExtension<T>(name)
  if (there) return there
  const made = make()
  slot.setExtension(name, made)
  return made
}
