import type { GaugeUnit } from '@stern-gate/contract'
import { formatCount, formatLength, formatShare } from '@stern-gate/core/numbers'
/** Bytes with the unit that reads best. */
export function bytesText(bytes: number): string {
  const units = ['B', 'KB', 'MB', 'GB']
  let value = bytes,
    unit = 0
  while (value >= 999.5 && unit < units.length - 1) {
    value /= 1000
    unit++
  }
  return `${unit === 0 ? value : value.toPrecision(3).replace(/\.0+$/, '')} ${units[unit]}`
}

/** Decibels that are kept; null: nothing differs. */
export const decibelText = (dB: number | null): string => (dB === null ? 'exact' : `${dB.toFixed(1)} dB`)

const DAYS = ['Sun', 'Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat']
const MONTHS = ['Jan', 'Feb', 'Mar', 'Apr', 'May', 'Jun', 'Jul', 'Aug', 'Sep', 'Oct', 'Nov', 'Dec']
const twoFigures = (n: number): string => String(n).padStart(2, '0')

/**
 * Time of day for today, weekday within the week, date before. Every line of a list asks: what the browser
 * has for this takes milliseconds.
 */
export function whenText(iso: string, now = new Date()): string {
  const then = new Date(iso)
  if (then.toDateString() === now.toDateString())
    return `${twoFigures(then.getHours())}:${twoFigures(then.getMinutes())}`
  const days = (now.getTime() - then.getTime()) / 86_400_000
  return days < 7 ? DAYS[then.getDay()]! : `${then.getDate()} ${MONTHS[then.getMonth()]!}`
}

/** A UV channel for people who count from 0 and people who count from 1. */
export const channelText = (channel: number): string =>
  `UV${channel} (${channel + 1}${['st', 'nd', 'rd'][channel] ?? 'th'})`

const gaugeWriters: Record<GaugeUnit, (v: number) => string> = {
  m: formatLength,
  sure: (v) => `${Math.round(Math.abs(v) * 100)} %`,
  share: formatShare,
  bytes: bytesText,
  texelsPerMetre: (v) => `${formatCount(v)}/m`,
  triangles: formatCount,
  texels: formatCount,
  count: (v) => (Number.isInteger(v) ? formatCount(v) : v.toPrecision(2)),
}

/** A value on a gauge, with its unit. */
export const gaugeText = (value: number, unit: GaugeUnit): string => gaugeWriters[unit](value)

/** "1 asset", "2 assets". */
export const plural = (n: number, word: string): string => `${n} ${word}${n === 1 ? '' : 's'}`
