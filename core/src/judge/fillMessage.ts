import { invariant, type FindingData } from '@stern-gate/contract'
import { remembered } from '../rulebook/remembered'

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

/** Writes a number in one of the forms of fillMessage. */
export function formatNumber(value: number, form?: string): string {
  if (form === 'm') return formatLength(value)
  if (form === '%') return formatShare(value)
  if (form === 'n') return formatCount(value)
  if (form === 'MiB') return `${plain(value / 1024 / 1024, 3)} MiB`
  if (form === 'x') return plain(value, 3)
  if (form === 'triangles') return `${formatCount(value)} triangle${value === 1 ? '' : 's'}`
  if (form === 'deg') return `${plain(value, 3)}°`
  return plain(value, 4)
}

/** A length with the unit that reads best: mm below 1 cm, cm below 1 m, else m. */
export function formatLength(metres: number): string {
  const size = Math.abs(metres)
  if (size !== 0 && size < 0.01) return `${plain(metres * 1000, 3)} mm`
  if (size !== 0 && size < 1) return `${plain(metres * 100, 3)} cm`
  return `${plain(metres, 3)} m`
}

/** A share in percent; what is not whole is never rounded up to 100 %. */
export const formatShare = (share: number): string =>
  `${share < 1 ? Math.min(99.9, Number((share * 100).toPrecision(3))) : plain(share * 100, 3)} %`

/** A whole number with thin spaces between thousands. */
export function formatCount(n: number): string {
  const whole = Math.round(n)
  if (Math.abs(whole) < 1000 || !Number.isFinite(whole)) return String(whole)
  let left = String(Math.abs(whole)),
    grouped = ''
  for (; left.length > 3; left = left.slice(0, -3)) grouped = `\u202f${left.slice(-3)}${grouped}`
  return (whole < 0 ? '-' : '') + left + grouped
}

/** From here on whole numbers are no longer exact, and their figures mean nothing. */
const HUGE = 1e15

function plain(value: number, figures: number): string {
  if (Math.abs(value) >= HUGE) return value.toExponential(figures - 1)
  if (Math.abs(value) >= 10 ** figures) return formatCount(value)
  return String(Number(value.toPrecision(figures)))
}
