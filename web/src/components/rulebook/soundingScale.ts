import { SOUNDED_CLASS, type Rulebook, type SoundingLimit } from '@stern-gate/contract'

/** A limit with its value in a rulebook. */
export interface ShownLimit extends SoundingLimit {
  value: number
}

/** Limits of a rulebook as they stand there, for a class where they are of one. */
export function limitsIn(
  rulebook: Rulebook | null,
  limits: readonly SoundingLimit[],
  className: string | null,
): ShownLimit[] {
  return limits.flatMap((limit) => {
    const path = limit.path.map((key) => (key === SOUNDED_CLASS ? (className ?? '') : key))
    const value =
      path.reduce<unknown>((at, key) => (at as Record<string, unknown> | undefined)?.[key], rulebook) ??
      limit.initial
    return typeof value === 'number' ? [{ ...limit, path, value }] : []
  })
}

/** Where values stand on the width of a sounding, 0 to 1, and back. */
export interface SoundingScale {
  at: (value: number) => number
  value: (at: number) => number
  ticks: number[]
}

/** A scale that holds all values and limits, with a little room at both ends. */
export function soundingScale(
  values: readonly number[],
  limits: readonly number[],
  kind: 'linear' | 'log',
): SoundingScale {
  const all = [...values, ...limits].filter((v) => Number.isFinite(v) && (kind === 'linear' || v > 0))
  const least = Math.min(...all, kind === 'log' ? Infinity : 0),
    most = Math.max(...all)
  if (all.length === 0 || kind === 'linear') {
    const end = all.length === 0 || most <= 0 ? 1 : most * 1.1
    return { at: (v) => v / end, value: (at) => at * end, ticks: linearTicks(end) }
  }
  const from = Math.log(least / 1.3),
    to = Math.log(most * 1.3)
  return {
    at: (v) => (v <= 0 ? 0 : (Math.log(v) - from) / (to - from)),
    value: (at) => Math.exp(from + at * (to - from)),
    ticks: logTicks(Math.exp(from), Math.exp(to)),
  }
}

function linearTicks(end: number): number[] {
  const step = niceStep(end / 5)
  return Array.from({ length: Math.floor(end / step) + 1 }, (_, i) => i * step)
}

function niceStep(about: number): number {
  const power = 10 ** Math.floor(Math.log10(about))
  return (about / power < 1.5 ? 1 : about / power < 3.5 ? 2 : about / power < 7.5 ? 5 : 10) * power
}

function logTicks(from: number, to: number): number[] {
  const ticks: number[] = []
  const wide = to / from > 2000
  for (let power = Math.floor(Math.log10(from)); 10 ** power <= to; power++)
    for (const step of wide ? [1] : [1, 2, 5]) {
      const tick = step * 10 ** power
      if (tick >= from && tick <= to) ticks.push(tick)
    }
  return ticks
}

/** Heights of equal stretches of the width: how many values stand in each, within the limits and beyond. */
export interface SoundingBar {
  from: number
  to: number
  within: number
  /** Beyond the limits of the draft, and not of the rulebook in force. */
  newly: number
  beyond: number
}

/** Whether a value is good by some limits. */
export type IsWithin = (value: number) => boolean

export function soundingBars(
  values: readonly number[],
  scale: SoundingScale,
  count: number,
  now: IsWithin,
  before: IsWithin,
): SoundingBar[] {
  const bars = Array.from({ length: count }, (_, i): SoundingBar => ({
    from: i / count,
    to: (i + 1) / count,
    within: 0,
    newly: 0,
    beyond: 0,
  }))
  for (const value of values) {
    const bar = bars[Math.min(count - 1, Math.max(0, Math.floor(scale.at(value) * count)))]!
    if (now(value)) bar.within++
    else if (before(value)) bar.newly++
    else bar.beyond++
  }
  return bars
}

/** Rounded to what a person would write: two figures, or whole ones below a hundred. */
export const roundedLimit = (value: number, whole: boolean): number =>
  whole && value < 100 ? Math.max(0, Math.round(value)) : Number(value.toPrecision(2))
