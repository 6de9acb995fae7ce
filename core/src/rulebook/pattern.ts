import { bad, cutText, good, type Outcome } from '@stern-gate/contract'

/** One piece of a pattern: literal text, a named part, or a group that may be left out. */
export type PatternToken =
  | { kind: 'text'; text: string }
  | { kind: 'part'; name: string; shape: string; digits: number }
  | { kind: 'optional'; tokens: PatternToken[] }

export interface Pattern {
  source: string
  tokens: PatternToken[]
  expression: RegExp
  /** Parts by name, in order. */
  parts: string[]
  /** Further patterns of which one will do, too; empty for most. */
  others: readonly Pattern[]
}

/** Stands between patterns of which any will do; no file system takes it in a name. */
export const OR = ' | '

/** A part without a shape: small letters and figures, no separator. */
const DEFAULT_SHAPE = '[a-z0-9]+'
/** Names longer than this are not matched; they are wrong anyway, and matching stays cheap. */
export const LONGEST_NAME = 200

/**
 * Compiles the pattern language to one anchored expression: literal text, `{part}`, `{part:a|b|c}`,
 * `{part:[a-z]+}`, numbers `{n:#}` (any digits) and `{n:##}` (just two), `[ … ]` for what may be left out, and
 * ` | ` between whole patterns of which any will do. Faults: pattern/invalid with the position.
 */
export function compilePattern(source: string): Outcome<Pattern> {
  const patterns: Pattern[] = []
  for (const alternative of alternativesOf(source)) {
    const compiled = compileOne(alternative)
    if (!compiled.ok) return compiled
    patterns.push(compiled.value)
  }
  return good({ ...patterns[0]!, source, others: patterns.slice(1) })
}

/** Parts of a source between the bars that stand outside of all brackets. */
export function alternativesOf(source: string): string[] {
  const found: string[] = []
  let depth = 0,
    from = 0
  for (let at = 0; at < source.length; at++) {
    if ('{['.includes(source[at]!)) depth++
    else if (']}'.includes(source[at]!)) depth--
    else if (depth === 0 && source.startsWith(OR, at)) {
      found.push(source.slice(from, at))
      from = at + OR.length
    }
  }
  return [...found, source.slice(from)]
}

function compileOne(source: string): Outcome<Pattern> {
  const parsed = parse(source, 0, false)
  if (!parsed.ok) return parsed
  const tokens = parsed.value.tokens
  const parts = partNames(tokens)
  const doubled = parts.find((p, i) => parts.indexOf(p) !== i)
  if (doubled !== undefined)
    return fail(source, `The part {${doubled}} stands twice.`, source.lastIndexOf(`{${doubled}`))
  try {
    return good({ source, tokens, parts, others: [], expression: new RegExp(`^${expressionOf(tokens)}$`) })
  } catch {
    return fail(source, 'A shape is no valid regular expression.', 0)
  }
}

/** Parts of a name by the pattern, or where and before which part it stops to fit. */
export type NameMatch =
  { fits: true; parts: Record<string, string> } | { fits: false; from: number; expected: string }

/**
 * Matches a whole name. A name that does not fit tells how far it fitted; one that ends too early fitted all
 * the way.
 */
export function matchName(pattern: Pattern, name: string): NameMatch {
  const found = name.length <= LONGEST_NAME ? pattern.expression.exec(name) : null
  if (!found) return pattern.others.length > 0 ? matchOthers(pattern, name) : firstMisfit(pattern, name)
  const parts: Record<string, string> = {}
  for (const part of pattern.parts) if (found.groups?.[part] !== undefined) parts[part] = found.groups[part]
  return { fits: true, parts }
}

/** The first other pattern that fits; else the misfit that comes latest in the name. */
function matchOthers(pattern: Pattern, name: string): NameMatch {
  let best = firstMisfit(pattern, name)
  for (const other of pattern.others) {
    const match = matchName(other, name)
    if (match.fits) return match
    if (!best.fits && match.from > best.from) best = match
  }
  return best
}

/** Whether a whole name fits; quicker than matchName, which also takes it apart. */
export const fitsPattern = (pattern: Pattern, name: string): boolean =>
  name.length <= LONGEST_NAME &&
  (pattern.expression.test(name) || pattern.others.some((o) => o.expression.test(name)))

/**
 * Where each part stands in a name that fits: from, to. Asked for to show one name; matching itself is
 * quicker without.
 */
export function partSpans(pattern: Pattern, name: string): Record<string, [from: number, to: number]> {
  const fitting = [pattern, ...pattern.others].find((p) => p.expression.test(name)) ?? pattern
  const found = new RegExp(fitting.expression.source, 'd').exec(name)
  return Object.fromEntries(
    Object.entries(found?.indices?.groups ?? {}).flatMap(([part, span]) => (span ? [[part, span]] : [])),
  )
}

/**
 * Writes a name from parts; groups whose parts are missing are left out; null when a needed part is missing.
 */
export function writeName(pattern: Pattern, parts: Record<string, string>): string | null {
  for (const { tokens } of [pattern, ...pattern.others]) {
    const name = write(tokens, parts)
    if (name !== null) return name
  }
  return null
}

