import { textureRoles, type Rulebook } from '@stern-gate/contract'

/** What is asked of a rulebook thousands of times, worked out once. */
export interface CompiledRulebook {
  /** Place in the list of roles by role and synonym; where two roles claim a word the first one has it. */
  roles: ReadonlyMap<string, number>
  /** Order of packed channels by a word that stands for it. */
  layouts: ReadonlyMap<string, string>
  classes: {
    /** Class by the folder that gives it, in small letters. */
    folders: ReadonlyMap<string, string>
    /** Place in `order` by a word of a name. */
    words: ReadonlyMap<string, number>
    order: readonly string[]
  }
  /** What higher floors work out of it, by a key of their own. */
  more: Map<string, unknown>
}

/** A rulebook is never edited in place. */
const compiled = new WeakMap<Rulebook, CompiledRulebook>()

/** The same object for the same rulebook. */
export function compileRulebook(rulebook: Rulebook): CompiledRulebook {
  const known = compiled.get(rulebook)
  if (known) return known
  const made = {
    roles: rolesByWord(rulebook),
    layouts: layoutsByWord(rulebook),
    classes: classIndex(rulebook),
    more: new Map(),
  }
  compiled.set(rulebook, made)
  return made
}

function rolesByWord(rulebook: Rulebook): ReadonlyMap<string, number> {
  const ranks = new Map<string, number>()
  textureRoles.forEach((role, rank) => {
    for (const word of [role, ...rulebook.roles[role].synonyms]) if (!ranks.has(word)) ranks.set(word, rank)
  })
  const packed = textureRoles.indexOf('orm')
  for (const { words } of Object.values(rulebook.layouts))
    for (const word of words) if (!ranks.has(word)) ranks.set(word, packed)
  return ranks
}

const layoutsByWord = ({ layouts }: Rulebook): ReadonlyMap<string, string> =>
  new Map(Object.entries(layouts).flatMap(([order, { words }]) => words.map((word) => [word, order])))

function classIndex(rulebook: Rulebook): CompiledRulebook['classes'] {
  const folders = new Map<string, string>(),
    words = new Map<string, number>()
  Object.entries(rulebook.classes).forEach(([name, { folders: own, words: ownWords }], place) => {
    for (const folder of [name, ...own]) if (!folders.has(folder)) folders.set(folder, name)
    for (const word of ownWords) if (!words.has(word)) words.set(word, place)
  })
  return { folders, words, order: Object.keys(rulebook.classes) }
}
