import { textureRoles, type Rulebook, type TextureRole } from '@stern-gate/contract'
import { fileStem } from '../read/deliveryPath'
import { nameWords } from './nameWords'

/**
 * Role that a texture's name claims: the last part that is a role or one of its synonyms; null when none is.
 */
export const roleOfName = (rulebook: Rulebook, name: string): TextureRole | null =>
  roleOfWords(rulebook, nameWords(fileStem(name)))

/** The same of the words of a name without its extension. */
export function roleOfWords(rulebook: Rulebook, words: readonly string[]): TextureRole | null {
  const ranks = rolesByWord(rulebook)
  for (let i = words.length - 1; i >= 0; i--) {
    const own = ranks.get(words[i]!),
      pair = i > 0 ? ranks.get(words[i - 1]! + words[i]!) : undefined
    const rank = Math.min(own ?? Infinity, pair ?? Infinity)
    if (rank < Infinity) return textureRoles[rank]!
  }
  return null
}

/**
 * Place in the list of roles by role and synonym; where two roles claim a word the first one has it. A
 * rulebook is never edited in place.
 */
const known = new WeakMap<Rulebook, ReadonlyMap<string, number>>()

function rolesByWord(rulebook: Rulebook): ReadonlyMap<string, number> {
  const before = known.get(rulebook)
  if (before) return before
  const ranks = new Map<string, number>()
  textureRoles.forEach((role, rank) => {
    for (const word of [role, ...rulebook.roles[role].synonyms]) if (!ranks.has(word)) ranks.set(word, rank)
  })
  known.set(rulebook, ranks)
  return ranks
}
