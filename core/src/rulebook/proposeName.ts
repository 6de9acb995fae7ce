import type { PatternKind, Rulebook } from '@stern-gate/contract'
import { baseName, meshPart } from '../scene/meshParts'
import { matchName, writeName } from './pattern'
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
  const parts = recogniseParts(kind, name, context)
  if (!parts) return null
  const free = (candidate: string | null): candidate is string =>
    candidate !== null &&
    candidate !== name &&
    !context.taken.has(candidate) &&
    matchName(compiled.value, candidate).fits
  const plain = writeName(compiled.value, parts)
  if (free(plain)) return plain
  for (const variant of 'abcdefghijklmnopqrstuvwxyz') {
    const candidate = writeName(compiled.value, { ...parts, variant })
    if (free(candidate)) return candidate
  }
  return null
}

function recogniseParts(
  kind: PatternKind,
  name: string,
  context: NameContext,
): Record<string, string> | null {
  if (kind === 'slot' || kind === 'clip') return recognisePair(kind, name, context)
  const part = meshPart(name)
  const role = kind === 'texture' ? (context.role ?? roleOfName(context.rulebook, name)) : null
  let words = tellingWords(baseName(name))
  if (kind === 'texture') words = words.filter((w) => roleOfName(context.rulebook, w) === null)
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
