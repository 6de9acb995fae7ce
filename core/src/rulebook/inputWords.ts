import type { SlotInput, TextureRole } from '@stern-gate/contract'

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

/** Inputs that glTF has not and slots note, in words. */
const notedWords: Readonly<Record<string, string>> = {
  height: inputWords.height,
  tint: inputWords.tint,
  layer: 'layer',
  layerNormal: 'layer normal',
  layerRoughness: 'layer roughness',
  detail: 'detail',
  detailNormal: 'detail normal',
}

/** Inputs of a file in words; one that has no role of its own is called by its field. */
export const slotInputWords: Readonly<Record<Exclude<SlotInput, 'other'>, string>> = {
  basecolor: inputWords.basecolor,
  normal: inputWords.normal,
  occlusion: inputWords.occlusion,
  'metallic-roughness': 'roughness, metallic',
  orm: inputWords.orm,
  emissive: inputWords.emissive,
}

/** What a texture feeds, in words. */
export const wordsOfInput = (input: SlotInput, field: string): string =>
  input === 'other' ? (notedWords[field] ?? field) : slotInputWords[input]
