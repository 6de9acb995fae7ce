import { isMark } from './splitName'

/** How much a word tells, 0 to 1, among names that are told apart by it. */
export type Rarity = (word: string) => number

const LEAST = 0.05
/** Numbers and letters of variants tell less than words: everybody counts from one. */
const OF_MARKS = 0.6
/** Among fewer names a word that all have may still be what they are. */
const MANY = 3

/**
 * Rareness of words among lists of names, each list by itself: ln((n + 1) / names with the word) over ln(n + 1), as
 * in the weighting of terms by how few documents have them (Spärck Jones 1972). A word that several lists have
 * counts as where it tells least: what every mesh is called tells nothing of one. What all of three names and more
 * have in every list that has it tells nothing at all.
 */
export function rarityAmong(lists: readonly (readonly (readonly string[])[])[]): Rarity {
  const least = new Map<string, number>(),
    sometimes = new Set<string>()
  for (const names of lists) {
    const counts = new Map<string, number>()
    for (const words of names) for (const w of new Set(words)) counts.set(w, (counts.get(w) ?? 0) + 1)
    const whole = Math.log(names.length + 1)
    for (const [word, count] of counts) {
      if (count < names.length || names.length < MANY) sometimes.add(word)
      const tells = Math.log((names.length + 1) / count) / whole
      least.set(word, Math.min(least.get(word) ?? 1, tells))
    }
  }
  return (word) => {
    const tells = least.get(word)
    if (tells !== undefined && !sometimes.has(word)) return 0
    return Math.max(LEAST, tells ?? 1) * (isMark(word) ? OF_MARKS : 1)
  }
}
