/**
 * The words of an option as a set; options are settled once for a rulebook, and a library asks for the same
 * ones.
 */
export function wordSet(words: readonly string[]): ReadonlySet<string> {
  const known = sets.get(words)
  if (known) return known
  const made = new Set(words)
  sets.set(words, made)
  return made
}

const sets = new WeakMap<readonly string[], ReadonlySet<string>>()
