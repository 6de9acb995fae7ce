import { Document, type Material, type Texture } from '@gltf-transform/core'
import {
  KHRLightsPunctual,
  KHRMaterialsPBRSpecularGlossiness,
  KHRMaterialsTransmission,
  KHRMaterialsVariants,
} from '@gltf-transform/extensions'
import type { Tint } from '@stern-gate/contract'
import { noteOfSlot, writeGlb } from '@stern-gate/core'
import type { Piece, Vec3 } from '../shape/piece'
import { evenDensity, tidy } from '../shape/tidy'

export type PaintedRole = 'basecolor' | 'normal' | 'orm'

export interface SlotPlan {
  name: string
  /**
   * Texture file stem without the role, with other file names (no extension) for single roles, null for none;
   * or pictures to embed.
   */
  textures?:
    | { stem: string; files?: Partial<Record<PaintedRole, string | null>> }
    | { embed: Record<PaintedRole, { name: string; bytes: Uint8Array }> }
  alpha?: 'OPAQUE' | 'MASK' | 'BLEND'
  doubleSided?: boolean
  colour?: [number, number, number, number]
  roughness?: number
  metallic?: number
  glass?: boolean
  /** Channels of its mask that it declares, with their colours. */
  tints?: Tint[]
  emissive?: Vec3
  /** Every island of the texture channel is scaled to it. */
  sheetsPerMetre?: number
  /** The old way of saying what a surface is: diffuse and specular with gloss. */
  specularGloss?: { diffuse: string; specular: string }
}

export interface PartPlan {
  name: string
  /** Surface by slot name; '' has no slot. */
  surface: Record<string, Piece | undefined>
  uvChannels: 0 | 1 | 2
  translation?: Vec3
  rotation?: [number, number, number, number]
  scale?: Vec3
  parent?: string
  /** Left as it is, with whatever was planted in it. */
  untidy?: boolean
}

/** Surface of a collision mesh: it needs no slot. */
export const withoutSlot = (piece: Piece): Record<string, Piece> => ({ '': piece })

export interface MeshPlan {
  slots: SlotPlan[]
  parts: PartPlan[]
  pictures?: string
  /** Looks of which one is chosen for the whole: what wears `slot` then wears another one. */
  variants?: { name: string; slot: string; wears: string }[]
  /** What the modelling scene left in the file. */
  strays?: ('light' | 'camera')[]
  /** A part that goes up and down, marked to do it over and over, and does not come back all the way. */
  clip?: { name: string; part: string; seconds: number; rise: number }
}

/** Writes a planned mesh as GLB. `pictures` is the relative folder of its texture files. */
export async function buildMesh(plan: MeshPlan): Promise<Uint8Array> {
  const document = new Document()
  document.getRoot().getAsset().generator = 'Gullwick sample maker'
  const buffer = document.createBuffer()
  const scene = document.createScene('scene')
  const targets = new Map<Texture, { uri: string } | { embed: Uint8Array }>()
  const slots = new Map(
    plan.slots.map((slot) => [slot.name, makeSlot(document, slot, plan.pictures ?? '', targets)]),
  )
  const nodes = new Map<string, ReturnType<Document['createNode']>>()
  for (const part of plan.parts) {
    const mesh = document.createMesh(part.name)
    for (const [slot, planned] of Object.entries(part.surface)) {
      if (!planned) continue
      const density = plan.slots.find((s) => s.name === slot)?.sheetsPerMetre
      const tidied = part.untidy ? planned : tidy(planned)
      const piece = density ? evenDensity(tidied, density) : tidied
      const array = (values: number[], type: 'VEC2' | 'VEC3') =>
        document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer)
      const count = piece.positions.length / 3
      const primitive = document
        .createPrimitive()
        .setAttribute('POSITION', array(piece.positions, 'VEC3'))
        .setAttribute('NORMAL', array(piece.normals, 'VEC3'))
        .setIndices(
          document
            .createAccessor()
            .setType('SCALAR')
            .setArray(count > 65535 ? new Uint32Array(piece.indices) : new Uint16Array(piece.indices))
            .setBuffer(buffer),
        )
        .setMaterial(slots.get(slot) ?? null)
      if (part.uvChannels > 0) primitive.setAttribute('TEXCOORD_0', array(piece.uvs, 'VEC2'))
      if (part.uvChannels > 1) primitive.setAttribute('TEXCOORD_1', array(piece.sheet, 'VEC2'))
      mesh.addPrimitive(primitive)
    }
    const node = document.createNode(part.name).setMesh(mesh)
    if (part.translation) node.setTranslation(part.translation)
    if (part.rotation) node.setRotation(part.rotation)
    if (part.scale) node.setScale(part.scale)
    nodes.set(part.name, node)
    const parent = part.parent === undefined ? undefined : nodes.get(part.parent)
    if (parent) parent.addChild(node)
    else scene.addChild(node)
  }
  if (plan.variants) addVariants(document, plan.variants, slots)
  for (const [i, stray] of (plan.strays ?? []).entries()) addStray(document, stray, i)
  if (plan.clip) addClip(document, plan.clip, nodes.get(plan.clip.part)!)
  return writeGlb(document, (picture) => targets.get(picture)!)
}

