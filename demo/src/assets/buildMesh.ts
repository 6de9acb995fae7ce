import { Document, type Material, type Texture } from '@gltf-transform/core'
import { KHRMaterialsTransmission } from '@gltf-transform/extensions'
import { writeGlb } from '@stern-gate/core'
import type { Piece, Vec3 } from '../shape/piece'

export interface SlotPlan {
  name: string
  /** Texture file stem without the role, or pictures to embed. */
  textures?: { stem: string } | { embed: Record<'basecolor' | 'normal' | 'orm', { name: string; bytes: Uint8Array }> }
  alpha?: 'OPAQUE' | 'MASK' | 'BLEND'
  doubleSided?: boolean
  colour?: [number, number, number, number]
  roughness?: number
  metallic?: number
  glass?: boolean
  emissive?: Vec3
}

export interface PartPlan {
  name: string
  /** Surface by slot name; '' has no slot. */
  surface: Record<string, Piece>
  uvChannels: 0 | 1 | 2
  translation?: Vec3
  rotation?: [number, number, number, number]
  scale?: Vec3
  parent?: string
}

/** Surface of a collision mesh: it needs no slot. */
export const withoutSlot = (piece: Piece): Record<string, Piece> => ({ '': piece })

export interface MeshPlan { slots: SlotPlan[]; parts: PartPlan[]; pictures?: string }

/** Writes a planned mesh as GLB. `pictures` is the relative folder of its texture files. */
export async function buildMesh(plan: MeshPlan): Promise<Uint8Array> {
  const document = new Document()
  document.getRoot().getAsset().generator = 'Gullwick sample maker'
  const buffer = document.createBuffer()
  const scene = document.createScene('scene')
  const targets = new Map<Texture, { uri: string } | { embed: Uint8Array }>()
  const slots = new Map(plan.slots.map((slot) => [slot.name, makeSlot(document, slot, plan.pictures ?? '', targets)]))
  const nodes = new Map<string, ReturnType<Document['createNode']>>()
  for (const part of plan.parts) {
    const mesh = document.createMesh(part.name)
    for (const [slot, piece] of Object.entries(part.surface)) {
      const array = (values: number[], type: 'VEC2' | 'VEC3') => document.createAccessor().setType(type).setArray(new Float32Array(values)).setBuffer(buffer)
      const count = piece.positions.length / 3
      const primitive = document.createPrimitive()
        .setAttribute('POSITION', array(piece.positions, 'VEC3'))
        .setAttribute('NORMAL', array(piece.normals, 'VEC3'))
        .setIndices(document.createAccessor().setType('SCALAR').setArray(count > 65535 ? new Uint32Array(piece.indices) : new Uint16Array(piece.indices)).setBuffer(buffer))
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
  return writeGlb(document, (picture) => targets.get(picture)!)
}

function makeSlot(document: Document, plan: SlotPlan, folder: string, targets: Map<Texture, { uri: string } | { embed: Uint8Array }>): Material {
  const slot = document.createMaterial(plan.name).setMetallicFactor(plan.metallic ?? 1).setRoughnessFactor(plan.roughness ?? 1).setDoubleSided(plan.doubleSided ?? false)
  if (plan.alpha) slot.setAlphaMode(plan.alpha)
  if (plan.colour) slot.setBaseColorFactor(plan.colour)
  if (plan.emissive) slot.setEmissiveFactor(plan.emissive)
  if (plan.glass) slot.setExtension('KHR_materials_transmission', document.createExtension(KHRMaterialsTransmission).createTransmission().setTransmissionFactor(0.9))
  if (!plan.textures) return slot
  const from = plan.textures
  const picture = (role: 'basecolor' | 'normal' | 'orm'): Texture => {
    const texture = document.createTexture('embed' in from ? from.embed[role].name : `${from.stem}_${role}`).setMimeType('image/png')
    targets.set(texture, 'embed' in from ? { embed: from.embed[role].bytes } : { uri: `${folder}${from.stem}_${role}.png` })
    return texture
  }
  const orm = picture('orm')
  return slot.setBaseColorTexture(picture('basecolor')).setNormalTexture(picture('normal')).setMetallicRoughnessTexture(orm).setOcclusionTexture(orm)
}
