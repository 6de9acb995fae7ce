import type { ReadSlot, WordWeights } from './nameScore'
import type { TextureSet } from './textureSets'

/** So many sets are looked at closely for each slot. */
const MOST = 16

/** By slot: places of the sets that share the most telling words with it, the best first. */
export function candidateSets(
  slots: readonly ReadSlot[],
  sets: readonly TextureSet[],
  { rarity, like }: WordWeights,
): number[][] {
  const byWord = new Map<string, number[]>()
  for (const { words, folder, place } of sets)
    for (const word of new Set([...words, ...folder])) {
      const known = byWord.get(word)
      if (known) known.push(place)
      else byWord.set(word, [place])
    }
  const vocabulary = [...byWord.keys()]
  const nearOf = new Map<string, { places: readonly number[]; weight: number }[]>()
  const matchesOf = (word: string) => {
    const known = nearOf.get(word)
    if (known) return known
    const found = vocabulary.flatMap((other) => {
      const near = like(word, other)
      return near === 0 ? [] : [{ places: byWord.get(other)!, weight: near * rarity(other) }]
    })
    nearOf.set(word, found)
    return found
  }
  const sums = new Float64Array(sets.length)
  return slots.map((slot) => {
    const touched = new Set<number>()
    for (const word of new Set([...slot.own, ...slot.asset, ...slot.nodes, ...slot.folder]))
      for (const { places, weight } of matchesOf(word))
        for (const place of places) {
          sums[place]! += weight
          touched.add(place)
        }
    const best = [...touched].sort((a, b) => sums[b]! - sums[a]! || a - b).slice(0, MOST)
    for (const place of touched) sums[place] = 0
    return best
  })
}
