import type { PatternKind, Rulebook } from '@stern-gate/contract'
import { baseName, meshPart } from '../scene/meshParts'
import { matchName, writeName, type Pattern } from './pattern'
import { patternOf } from './patternCache'
import { isMeaningful, nameWords } from './nameWords'
import { roleOfName } from './textureRole'

export interface NameContext {
  rulebook: Rulebook
  /** First part for names that have none: most used in the project, else the class. */
  family: string
  /** Subject of the asset, when a part of it (slot, texture, level) is to be named. */
  subject: string | null
  /** Role of a texture when its input tells it. */
  role: string | null
  /** Names that are in use already. */
  taken: { has: (name: string) => boolean }
}

/**
 * Proposes a name that fits the pattern and keeps what can be recognised: family, subject words, variant
 * letter, role, level number. Null when nothing can be recognised or when no proposal fits. Never returns a
 * taken name.
 */
export function proposeName(kind: PatternKind, name: string, context: NameContext): string | null {
  const compiled = patternOf(context.rulebook.patterns[kind])
  if (!compiled.ok) return null
  const parts = recogniseParts(kind, name, context, literalWords(compiled.value))
  if (!parts) return null
  const free = (candidate: string | null): candidate is string =>
    candidate !== null &&
    candidate !== name &&
    !context.taken.has(candidate) &&
    matchName(compiled.value, candidate).fits
  // Written the project's way: its separators and capitals, its word for the role. What fits but is taken
  // gets a letter before another way of writing is tried
  for (const styled of writingsOf(parts, wordsForRole(compiled.value, parts['role'], context.rulebook))) {
    const plain = writeName(compiled.value, styled)
    if (plain === null || !matchName(compiled.value, plain).fits) continue
    if (free(plain)) return plain
    for (const variant of VARIANTS) {
      const candidate = writeName(compiled.value, { ...styled, variant })
      if (free(candidate)) return candidate
    }
  }
  return null
}

/** Words that stand in every name of a pattern. */
const literalWords = ({ tokens, others }: Pattern): ReadonlySet<string> =>
  new Set(
    [tokens, ...others.map((o) => o.tokens)]
      .flat()
      .flatMap((t) => (t.kind === 'text' ? nameWords(t.text) : [])),
  )

const VARIANTS = 'abcdefghijklmnopqrstuvwxyzABCDEFGHIJKLMNOPQRSTUVWXYZ'

const capital = (word: string): string => word.charAt(0).toUpperCase() + word.slice(1)

/** How words of a part are written in one. */
const writings: ((words: readonly string[]) => string)[] = [
  (words) => words.join('_'),
  (words) => words.join('-'),
  (words) => words.map(capital).join(''),
  (words) => words.map((w, i) => (i === 0 ? w : capital(w))).join(''),
  (words) => words.map(capital).join('_'),
  (words) => words.map(capital).join('-'),
  (words) => words.join('').toLowerCase(),
  (words) => words.join('_').toUpperCase(),
]

/** The same parts as different projects write them. */
function writingsOf(parts: Record<string, string>, roleWords: readonly string[]): Record<string, string>[] {
  const roles = roleWords.length > 0 ? roleWords : [parts['role']]
  return writings.flatMap((write) =>
    roles.map((role) =>
      Object.fromEntries(
        Object.entries(parts).map(([part, text]) => [
          part,
          part === 'role' ? role! : part === 'n' ? text : write(text.split('_')),
        ]),
      ),
    ),
  )
}

/** Words that a pattern takes where the role stands and that mean this role, in its order. */
function wordsForRole(pattern: Pattern, role: string | undefined, rulebook: Rulebook): string[] {
  if (role === undefined) return []
  return [pattern, ...pattern.others]
    .flatMap(({ tokens }) => tokens)
    .flatMap((t) => (t.kind === 'part' && t.name === 'role' ? t.shape.split('|') : []))
    .filter((word) => word === role || roleOfName(rulebook, word) === role)
    .sort((a, b) => Number(b === role) - Number(a === role))
}

function recogniseParts(
  kind: PatternKind,
  name: string,
  context: NameContext,
  literals: ReadonlySet<string>,
): Record<string, string> | null {
  if (kind === 'slot' || kind === 'clip') return recognisePair(kind, name, context)
  const part = meshPart(name)
  const role = kind === 'texture' ? (context.role ?? roleOfName(context.rulebook, name)) : null
  let words = tellingWords(baseName(name))
  if (kind === 'texture') words = words.filter((w) => roleOfName(context.rulebook, w) === null)
  // What the pattern writes of itself is no part of the subject
  if (words.length > 1 && literals.has(words[0]!)) words = words.slice(1)
  const last = words.at(-1)
  const variant = words.length > 1 && last !== undefined && /^[a-z]$/.test(last) ? words.pop()! : null
  const known = words.length > 1 && words[0] === context.family
  const subject = (known ? words.slice(1) : words).join('_') || context.subject
  if (!subject) return null
  return {
    family: context.family,
    subject,
    ...(variant ? { variant } : {}),
    ...(role ? { role } : {}),
    ...(kind === 'lod' && part.kind === 'level' ? { n: String(part.level) } : {}),
  }
}

/** What an exporter puts behind the name of a copy: a number in brackets, or three digits after a point or blank. */
const COPY = /(\s*\(\d+\)|[ .]\d{3})+$/

/**
 * Words that say something, with the numbers that belong to them: pillar 02 is another thing than pillar 03. The
 * number of a copy, of a version, or of an empty word (final 2) says nothing.
 */
function tellingWords(name: string): string[] {
  const kept: string[] = []
  let afterKept = false
  for (const word of nameWords(name.replace(COPY, ''))) {
    const keep: boolean = isMeaningful(word) || (afterKept && /^\d{1,4}$/.test(word))
    if (keep) kept.push(word)
    afterKept = keep
  }
  return kept
}

/** Slots and clips: the subject of the asset and what is left of the name. */
function recognisePair(
  kind: 'slot' | 'clip',
  name: string,
  context: NameContext,
): Record<string, string> | null {
  const subject = context.subject
  const known = new Set([context.family, ...(subject?.split('_') ?? [])])
  const rest = tellingWords(name)
    .filter((w) => !known.has(w))
    .join('_')
  if (!subject || !rest) return null
  return { subject, [kind === 'slot' ? 'surface' : 'action']: rest }
}
