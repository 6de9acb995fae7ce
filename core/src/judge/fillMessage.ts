import { invariant, type FindingData } from '@stern-gate/contract'
import { formatNumber } from '../numbers/formatNumber'
import { remembered } from '../caching/remembered'

/**
 * Fills {placeholders} from the data. `{x|m}` is a length in metres with the fitting unit, `{x|%}` a share,
 * `{x|n}` a count with its thousands set apart, `{x|MiB}` bytes, `{x|deg}` degrees, `{x|x}` a factor,
 * `{x|triangles}` a count of them, in the singular for one; a bare number gets four significant figures.
 * `{x|n|edge belongs|edges belong}` puts words behind it, those for one or those for any other number.
 */
export function fillMessage(template: string, data: FindingData): string {
  const { texts, keys, forms, plurals } = templateOf(template)
  let filled = texts[0]!
  for (let i = 0; i < keys.length; i++) {
    const value = data[keys[i]!]
    invariant(value !== undefined, `message “${template}” wants {${keys[i]}}`)
    filled += typeof value === 'number' ? formatNumber(value, forms[i]) : String(value)
    const plural = plurals[i]
    if (plural) filled += ` ${value === 1 ? plural.one : plural.many}`
    filled += texts[i + 1]!
  }
  return filled
}

/** Key, form, and the words for one and for many. */
const PLACEHOLDER = /\{([A-Za-z][A-Za-z0-9]*)(?:\|([A-Za-z%]+))?(?:\|([^{}|]+)\|([^{}|]+))?\}/

/** A template taken apart: text, placeholder, text, …; texts are one more than keys. */
interface Template {
  texts: string[]
  keys: string[]
  forms: (string | undefined)[]
  /** Words behind a number, for one and for any other. */
  plurals: ({ one: string; many: string } | null)[]
}

/** Templates are as many as rules have messages and labels. */
const templateOf = remembered(2000, (text): Template => {
  const pieces = text.split(PLACEHOLDER)
  const each = (from: number): (string | undefined)[] => pieces.filter((_, i) => i % 5 === from)
  const many = each(4)
  return {
    texts: each(0) as string[],
    keys: each(1) as string[],
    forms: each(2),
    plurals: each(3).map((one, i) => (one === undefined ? null : { one, many: many[i]! })),
  }
})
