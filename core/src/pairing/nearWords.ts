/** Words for what things are made of; those of a line are said of one another. */
const KINDS: readonly (readonly string[])[] = [
  ['wood', 'oak', 'pine', 'timber', 'plank', 'planks', 'board', 'teak', 'bark'],
  [
    'metal',
    'iron',
    'steel',
    'brass',
    'copper',
    'bronze',
    'zinc',
    'tin',
    'chrome',
    'rust',
    'alu',
    'aluminium',
  ],
  ['rope', 'hemp', 'line', 'twine', 'cord'],
  ['cloth', 'canvas', 'fabric', 'sail', 'linen', 'tarp'],
  ['stone', 'rock', 'granite', 'slate', 'concrete', 'brick'],
  ['glass', 'lens', 'pane', 'window'],
  ['lamp', 'light', 'lantern', 'bulb', 'glow'],
  ['leaf', 'leaves', 'blade', 'frond', 'foliage'],
  ['paint', 'painted', 'coat', 'coating', 'lacquer'],
  ['rubber', 'tyre', 'tire'],
]

const kindOf = new Map(KINDS.flatMap((words, kind) => words.map((word) => [word, kind] as const)))

const PLURAL = 0.97,
  IN_ONE = 0.8,
  SHORT = 0.75,
  SKELETON = 0.6,
  SAME_KIND = 0.35

/** How surely two small words mean one thing, 0 to 1. */
export type WordLikeness = (a: string, b: string) => number

/**
 * How surely two small words mean one thing: the same, one in the plural, within one edit of each other, one cut
 * short, one without its vowels, one within the other, or two words for one kind of material.
 */
export const nearWords: WordLikeness = (a, b) => {
  if (a === b) return 1
  if (a.length < 3 || b.length < 3) return 0
  const [short, long] = a.length <= b.length ? [a, b] : [b, a]
  if (long === `${short}s` || long === `${short}es`) return PLURAL
  if (short.length >= 4 && long.length - short.length <= 1 && withinOneEdit(short, long))
    return short.length >= 6 ? 0.92 : short.length === 5 ? 0.86 : 0.6
  if (short.length >= 4 && (long.startsWith(short) || long.endsWith(short))) return IN_ONE
  if (long.startsWith(short) && short.length * 2 >= long.length) return SHORT
  if (isSkeleton(short, long)) return SKELETON
  const kind = kindOf.get(short)
  return kind !== undefined && kind === kindOf.get(long) ? SAME_KIND : 0
}

/**
 * The same for the words of one delivery, looked up: only words that begin or end alike, or that are of one kind
 * of material, are compared at all.
 */
export function likenessAmong(words: Iterable<string>): WordLikeness {
  const table = new Map<string, Map<string, number>>()
  const groups = new Map<string, string[]>()
  for (const word of new Set(words)) {
    if (word.length < 3) continue
    table.set(word, new Map())
    const kind = kindOf.get(word)
    const keys = [`begins ${word[0]}`, ...(word.length >= 4 ? [`ends ${word.slice(-4)}`] : [])]
    if (kind !== undefined) keys.push(`kind ${kind}`)
    for (const key of keys) {
      const group = groups.get(key) ?? []
      for (const other of group) {
        const near = nearWords(word, other)
        if (near === 0) continue
        table.get(word)!.set(other, near)
        table.get(other)!.set(word, near)
      }
      group.push(word)
      groups.set(key, group)
    }
  }
  return (a, b) => (a === b ? 1 : (table.get(a)?.get(b) ?? 0))
}

/** Whether one letter more, less, other, or two neighbours exchanged make one word of the other. */
export function withinOneEdit(a: string, b: string): boolean {
  const [short, long] = a.length <= b.length ? [a, b] : [b, a]
  if (long.length - short.length > 1) return false
  let front = 0
  while (front < short.length && short[front] === long[front]) front++
  let back = 0
  while (back < short.length - front && short[short.length - 1 - back] === long[long.length - 1 - back])
    back++
  const left = short.length - front - back
  if (left === 0 || (left === 1 && short.length === long.length)) return true
  return (
    left === 2 &&
    short.length === long.length &&
    short[front] === long[front + 1] &&
    short[front + 1] === long[front]
  )
}

/** Whether `short` is `long` without some of its vowels and double letters: `brd` of `board`. */
function isSkeleton(short: string, long: string): boolean {
  if (short[0] !== long[0] || short.length < 3 || short.length === long.length) return false
  let k = 0
  for (let i = 0; i < long.length; i++) {
    if (long[i] === short[k]) k++
    else if (!'aeiouy'.includes(long[i]!) && long[i] !== long[i - 1]) return false
  }
  return k === short.length
}
