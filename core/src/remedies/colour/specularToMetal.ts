import type { Material } from '@gltf-transform/core'
import type { PBRSpecularGlossiness } from '@gltf-transform/extensions'
import * as z from 'zod'
import { bad, good, type Outcome } from '@stern-gate/contract'
import type { Pixels } from '../../image/pixels'
import { specularToMetal, type MetalMaps } from '../../image/specularToMetal'
import { fileStem } from '../../read/deliveryPath'
import { slotNames } from '../../scene/slotNames'
import { defineRemedy, type RemedyPorts } from '../defineRemedy'
import { addMadeTexture, decodedTexture } from '../madeTextures'
import type { Work, WorkTexture } from '../work'
import { copyInfo, dropUnusedTextures } from './setTextures'

const EXTENSION = 'KHR_materials_pbrSpecularGlossiness'

export const specularSetToMetal = defineRemedy({
  id: 'colour/specular-to-metal',
  version: 1,
  station: 'colour',
  needs: 'mesh',
  title: 'Specular and gloss to metallic and roughness',
  words: () => 'Metallic and roughness',
  about:
    'Makes base colour, metallic and roughness of diffuse, specular and gloss, values and textures, ' +
    'by the conversion published for glTF. ' +
    'The old textures stay where something else uses them. Normal, occlusion and emissive stay as they are.',
  options: z.strictObject({
    slot: z
      .string()
      .nullable()
      .default(null)
      .describe('name of the slot; null: all that have such a set')
      .meta({ names: 'slot' }),
  }),
  async apply(work, { slot }, ports) {
    const slots = work.document
      ? [...slotNames(work.document)].filter(
          ([material, name]) => (slot === null || slot === name) && setOf(material) !== null,
        )
      : []
    if (slots.length === 0) return good({ changed: false, said: 'no slot has a specular and gloss set' })
    const made = new Map<string, Maps>()
    for (const [material] of slots) {
      const done = await convert(work, material, made, ports)
      if (!done.ok) return done
    }
    dropUnused(work)
    for (const maps of made.values()) for (const texture of Object.values(maps)) takePlainName(work, texture)
    return good({
      changed: true,
      said: `${slots.map(([, name]) => name).join(', ')}: base colour, metallic and roughness now`,
    })
  },
})

interface Maps {
  basecolor: WorkTexture
  metallicRoughness: WorkTexture
}

const setOf = (material: Material): PBRSpecularGlossiness | null =>
  material.getExtension<PBRSpecularGlossiness>(EXTENSION)

async function convert(
  work: Work,
  material: Material,
  made: Map<string, Maps>,
  ports: RemedyPorts,
): Promise<Outcome<true>> {
  const set = setOf(material)!
  const textureOf = (picture: unknown): WorkTexture | null =>
    work.textures.find((t) => t.pictures.includes(picture as never)) ?? null
  const diffuse = textureOf(set.getDiffuseTexture()),
    specular = textureOf(set.getSpecularGlossinessTexture())
  if ((set.getDiffuseTexture() && !diffuse) || (set.getSpecularGlossinessTexture() && !specular))
    return bad(
      'remedy/not-applicable',
      'A texture of the set did not come, and cannot be converted.',
      'Deliver it, then apply the step again.',
      { slot: material.getName() },
    )
  const factors = {
    diffuse: set.getDiffuseFactor().slice(0, 3),
    opacity: set.getDiffuseFactor()[3],
    specular: set.getSpecularFactor(),
    gloss: set.getGlossinessFactor(),
  }
  const key = JSON.stringify([diffuse?.name, specular?.name, factors])
  if (!made.has(key)) {
    const pictures = [await decoded(diffuse, ports), await decoded(specular, ports)] as const
    for (const picture of pictures) if (!picture.ok) return picture
    const maps = specularToMetal(valueOf(pictures[0]), valueOf(pictures[1]), factors)
    const kept = await keepMaps(work, diffuse ?? specular, maps, ports)
    if (!kept.ok) return kept
    made.set(key, kept.value)
  }
  wire(material, set, made.get(key)!)
  return good(true)
}

const valueOf = (outcome: Outcome<Pixels | null>): Pixels | null => (outcome.ok ? outcome.value : null)

const decoded = async (texture: WorkTexture | null, ports: RemedyPorts): Promise<Outcome<Pixels | null>> =>
  texture ? decodedTexture(texture, ports) : good(null)

/** Puts the maps beside what they were made of, or into the mesh where that stood; values alone as 1 × 1. */
async function keepMaps(
  work: Work,
  beside: WorkTexture | null,
  maps: MetalMaps,
  ports: RemedyPorts,
): Promise<Outcome<Maps>> {
  const stem = beside ? fileStem(beside.name).replace(ROLE_AT_END, '') : work.name
  const keep = (pixels: Pixels, role: string, space: 'srgb' | 'linear'): Promise<Outcome<WorkTexture>> =>
    addMadeTexture(work, { stem: `${stem}_${role}`, pixels, space, beside }, ports)
  const basecolor = await keep(maps.basecolor, 'basecolor', 'srgb')
  if (!basecolor.ok) return basecolor
  const metallicRoughness = await keep(maps.metallicRoughness, 'orm', 'linear')
  return metallicRoughness.ok
    ? good({ basecolor: basecolor.value, metallicRoughness: metallicRoughness.value })
    : metallicRoughness
}

/** What stands behind the subject in the names of such textures. */
const ROLE_AT_END = /[_\- ]?(base_?colou?r|albedo|diffuse|diff|colou?r|col|spec\w*|gloss\w*|sg)$/i

/** A name that was taken by what is gone now. */
function takePlainName(work: Work, texture: WorkTexture): void {
  const plain = texture.name.replace(/_\d+\.png$/, '.png')
  if (plain === texture.name || work.textures.some((t) => t.name.toLowerCase() === plain.toLowerCase()))
    return
  texture.name = plain
  if (texture.path !== null) texture.path = texture.path.replace(/[^/]*$/, plain)
  for (const picture of texture.pictures) picture.setName(fileStem(plain))
}

function wire(material: Material, set: PBRSpecularGlossiness, maps: Maps): void {
  const source = set.getDiffuseTextureInfo() ?? set.getSpecularGlossinessTextureInfo()
  material
    .setBaseColorFactor([1, 1, 1, 1])
    .setMetallicFactor(1)
    .setRoughnessFactor(1)
    .setBaseColorTexture(maps.basecolor.pictures[0]!)
    .setMetallicRoughnessTexture(maps.metallicRoughness.pictures[0]!)
  copyInfo(source, material.getBaseColorTextureInfo())
  copyInfo(set.getSpecularGlossinessTextureInfo() ?? source, material.getMetallicRoughnessTextureInfo())
  material.setExtension(EXTENSION, null)
}

/** Pictures of the old set that nothing refers to any more; the extension where no slot has it. */
function dropUnused(work: Work): void {
  const root = work.document!.getRoot()
  if (!root.listMaterials().some((m) => setOf(m)))
    for (const extension of root.listExtensionsUsed())
      if (extension.extensionName === EXTENSION) extension.dispose()
  dropUnusedTextures(work)
}
