import type { Material, Texture, TextureInfo } from '@gltf-transform/core'

/** The inputs that glTF itself has; `roughness` is that of roughness and metallic. */
export const coreInputs = ['basecolor', 'normal', 'roughness', 'occlusion', 'emissive'] as const
export type CoreInput = (typeof coreInputs)[number]

export interface SlotInputTexture {
  input: CoreInput
  texture: Texture
  info: TextureInfo
}

/** The textures that feed a slot by glTF's own inputs; those of extensions are not among them. */
export function inputTextures(slot: Material): SlotInputTexture[] {
  const all: [CoreInput, Texture | null, TextureInfo | null][] = [
    ['basecolor', slot.getBaseColorTexture(), slot.getBaseColorTextureInfo()],
    ['normal', slot.getNormalTexture(), slot.getNormalTextureInfo()],
    ['roughness', slot.getMetallicRoughnessTexture(), slot.getMetallicRoughnessTextureInfo()],
    ['occlusion', slot.getOcclusionTexture(), slot.getOcclusionTextureInfo()],
    ['emissive', slot.getEmissiveTexture(), slot.getEmissiveTextureInfo()],
  ]
  return all.flatMap(([input, texture, info]) => (texture && info ? [{ input, texture, info }] : []))
}