function write(tokens: PatternToken[], parts: Record<string, string>): string | null {
  let name = ''
  for (const token of tokens) {
    if (token.kind === 'text') name += token.text
    else if (token.kind === 'part') {
      if (parts[token.name] === undefined) return null
      name += parts[token.name]
    } else if (partNames(token.tokens).every((p) => parts[p] !== undefined))
      name += write(token.tokens, parts) ?? ''
  }
  return name
}

function firstMisfit(pattern: Pattern, name: string): NameMatch {
  const short = cutText(name, LONGEST_NAME)
  for (let kept = pattern.tokens.length - 1; kept > 0; kept--) {
    const head = new RegExp(`^${expressionOf(pattern.tokens.slice(0, kept))}`).exec(short)
    if (head && head[0].length > 0)
      return {
        fits: false,
        from: startOfCharacter(name, head[0].length),
        expected: describe(pattern.tokens[kept]!),
      }
  }
  return { fits: false, from: 0, expected: describe(pattern.tokens[0]!) }
}

/** The place itself, or that before it where it would cut a character in two. */
const startOfCharacter = (name: string, at: number): number =>
  /^[\uDC00-\uDFFF]/.test(name.slice(at)) ? at - 1 : at

function describe(token: PatternToken): string {
  if (token.kind === 'text') return `“${token.text}”`
  if (token.kind === 'part') return token.digits > 0 ? 'a number' : `the ${token.name}`
  return `${token.tokens.map(describe).join(' and ')} or the end`
}

const partNames = (tokens: PatternToken[]): string[] =>
  tokens.flatMap((t) => (t.kind === 'part' ? [t.name] : t.kind === 'optional' ? partNames(t.tokens) : []))

const escapeText = (text: string): string => text.replace(/[.*+?^${}()|[\]\\/-]/g, '\\$&')

function expressionOf(tokens: PatternToken[]): string {
  return tokens
    .map((t) =>
      t.kind === 'text'
        ? escapeText(t.text)
        : t.kind === 'part'
          ? `(?<${t.name}>${t.shape})`
          : `(?:${expressionOf(t.tokens)})?`,
    )
    .join('')
}

const fail = (source: string, why: string, at: number) =>
  bad('pattern/invalid', why, 'Correct the pattern at the named position.', {
    part: source,
    offset: Math.max(0, at),
  })

function parse(
  source: string,
  from: number,
  inside: boolean,
): Outcome<{ tokens: PatternToken[]; end: number }> {
  const tokens: PatternToken[] = []
  let at = from
  while (at < source.length) {
    const c = source[at]!
    if (c === ']') {
      if (!inside) return fail(source, 'A ] has no [ before it.', at)
      return tokens.length > 0
        ? good({ tokens, end: at + 1 })
        : fail(source, 'There is nothing between [ and ].', at)
    }
    if (c === '[') {
      const group = parse(source, at + 1, true)
      if (!group.ok) return group
      tokens.push({ kind: 'optional', tokens: group.value.tokens })
      at = group.value.end
    } else if (c === '{') {
      const part = parsePart(source, at)
      if (!part.ok) return part
      tokens.push(part.value.token)
      at = part.value.end
    } else if (c === '}') return fail(source, 'A } has no { before it.', at)
    else {
      const end = nextSpecial(source, at)
      tokens.push({ kind: 'text', text: source.slice(at, end) })
      at = end
    }
  }
  return inside ? fail(source, 'A [ is never closed.', from - 1) : good({ tokens, end: at })
}

function nextSpecial(source: string, from: number): number {
  let at = from
  while (at < source.length && !'[]{}'.includes(source[at]!)) at++
  return at
}

function parsePart(source: string, from: number): Outcome<{ token: PatternToken; end: number }> {
  let depth = 0,
    end = from
  for (; end < source.length; end++) {
    if (source[end] === '{') depth++
    if (source[end] === '}' && --depth === 0) break
  }
  if (depth !== 0) return fail(source, 'A { is never closed.', from)
  const body = source.slice(from + 1, end)
  const colon = body.indexOf(':')
  const name = colon < 0 ? body : body.slice(0, colon)
  if (!/^[a-z][a-z0-9]*$/.test(name))
    return fail(source, `“${name}” is no name for a part: small letters and figures.`, from)
  const shape = colon < 0 ? DEFAULT_SHAPE : body.slice(colon + 1)
  if (shape === '') return fail(source, `The part {${name}} has an empty shape.`, from)
  if (/^#+$/.test(shape))
    return good({
      token: {
        kind: 'part',
        name,
        shape: shape.length === 1 ? '[0-9]+' : `[0-9]{${shape.length}}`,
        digits: shape.length,
      },
      end: end + 1,
    })
  if (/\((?!\?:)|\\\d/.test(shape))
    return fail(source, `The shape of {${name}} holds a group that captures; write (?: … ).`, from)
  return good({ token: { kind: 'part', name, shape, digits: 0 }, end: end + 1 })
}
