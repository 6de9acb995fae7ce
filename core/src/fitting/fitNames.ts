import type { PatternKind } from '@stern-gate/contract'
import { compilePattern, fitsPattern, OR } from '../rulebook/pattern'
import { caseOf, caseTitles, isWritten, letterCases, wordShapes, type LetterCase } from './letterCase'
import { constantAt, numberAtEnd, roleAtEnd, variantAtEnd, type NameEnd } from './nameEnds'
import { commonSeparator, counted, NO_SEPARATOR, splitName } from './nameParts'

/** A custom by which names are made, as far as they have one. */
export interface NameFit {
  /** Null: no pattern fits enough of them. */
  pattern: string | null
  /** Different names that fit it, of how many. */
  fits: number
  of: number
  misfits: string[]
  /** What tells two patterns apart; null for one. */
  apart: string | null
  /** Ways of writing that were found, the commonest first. */
  groups: { words: string; count: number; examples: string[] }[]
}

/** Nothing is proposed that fits less of what it is for. */
export const LEAST_FIT = 0.8
/** Of fewer names nothing is concluded. */
const LEAST_NAMES = 5
/** Two patterns are worth their reading where they fit so much more than one. */
const WORTH_TWO = 0.08
const EXAMPLES = 3

/**
 * Finds the pattern that names of one kind are made by: separator, letters, what stands first and last, numbers
 * and roles. The same for any order of names; doubled ones count once. Where one pattern fits too little, two
 * with what tells them apart.
 */
export function fitNames(
  given: readonly string[],
  kind: PatternKind,
  isRole: (word: string) => boolean = () => false,
): NameFit {
  const names = [...new Set(given)].filter((n) => n !== '').sort()
  const groups = groupsOf(names)
  const none: NameFit = { pattern: null, fits: 0, of: names.length, misfits: names, apart: null, groups }
  if (names.length < LEAST_NAMES) return none
  const one = held(patternOfGroup(names, kind, isRole), names)
  const two = (one?.fits ?? 0) < names.length * (1 - WORTH_TWO) ? twoPatterns(names, kind, isRole) : null
  const best =
    two && (!one || two.fits > one.fits + names.length * WORTH_TWO) ? two : one && { ...one, apart: null }
  if (!best || best.fits < names.length * LEAST_FIT) return none
  return { ...best, of: names.length, groups }
}

interface Held {
  pattern: string
  fits: number
  misfits: string[]
}

function held(pattern: string | null, names: readonly string[]): Held | null {
  const compiled = pattern === null ? null : compilePattern(pattern)
  if (!compiled?.ok) return null
  const misfits = names.filter((n) => !fitsPattern(compiled.value, n))
  return { pattern: pattern!, fits: names.length - misfits.length, misfits }
}

const TILE = /[._](1\d{3})$/

/** One pattern for names that are made alike, but for strays; null where they have nothing in common. */
function patternOfGroup(
  all: readonly string[],
  kind: PatternKind,
  isRole: (word: string) => boolean,
): string | null {
  const tiled = kind === 'texture' ? all.filter((n) => TILE.test(n)) : [],
    sign = tiled[0]?.charAt(tiled[0].length - 5),
    names = tiled.length > 0 ? [...new Set(all.map((n) => n.replace(TILE, '')))] : all
  const tile = sign === undefined ? '' : `[${sign}{tile:[0-9]{4}}]`
  if (kind === 'slot' || kind === 'clip') {
    const pair = pairPattern(names, kind)
    if (pair !== null) return pair
  }
  const separator = commonSeparator(names)
  if (/[{}[\]|]/.test(separator)) return null
  let words = names.map((n) => splitName(n, separator))
  const behind: NameEnd[] = []
  const find = (kinds: readonly NameEnd['kind'][], look: () => NameEnd | null): boolean => {
    if (behind.some((e) => kinds.includes(e.kind))) return false
    const end = look()
    if (!end) return false
    behind.unshift(end)
    words = withoutEnds(words, end, 'last')
    return true
  }
  const ends = (): string[] => words.filter((w) => w.length > 1).map((w) => w.at(-1)!)
  for (let more = true; more && behind.length < 4;)
    more =
      (kind === 'texture' && find(['role'], () => roleAtEnd(words, isRole))) ||
      find(['number'], () => numberAtEnd(ends(), kind)) ||
      (!(kind === 'texture' && !behind.some((e) => e.kind === 'role')) &&
        find(['variant'], () => variantAtEnd(ends()))) ||
      find(['constant'], () => onlyConstant(ends(), words))
  const front = frontOf(words)
  if (front) words = withoutEnds(words, front, 'first')
  const isFixed = front !== null || behind.some((e) => !e.optional)
  const middle = middlePiece(
    words,
    separator,
    kind === 'mesh' || kind === 'lod' || kind === 'collision' || kind === 'texture',
    isFixed,
  )
  if (middle === null) return null
  return [
    front ? `${front.piece}${separator}` : '',
    middle,
    ...behind.map((e) => (e.optional ? `[${separator}${e.piece}]` : `${separator}${e.piece}`)),
    tile,
  ].join('')
}

