import type { Document, Material, Texture, TextureInfo } from '@gltf-transform/core'
import type { SlotFacts, SlotInput } from '@stern-gate/contract'
import { fileStem } from '../read/deliveryPath'
import { inputTextures, type CoreInput } from '../scene/slotInputs'
import { slotNames } from '../scene/slotNames'
import { slotNotes, type SlotNotes } from '../scene/slotNotes'
import { channelOf, placementOf } from '../scene/texturePlacement'
import { slotValues } from '../scene/slotValues'

const alphaModes = { OPAQUE: 'opaque', MASK: 'cutout', BLEND: 'blend' } as const

/** Measures every material slot: parameters, and which image feeds which input through which UV channel. */
export function measureSlots(document: Document): SlotFacts[] {
  const images = document.getRoot().listTextures()
  const slots = [...slotNames(document)]
  const twins = sameSlots(
    slots.map(([material]) => material),
    images,
  )
  return slots.map(([material, name], index) => ({
    name,
    index,
    baseColour: material.getBaseColorFactor(),
    metallic: material.getMetallicFactor(),
    roughness: material.getRoughnessFactor(),
    emissive: material.getEmissiveFactor(),
    alphaMode: alphaModes[material.getAlphaMode()],
    alphaCutoff: material.getAlphaCutoff(),
    doubleSided: material.getDoubleSided(),
    extensions: material.listExtensions().map((e) => e.extensionName),
    surface: slotNotes(material).surface ?? null,
    sameAs: twins[index] === null ? null : slots[twins[index]!]![1],
    textures: [
      ...coreTextures(material, images),
      ...extensionTextures(material, images),
      ...notedTextures(material, images),
    ],
    tints: [...(slotNotes(material).tints ?? [])],
    alphaMeaning: slotNotes(material).alpha ?? null,
    layer: slotNotes(material).layer ?? null,
    detail: slotNotes(material).detail ?? null,
    heightDepth: slotNotes(material).heightDepth ?? null,
    adds: slotNotes(material).blending === 'add' && material.getAlphaMode() === 'BLEND',
    values: slotValues(material),
  }))
}

const NAMES = new Set(['name'])

/**
 * For each slot the first earlier one that equals it but for its name, by number. Slots are compared in full
 * only when their plain values and pictures agree.
 */
function sameSlots(materials: readonly Material[], images: Texture[]): (number | null)[] {
  const groups = new Map<string, number[]>()
  return materials.map((material, index) => {
    const key = JSON.stringify([
      material.getBaseColorFactor(),
      material.getMetallicFactor(),
      material.getRoughnessFactor(),
      material.getEmissiveFactor(),
      material.getAlphaMode(),
      material.getDoubleSided(),
      material.listExtensions().length,
      coreTextures(material, images),
      extensionTextures(material, images),
    ])
    const group = groups.get(key) ?? []
    groups.set(key, group)
    const twin = group.find((k) => materials[k]!.equals(material, NAMES))
    if (twin === undefined) group.push(index)
    return twin ?? null
  })
}

type SlotTexture = SlotFacts['textures'][number]

/** glTF's names of its inputs. */
const fields: Record<CoreInput, string> = {
  basecolor: 'baseColorTexture',
  normal: 'normalTexture',
  roughness: 'metallicRoughnessTexture',
  occlusion: 'occlusionTexture',
  emissive: 'emissiveTexture',
}

function coreTextures(material: Material, images: Texture[]): SlotTexture[] {
  const occlusion = material.getOcclusionTexture()
  // One picture behind both inputs is a packed map: occlusion in R, roughness in G, metallic in B
  const packed = occlusion !== null && occlusion === material.getMetallicRoughnessTexture()
  const inputOf = (input: CoreInput): SlotInput =>
    packed && (input === 'roughness' || input === 'occlusion')
      ? 'orm'
      : input === 'roughness'
        ? 'metallic-roughness'
        : input
  return inputTextures(material).map(({ input, texture, info }) => ({
    input: inputOf(input),
    field: fields[input],
    image: images.indexOf(texture),
    ...lieOf(info),
  }))
}

/** Inputs that glTF has none for and an output of ours notes with the slot, by path or name. */
function notedTextures(material: Material, images: Texture[]): SlotTexture[] {
  const notes = slotNotes(material)
  return Object.entries(notes.inputs ?? {}).flatMap(([field, name]) => {
    const image = images.findIndex((t) => t.getURI() === name || t.getName() === fileStem(name))
    return image < 0 ? [] : [{ input: 'other' as const, field, image, ...notedLie(field, notes) }]
  })
}

/** Textures of a second layer and of a detail map have their own UV channel and tiling; others lie as they are. */
function notedLie(field: string, { layer, detail }: SlotNotes): ReturnType<typeof lieOf> {
  const lies = field.startsWith('layer') ? layer : field.startsWith('detail') ? detail : null
  if (!lies) return lieOf(null)
  const { uv, tiling } = lies
  return {
    channel: uv,
    placement: tiling === 1 ? null : { tiling: [tiling, tiling], offset: [0, 0], turn: 0 },
  }
}

/** Inputs of extensions that stand for one of the core's. */
const inputsOfExtensions: Readonly<Record<string, SlotInput>> = { diffuseTexture: 'basecolor' }

/** Textures that extensions bring; the edge of the graph names their input. */
function extensionTextures(material: Material, images: Texture[]): SlotTexture[] {
  const graph = material.getGraph()
  return material.listExtensions().flatMap((extension) =>
    graph.listChildEdges(extension).flatMap((edge) => {
      const image = images.indexOf(edge.getChild() as unknown as Texture)
      const field = edge.getName()
      return image < 0
        ? []
        : [
            {
              input: inputsOfExtensions[field] ?? ('other' as const),
              field,
              image,
              ...lieOf(infoOf(extension as unknown as Record<string, unknown>, field)),
            },
          ]
    }),
  )
}

/** How a texture lies on the mesh: by which UV channel, and how it is placed on it. */
const lieOf = (info: TextureInfo | null): Pick<SlotTexture, 'channel' | 'placement'> => ({
  channel: info ? channelOf(info) : 0,
  placement: info && placementOf(info),
})

function infoOf(extension: Record<string, unknown>, field: string): TextureInfo | null {
  const getter = extension[`get${field[0]!.toUpperCase()}${field.slice(1)}Info`]
  return typeof getter === 'function' ? (getter.call(extension) as TextureInfo | null) : null
}
