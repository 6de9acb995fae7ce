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

/** "1 triangle", "12 triangles". */
export const countOf = (count: number, one: string): string =>
  `${formatCount(count)} ${one}${count === 1 ? '' : 's'}`