/** Takes an end off; names that must have it and do not are strays, and are looked at no more. */
function withoutEnds(words: readonly string[][], end: NameEnd, side: 'first' | 'last'): string[][] {
  return words.flatMap((w) => {
    const at = side === 'last' ? w.at(-1)! : w[0]!
    if (w.length > 1 && end.takes(at)) return [side === 'last' ? w.slice(0, -1) : w.slice(1)]
    return end.optional ? [w] : []
  })
}

/** A constant word in front; codes too, of names that have words enough behind them. */
function frontOf(words: readonly string[][]): NameEnd | null {
  const long = words.filter((w) => w.length > 1)
  if (long.length < words.length * LEAST_FIT) return null
  return constantAt(long.map((w) => w[0]!))
}

/** At the end only a constant counts: codes there are subjects as likely. */
function onlyConstant(ends: readonly string[], words: readonly string[][]): NameEnd | null {
  if (ends.length < words.length * LEAST_FIT) return null
  const end = constantAt(ends)
  return end?.kind === 'constant' ? end : null
}

/** What is left between the ends: the words that name the thing, with a family in front where few begin many. */
function middlePiece(
  words: readonly string[][],
  separator: string,
  mayHaveFamily: boolean,
  isFixed: boolean,
): string | null {
  const written = commonCase(words)
  // Without a custom in letters or ends a pattern would say nothing
  if (written === null || (written === 'any' && !isFixed)) return null
  const own = words.filter((w) => w.every((word) => isWritten(word, written)))
  const counts = own.map((w) => w.length)
  let least = Math.min(...counts)
  const most = Math.max(...counts)
  const shape = wordShapes[written]
  if (separator === NO_SEPARATOR) return `{subject:${shape}}`
  const firsts = counted(own.map((w) => w[0]!))
  const hasFamily = mayHaveFamily && least > 1 && firsts.length <= own.length / 3 && firsts.length > 1
  let family = ''
  if (hasFamily) {
    family = `{family:${shape}}${separator}`
    least--
  }
  const from = least - 1,
    to = (hasFamily ? most - 1 : most) - 1
  const sign = /[\w]/.test(separator) ? separator : `\\${separator}`
  const more = to === 0 ? '' : `(?:${sign}${shape})${from === to ? `{${from}}` : `{${from},${to}}`}`
  // As few words as will do, so that ends behind which may be missing are found
  return `${family}{subject:${shape}${more}${more && from !== to ? '?' : ''}}`
}

/** The narrowest way of writing that most of the names keep to. */
function commonCase(words: readonly string[][]): LetterCase | null {
  if (words.length === 0) return null
  const own = words.map((w) => caseOf(w))
  return (
    letterCases.find(
      (c) => own.filter((o) => o !== null && within(o, c)).length >= words.length * LEAST_FIT,
    ) ?? null
  )
}

const wider: Record<LetterCase, readonly LetterCase[]> = {
  lower: ['lower', 'camel', 'any'],
  upper: ['upper', 'pascal', 'any'],
  camel: ['camel', 'any'],
  pascal: ['pascal', 'any'],
  any: ['any'],
}
const within = (own: LetterCase, as: LetterCase): boolean => wider[own].includes(as)