function makeSlot(
  document: Document,
  plan: SlotPlan,
  folder: string,
  targets: Map<Texture, { uri: string } | { embed: Uint8Array }>,
): Material {
  const slot = document
    .createMaterial(plan.name)
    .setMetallicFactor(plan.metallic ?? 1)
    .setRoughnessFactor(plan.roughness ?? 1)
    .setDoubleSided(plan.doubleSided ?? false)
  if (plan.alpha) slot.setAlphaMode(plan.alpha)
  if (plan.colour) slot.setBaseColorFactor(plan.colour)
  if (plan.emissive) slot.setEmissiveFactor(plan.emissive)
  if (plan.tints) noteOfSlot(slot, { tints: plan.tints })
  if (plan.glass)
    slot.setExtension(
      'KHR_materials_transmission',
      document.createExtension(KHRMaterialsTransmission).createTransmission().setTransmissionFactor(0.9),
    )
  const file = (name: string): Texture => {
    const known = [...targets].find(([t]) => t.getName() === name)?.[0]
    if (known) return known
    const texture = document.createTexture(name).setMimeType('image/png')
    targets.set(texture, { uri: `${folder}${name}.png` })
    return texture
  }
  if (plan.specularGloss) {
    const old = document.createExtension(KHRMaterialsPBRSpecularGlossiness).createPBRSpecularGlossiness()
    slot.setExtension(
      'KHR_materials_pbrSpecularGlossiness',
      old
        .setDiffuseTexture(file(plan.specularGloss.diffuse))
        .setSpecularGlossinessTexture(file(plan.specularGloss.specular)),
    )
  }
  if (!plan.textures) return slot
  const from = plan.textures
  if ('embed' in from) {
    const inside = (role: PaintedRole): Texture => {
      const texture = document.createTexture(from.embed[role].name).setMimeType('image/png')
      targets.set(texture, { embed: from.embed[role].bytes })
      return texture
    }
    const orm = inside('orm')
    return slot
      .setBaseColorTexture(inside('basecolor'))
      .setNormalTexture(inside('normal'))
      .setMetallicRoughnessTexture(orm)
      .setOcclusionTexture(orm)
  }
  const nameOf = (role: PaintedRole): string | null =>
    from.files?.[role] === undefined ? `${from.stem}_${role}` : from.files[role]!
  const [basecolor, normal, orm] = [nameOf('basecolor'), nameOf('normal'), nameOf('orm')]
  if (basecolor) slot.setBaseColorTexture(file(basecolor))
  if (normal) slot.setNormalTexture(file(normal))
  if (orm) slot.setMetallicRoughnessTexture(file(orm))
  if (orm?.endsWith('_orm')) slot.setOcclusionTexture(file(orm))
  return slot
}

function addVariants(
  document: Document,
  variants: NonNullable<MeshPlan['variants']>,
  slots: ReadonlyMap<string, Material>,
): void {
  const extension = document.createExtension(KHRMaterialsVariants)
  const made = variants.map((v) => ({ ...v, variant: extension.createVariant(v.name) }))
  for (const primitive of document
    .getRoot()
    .listMeshes()
    .flatMap((m) => m.listPrimitives())) {
    const own = made.filter((v) => slots.get(v.slot) === primitive.getMaterial())
    if (own.length === 0) continue
    const list = extension.createMappingList()
    for (const { wears, variant } of own)
      list.addMapping(extension.createMapping().setMaterial(slots.get(wears)!).addVariant(variant))
    primitive.setExtension('KHR_materials_variants', list)
  }
}

function addStray(document: Document, kind: 'light' | 'camera', number: number): void {
  const node = document.createNode(kind === 'camera' ? 'from_the_quay' : `scene_${kind}_${number + 1}`)
  if (kind === 'camera')
    node
      .setCamera(document.createCamera(node.getName()).setType('perspective').setYFov(0.7).setZNear(0.1))
      .setTranslation([3.6, 2.4, 3.6])
      .setRotation(lookingAround(45, -13))
  else node.setTranslation([2, 3, 2])
  if (kind === 'light')
    node.setExtension(
      'KHR_lights_punctual',
      document
        .createExtension(KHRLightsPunctual)
        .createLight(node.getName())
        .setType('point')
        .setIntensity(60),
    )
  document.getRoot().listScenes()[0]!.addChild(node)
}

/** Turned about the upright axis, then up or down, in degrees. */
function lookingAround(heading: number, pitch: number): [number, number, number, number] {
  const [h, p] = [(heading * Math.PI) / 360, (pitch * Math.PI) / 360]
  return [
    Math.cos(h) * Math.sin(p),
    Math.sin(h) * Math.cos(p),
    -Math.sin(h) * Math.sin(p),
    Math.cos(h) * Math.cos(p),
  ]
}

function addClip(
  document: Document,
  { name, seconds, rise }: NonNullable<MeshPlan['clip']>,
  node: ReturnType<Document['createNode']>,
): void {
  const buffer = document.getRoot().listBuffers()[0]!
  const [x, y, z] = node.getTranslation()
  const input = document
    .createAccessor()
    .setType('SCALAR')
    .setArray(new Float32Array([0, seconds / 2, seconds]))
    .setBuffer(buffer)
  const output = document
    .createAccessor()
    .setType('VEC3')
    .setArray(new Float32Array([x, y, z, x, y + rise, z, x, y + rise * 0.2, z]))
    .setBuffer(buffer)
  const sampler = document.createAnimationSampler().setInput(input).setOutput(output)
  document
    .createAnimation(name)
    .setExtras({ loop: true })
    .addSampler(sampler)
    .addChannel(
      document.createAnimationChannel().setTargetNode(node).setTargetPath('translation').setSampler(sampler),
    )
}
