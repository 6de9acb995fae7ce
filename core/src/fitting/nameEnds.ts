import type { PatternKind } from '@stern-gate/contract'
import { counted } from './nameParts'

/** What stands in front of or behind the words of a name, as a piece of a pattern. */
export interface NameEnd {
  kind: 'number' | 'role' | 'variant' | 'constant' | 'choice'
  /** The piece without its separator. */
  piece: string
  optional: boolean
  takes: (word: string) => boolean
}

/** Of the names that many have what is part of the custom; the others are strays. */
const MOST = 0.8
/** Fewer than this have it by chance. */
const FEW = 0.1
/** Nearly all of them. */
const ALL = 0.95
/** A word that several things end in says what kind they are. */
const REPEATED = 3
const MOST_CODES = 4
const LONGEST_CODE = 4

const NUMBERED = /^([A-Za-z]*)(\d{1,4})$/

/** A number at the end, with letters in front of it that are always the same (`lod0`, `07`). */
export function numberAtEnd(ends: readonly string[], kind: PatternKind): NameEnd | null {
  const numbered = ends.filter((w) => NUMBERED.test(w))
  const [letters] = counted(numbered.map((w) => NUMBERED.exec(w)![1]!))
  if (!letters || letters[1] < ends.length * FEW) return null
  // A figure behind a word of its own is part of the word, unless that word marks a level or a collision mesh
  if (letters[0] !== '' && letters[1] < ends.length * MOST && kind !== 'lod' && kind !== 'collision')
    return null
  const own = numbered.filter((w) => NUMBERED.exec(w)![1] === letters[0]),
    [width] = counted(own.map((w) => String(NUMBERED.exec(w)![2]!.length)))
  const fixed = Number(width![0]) > 1 && width![1] >= own.length * ALL
  const figures = fixed ? Number(width![0]) : null
  return {
    kind: 'number',
    piece: `${letters[0]}{n:${'#'.repeat(figures ?? 1)}}`,
    optional: letters[1] < ends.length * MOST,
    takes: (word) => {
      const match = NUMBERED.exec(word)
      return match !== null && match[1] === letters[0] && (figures === null || match[2]!.length === figures)
    },
  }
}

/** A single letter that tells variants of one thing apart. */
export function variantAtEnd(ends: readonly string[]): NameEnd | null {
  for (const [shape, test] of [
    ['[a-z]', /^[a-z]$/],
    ['[A-Z]', /^[A-Z]$/],
  ] as const) {
    const count = ends.filter((w) => test.test(w)).length
    // One letter again and again is a mark, and no variant
    const [commonest] = counted(ends.filter((w) => test.test(w)))
    if (count < ends.length * FEW || !commonest || commonest[1] > count * MOST) continue
    return {
      kind: 'variant',
      piece: `{variant:${shape}}`,
      optional: count < ends.length * ALL,
      takes: (word) => test.test(word),
    }
  }
  return null
}

/** Words for what a texture carries: known ones, and those that several things end in. */
export function roleAtEnd(
  names: readonly (readonly string[])[],
  isRole: (word: string) => boolean,
): NameEnd | null {
  const stems = new Map<string, Set<string>>()
  for (const words of names) {
    const end = words.at(-1)!
    if (words.length < 2 || !isSafe(end) || /^\d+$/.test(end)) continue
    stems.set(end, (stems.get(end) ?? new Set()).add(words.slice(0, -1).join(' ')))
  }
  const shared = sharedStems(stems)
  const taken = [...stems]
    .filter(
      ([word, of]) => isRole(word) || (of.size >= REPEATED && [...of].some((s) => (shared.get(s) ?? 0) > 1)),
    )
    .map(([word]) => word)
  const known = new Set(taken),
    count = names.filter((words) => words.length > 1 && known.has(words.at(-1)!)).length
  if (count < names.length * 0.6 || taken.length === 0 || taken.length > 40) return null
  return {
    kind: 'role',
    piece: `{role:${taken.sort((a, b) => stems.get(b)!.size - stems.get(a)!.size || (a < b ? -1 : 1)).join('|')}}`,
    optional: false,
    takes: (word) => known.has(word),
  }
}

/** How many ends each stem has: maps of one thing share theirs. */
function sharedStems(stems: ReadonlyMap<string, ReadonlySet<string>>): ReadonlyMap<string, number> {
  const counts = new Map<string, number>()
  for (const of of stems.values()) for (const stem of of) counts.set(stem, (counts.get(stem) ?? 0) + 1)
  return counts
}

/** A word that nearly all names begin or end with, or a few short ones of which one always stands there. */
export function constantAt(words: readonly string[]): NameEnd | null {
  const all = counted(words),
    [first] = all
  if (!first) return null
  if (first[1] >= words.length * MOST && isSafe(first[0]))
    return { kind: 'constant', piece: first[0], optional: false, takes: (word) => word === first[0] }
  const codes = all.filter(
      ([word, n]) => word.length <= LONGEST_CODE && n >= words.length * FEW && isSafe(word),
    ),
    covered = codes.reduce((sum, [, n]) => sum + n, 0)
  if (codes.length < 2 || codes.length > MOST_CODES || covered < words.length * MOST) return null
  const known = new Set(codes.map(([word]) => word))
  return {
    kind: 'choice',
    piece: `{kind:${[...known].sort().join('|')}}`,
    optional: false,
    takes: (word) => known.has(word),
  }
}

/** Letters and figures stand for themselves in a pattern. */
const isSafe = (text: string): boolean => /^[A-Za-z0-9]*$/.test(text)
