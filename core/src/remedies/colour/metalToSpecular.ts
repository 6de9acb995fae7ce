import type { Material } from '@gltf-transform/core'
import { KHRMaterialsPBRSpecularGlossiness } from '@gltf-transform/extensions'
import * as z from 'zod'
import { bad, good, type Outcome } from '@stern-gate/contract'
import { metalToSpecular, type SpecularMaps } from '../../image/metalToSpecular'
import type { Pixels } from '../../image/pixels'
import { fileStem } from '../../read/deliveryPath'
import { slotNames } from '../../scene/slotNames'
import { defineRemedy, type RemedyPorts } from '../defineRemedy'
import { addMadeTexture, decodedTexture } from '../madeTextures'
import type { Work, WorkTexture } from '../work'
import { copyInfo, dropUnusedTextures } from './setTextures'

const EXTENSION = 'KHR_materials_pbrSpecularGlossiness'

export const metalSetToSpecular = defineRemedy({
  id: 'colour/metal-to-specular',
  version: 1,
  station: 'colour',
  needs: 'mesh',
  title: 'Metallic and roughness to specular and gloss',
  words: () => 'Specular and gloss',
  about:
    'Makes diffuse, specular and gloss of base colour, metallic and roughness, values and textures, by the ' +
    'conversion published for glTF, for a receiver that reads KHR_materials_pbrSpecularGlossiness. The base colour ' +
    'and the packed map go where nothing else uses them; normal, occlusion and emissive stay as they are.',
  options: z.strictObject({
    slot: z
      .string()
      .nullable()
      .default(null)
      .describe('name of the slot; null: all that have no such set yet')
      .meta({ names: 'slot' }),
  }),
  async apply(work, { slot }, ports) {
    const slots = work.document
      ? [...slotNames(work.document)].filter(
          ([material, name]) => (slot === null || slot === name) && !material.getExtension(EXTENSION),
        )
      : []
    if (slots.length === 0)
      return good({ changed: false, said: 'no slot is without a specular and gloss set' })
    const made = new Map<string, SpecularTextures>()
    for (const [material] of slots) {
      const done = await convert(work, material, made, ports)
      if (!done.ok) return done
    }
    dropUnusedTextures(work)
    return good({
      changed: true,
      said: `${slots.map(([, name]) => name).join(', ')}: diffuse, specular and gloss now`,
    })
  },
})

interface SpecularTextures {
  diffuse: WorkTexture
  specularGloss: WorkTexture
}

async function convert(
  work: Work,
  material: Material,
  made: Map<string, SpecularTextures>,
  ports: RemedyPorts,
): Promise<Outcome<true>> {
  const textureOf = (picture: unknown): WorkTexture | null =>
    work.textures.find((t) => t.pictures.includes(picture as never)) ?? null
  const pictures = [material.getBaseColorTexture(), material.getMetallicRoughnessTexture()] as const
  const [base, packed] = pictures.map(textureOf) as [WorkTexture | null, WorkTexture | null]
  if ((pictures[0] && !base) || (pictures[1] && !packed))
    return bad(
      'remedy/not-applicable',
      'A texture of the slot did not come, and cannot be converted.',
      'Deliver it, then apply the step again.',
      { slot: material.getName() },
    )
  const [r, g, b, opacity] = material.getBaseColorFactor()
  const factors = {
    base: [r, g, b],
    opacity,
    metallic: material.getMetallicFactor(),
    roughness: material.getRoughnessFactor(),
  }
  const key = JSON.stringify([base?.name, packed?.name, factors])
  if (!made.has(key)) {
    const read: (Pixels | null)[] = []
    for (const texture of [base, packed]) {
      const pixels = texture ? await decodedTexture(texture, ports) : null
      if (pixels && !pixels.ok) return pixels
      read.push(pixels ? pixels.value : null)
    }
    const kept = await keepMaps(work, base ?? packed, metalToSpecular(read[0]!, read[1]!, factors), ports)
    if (!kept.ok) return kept
    made.set(key, kept.value)
  }
  wire(work, material, made.get(key)!)
  return good(true)
}

/** Puts the maps beside what they were made of, or into the mesh where that stood; values alone as 1 × 1. */
async function keepMaps(
  work: Work,
  beside: WorkTexture | null,
  maps: SpecularMaps,
  ports: RemedyPorts,
): Promise<Outcome<SpecularTextures>> {
  const stem = beside ? fileStem(beside.name).replace(ROLE_AT_END, '') : work.name
  const diffuse = await addMadeTexture(
    work,
    { stem: `${stem}_diffuse`, pixels: maps.diffuse, space: 'srgb', beside },
    ports,
  )
  if (!diffuse.ok) return diffuse
  const specularGloss = await addMadeTexture(
    work,
    { stem: `${stem}_specular`, pixels: maps.specularGloss, space: 'srgb', beside },
    ports,
  )
  return specularGloss.ok
    ? good({ diffuse: diffuse.value, specularGloss: specularGloss.value })
    : specularGloss
}

/** What stands behind the subject in the names of such textures. */
const ROLE_AT_END = /[_\- ]?(base_?colou?r|albedo|colou?r|col|orm|arm|rma|metal\w*|rough\w*)$/i

function wire(work: Work, material: Material, maps: SpecularTextures): void {
  const set = work
    .document!.createExtension(KHRMaterialsPBRSpecularGlossiness)
    .createPBRSpecularGlossiness()
    .setDiffuseFactor([1, 1, 1, 1])
    .setSpecularFactor([1, 1, 1])
    .setGlossinessFactor(1)
    .setDiffuseTexture(maps.diffuse.pictures[0]!)
    .setSpecularGlossinessTexture(maps.specularGloss.pictures[0]!)
  const source = material.getBaseColorTextureInfo() ?? material.getMetallicRoughnessTextureInfo()
  copyInfo(source, set.getDiffuseTextureInfo())
  copyInfo(material.getMetallicRoughnessTextureInfo() ?? source, set.getSpecularGlossinessTextureInfo())
  // A slot that shares its packed map as occlusion keeps that
  material
    .setBaseColorTexture(null)
    .setMetallicRoughnessTexture(null)
    .setBaseColorFactor([1, 1, 1, 1])
    .setMetallicFactor(1)
    .setRoughnessFactor(1)
    .setExtension(EXTENSION, set)
}
