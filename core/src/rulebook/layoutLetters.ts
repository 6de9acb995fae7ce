import { CHANNEL_ORDER, type TextureRole } from '@stern-gate/contract'

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

/** What a letter of a layout stands for, in a word. */
export const letterWord = (letter: string): string => {
  const meant = layoutLetters[letter]
  return !meant ? 'anything' : meant.inverted ? 'gloss' : meant.role
}

export const layoutWords = 'o or a occlusion, r roughness, g or s gloss, m metallic, h height, x nothing'

/** Letters that look alike in pixels, as one: occlusion by either letter, gloss as roughness. */
export const plainLetter = (letter: string): string =>
  letter === 'a' ? 'o' : letter === 'g' || letter === 's' ? 'r' : letter

/** As glTF has it: occlusion in R, roughness in G, metallic in B. */
const AS_GLTF = new Set(['orm', 'arm'])

/**
 * Order of the channels of a packed map by a word of one letter a channel (see layoutLetters), each said once; glTF's
 * own is orm, however its occlusion is written. Null for other words.
 */
export function speltLayout(word: string): string | null {
  if (!CHANNEL_ORDER.test(word)) return null
  const letters = new Set([...word].map(plainLetter))
  const each = letters.size === word.length && letters.has('r') && letters.has('m')
  if (!each || !(letters.has('o') || letters.has('x') || letters.has('h'))) return null
  return AS_GLTF.has(word) ? 'orm' : word
}

/** The same, and null for glTF's own order, too: what has to be repacked. */
export const packedLayout = (word: string): string | null => (AS_GLTF.has(word) ? null : speltLayout(word))
