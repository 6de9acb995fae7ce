import type { TextureRole } from '@stern-gate/contract'

/** Inputs in words, as they stand within a sentence. */
export const inputWords: Readonly<Record<TextureRole, string>> = {
  basecolor: 'base colour',
  normal: 'normal',
  orm: 'packed',
  occlusion: 'occlusion',
  roughness: 'roughness',
  metallic: 'metallic',
  emissive: 'emissive',
  opacity: 'opacity',
  height: 'height',
  tint: 'mask',
}