/** Slots and clips that are made of two halves, with a sign between them that stands there once. */
function pairPattern(names: readonly string[], kind: 'slot' | 'clip'): string | null {
  const signs = counted(names.flatMap((n) => [...new Set(n.match(/[^A-Za-z0-9]/g) ?? [])]))
  const once = (sign: string): number =>
    names.filter((n) => n.split(sign).length === 2 && !n.startsWith(sign) && !n.endsWith(sign)).length
  const [sign] = signs
    .map(([s]) => s)
    .filter((s) => !/[{}[\]|]/.test(s) && once(s) >= names.length * LEAST_FIT)
    .sort((a, b) => Number(a === '_') - Number(b === '_') || once(b) - once(a))
  if (sign === undefined) return null
  const halves = names.flatMap((n) => (n.split(sign).length === 2 ? [n.split(sign)] : []))
  const shapes = [0, 1].map((side) => halfShape(halves.map((h) => h[side]!)))
  if (shapes.includes(null)) return null
  return `{subject:${shapes[0]}}${sign}{${kind === 'slot' ? 'surface' : 'action'}:${shapes[1]}}`
}

function halfShape(halves: readonly string[]): string | null {
  const inner = commonSeparator(halves),
    words = halves.map((h) => splitName(h, inner === NO_SEPARATOR ? '\u0000' : inner)),
    written = commonCase(words)
  if (written === null) return null
  const sign = /[\w]/.test(inner) ? inner : `\\${inner}`
  return inner === NO_SEPARATOR
    ? wordShapes[written]
    : `${wordShapes[written]}(?:${sign}${wordShapes[written]})*`
}

/** Two customs side by side, where each fits its part well. */
function twoPatterns(
  names: readonly string[],
  kind: PatternKind,
  isRole: (word: string) => boolean,
): (Held & { apart: string }) | null {
  let best: (Held & { apart: string }) | null = null
  for (const { says, of } of waysApart(names)) {
    const [a, b] = counted(names.map(of)).map(([value]) => value)
    if (a === undefined || b === undefined) continue
    const sides = [a, b].map((value) => names.filter((n) => of(n) === value))
    if (sides.some((side) => side.length < Math.max(LEAST_NAMES, names.length * 0.1))) continue
    const patterns = sides.map((side) => held(patternOfGroup(side, kind, isRole), side))
    if (patterns.some((p, i) => !p || p.fits < sides[i]!.length * LEAST_FIT)) continue
    const both = held(patterns.map((p) => p!.pattern).join(OR), names)
    if (both && (!best || both.fits > best.fits)) best = { ...both, apart: says(a, b) }
  }
  return best
}

interface WayApart {
  of: (name: string) => string
  says: (a: string, b: string) => string
}

const signOf = (name: string): string => /[^A-Za-z0-9]/.exec(name)?.[0] ?? NO_SEPARATOR
const caseOfName = (name: string): LetterCase =>
  caseOf(name.split(/[^A-Za-z0-9]+/).filter((w) => w !== '')) ?? 'any'

/** By what names of two customs may be told apart. */
function waysApart(names: readonly string[]): WayApart[] {
  const separator = commonSeparator(names),
    [first] = counted(names.map((n) => splitName(n, separator)[0]!))
  const signWords = (sign: string): string => (sign === NO_SEPARATOR ? 'nothing' : `“${sign}”`)
  return [
    { of: signOf, says: (a, b) => `words joined by ${signWords(a)}, and by ${signWords(b)}` },
    {
      of: caseOfName,
      says: (a, b) => `${caseTitles[a as LetterCase]}, and ${caseTitles[b as LetterCase]}`,
    },
    {
      of: (n) => (splitName(n, separator)[0] === first?.[0] ? 'with' : 'without'),
      says: () => `names that begin with “${first?.[0]}”, and names that do not`,
    },
  ]
}

/** Names by how they are written, for a person to see what there is. */
function groupsOf(names: readonly string[]): NameFit['groups'] {
  const key = (n: string): string => `${signOf(n)} ${caseOfName(n)}`
  return counted(names.map(key)).map(([group, count]) => {
    const own = names.filter((n) => key(n) === group),
      sign = signOf(own[0]!)
    return {
      words: `${caseTitles[caseOfName(own[0]!)]}${sign === NO_SEPARATOR ? ', in one word' : `, joined by “${sign}”`}`,
      count,
      examples: own.slice(0, EXAMPLES),
    }
  })
}
