import { textureRoles, type Rulebook, type TextureRole } from '@stern-gate/contract'
import { fileStem } from '../read/deliveryPath'
import { nameWords } from './nameWords'

/** Role that a texture's name claims: the last part that is a role or one of its synonyms; null when none is. */
export function roleOfName(rulebook: Rulebook, name: string): TextureRole | null {
  const words = nameWords(fileStem(name))
  for (let i = words.length - 1; i >= 0; i--) {
    const pair = i > 0 ? words[i - 1]! + words[i]! : ''
    for (const role of textureRoles) {
      const { synonyms } = rulebook.roles[role]
      if (words[i] === role || pair === role || synonyms.includes(words[i]!) || (pair !== '' && synonyms.includes(pair))) return role
    }
  }
  return null
}
