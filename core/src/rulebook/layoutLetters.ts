import type { TextureRole } from '@stern-gate/contract'

/** What a channel of a packed map carries, by the letter that layouts are written with; the others carry nothing. */
export const layoutLetters: Readonly<Record<string, { role: TextureRole; inverted: boolean }>> = {
  o: { role: 'occlusion', inverted: false },
  a: { role: 'occlusion', inverted: false },
  r: { role: 'roughness', inverted: false },
  g: { role: 'roughness', inverted: true },
  s: { role: 'roughness', inverted: true },
  m: { role: 'metallic', inverted: false },
  h: { role: 'height', inverted: false },
}

export const layoutWords = 'o or a occlusion, r roughness, g or s gloss, m metallic, h height, x nothing'
