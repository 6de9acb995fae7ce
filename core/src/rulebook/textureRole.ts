import { textureRoles, type Rulebook, type TextureRole } from '@stern-gate/contract'
import { fileStem } from '../read/deliveryPath'
import { compileRulebook } from './compiledRulebook'
import { speltLayout } from './layoutLetters'
import { isMeaningful, nameWords } from './nameWords'

/**
 * Role that a texture's name claims: its last telling word, where that is a role or one of its synonyms. Of
 * words further in front only those count that name nothing else; a rough wall or a colour chart is a subject,
 * and claims nothing. Null when there is none.
 */
export const roleOfName = (rulebook: Rulebook, name: string): TextureRole | null =>
  roleOfWords(rulebook, nameWords(fileStem(name)))

/** The same of the words of a name without its extension. */
export function roleOfWords(rulebook: Rulebook, words: readonly string[]): TextureRole | null {
  const ranks = compileRulebook(rulebook).roles
  const last = lastTelling(words)
  if (last < 0) return null
  const own = ranks.get(words[last]!),
    pair = last > 0 ? ranks.get(words[last - 1]! + words[last]!) : undefined
  const spelt = speltLayout(words[last]!) === null ? undefined : textureRoles.indexOf('orm')
  const rank = Math.min(own ?? spelt ?? Infinity, pair ?? Infinity)
  if (rank < Infinity) return textureRoles[rank]!
  for (let i = last - 1; i >= 0; i--) {
    const known = NOTHING_ELSE.has(words[i]!) ? ranks.get(words[i]!) : undefined
    if (known !== undefined) return textureRoles[known]!
  }
  return null
}

/**
 * The order in which the last telling word says that channels are packed: a word of the rulebook's layouts, or the
 * letters themselves. Null where it says none.
 */
export function layoutOfWords(rulebook: Rulebook, words: readonly string[]): string | null {
  const word = words[lastTelling(words)]
  return word === undefined ? null : (compileRulebook(rulebook).layouts.get(word) ?? speltLayout(word))
}

/** The last word that may say what a texture carries; the first where none does, −1 of no words. */
function lastTelling(words: readonly string[]): number {
  let last = words.length - 1
  while (last > 0 && tellsNothing(words[last]!)) last--
  return last
}

/** Words that are used for maps only, never for what is painted on them. */
const NOTHING_ELSE = new Set([
  'basecolor',
  'basecolour',
  'albedo',
  'diffuse',
  'normal',
  'normals',
  'normalmap',
  'nrm',
  'orm',
  'ao',
  'ambientocclusion',
  'occlusion',
  'roughness',
  'metallic',
  'metalness',
  'emissive',
  'emission',
  'opacity',
  'displacement',
  'glossiness',
  'smoothness',
])

/** Words behind the role that say how the map was made, stored or numbered, and not what it carries. */
export const storageWords: ReadonlySet<string> = new Set([
  'map',
  'maps',
  'tex',
  'texture',
  'image',
  'img',
  'srgb',
  'linear',
  'lin',
  'raw',
  'gl',
  'ogl',
  'opengl',
  'dx',
  'directx',
  'low',
  'high',
  'baked',
  'bake',
  'tile',
  'tiled',
  'tileable',
  'seamless',
  'inverted',
  'png',
  'tga',
  'jpg',
])

/** Numbers, sizes such as 2k, single letters of a variant, empty words. */
const tellsNothing = (word: string): boolean =>
  storageWords.has(word) || !isMeaningful(word) || /^(\d+k?|[a-z]\d*|\d+bit)$/.test(word)
