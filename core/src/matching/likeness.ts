/**
 * How alike two names are, 0 to 1: twice the pairs of letters that both have over all pairs (Dice, Measures
 * of the amount of ecologic association between species, 1945); capitals and what is no letter or figure do
 * not count.
 */
export function likeness(a: string, b: string): number {
  const first = pairsOf(a),
    second = pairsOf(b)
  let shared = 0
  for (const [pair, count] of first) shared += Math.min(count, second.get(pair) ?? 0)
  const all = sizeOf(first) + sizeOf(second)
  return all === 0 ? 0 : (2 * shared) / all
}

function pairsOf(text: string): Map<string, number> {
  const plain = text.toLowerCase().replace(/[^\p{L}\p{N}]+/gu, ''),
    pairs = new Map<string, number>()
  for (let i = 0; i + 1 < plain.length; i++)
    pairs.set(plain.slice(i, i + 2), (pairs.get(plain.slice(i, i + 2)) ?? 0) + 1)
  return pairs
}

const sizeOf = (pairs: ReadonlyMap<string, number>): number =>
  [...pairs.values()].reduce((sum, n) => sum + n, 0)
