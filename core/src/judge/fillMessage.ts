import { invariant, type FindingData } from '@stern-gate/contract'

/**
 * Fills {placeholders} from the data. `{x|m}` is a length in metres with the fitting unit, `{x|%}` a share, `{x|n}` a count with its thousands set apart, `{x|MiB}` bytes, `{x|deg}` degrees, `{x|x}` a factor;
 * a bare number gets four significant figures.
 */
export function fillMessage(template: string, data: FindingData): string {
  return template.replace(/\{([A-Za-z][A-Za-z0-9]*)(?:\|([A-Za-z%]+))?\}/g, (_, key: string, form: string | undefined) => {
    const value = data[key]
    invariant(value !== undefined, `message “${template}” wants {${key}}`)
    return typeof value === 'number' ? formatNumber(value, form) : String(value)
  })
}

/** Writes a number in one of the forms of fillMessage. */
export function formatNumber(value: number, form?: string): string {
  if (form === 'm') return formatLength(value)
  if (form === '%') return formatShare(value)
  if (form === 'n') return formatCount(value)
  if (form === 'MiB') return `${plain(value / 1024 / 1024, 3)} MiB`
  if (form === 'x') return plain(value, 3)
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
export const formatShare = (share: number): string => `${share < 1 ? Math.min(99.9, Number((share * 100).toPrecision(3))) : plain(share * 100, 3)} %`

/** A whole number with thin spaces between thousands. */
export const formatCount = (n: number): string => Math.round(n).toString().replace(/\B(?=(\d{3})+(?!\d))/g, '\u202f')

function plain(value: number, figures: number): string {
  if (Math.abs(value) >= 10 ** figures) return formatCount(value)
  return String(Number(value.toPrecision(figures)))
}
