import type { SwitchPlan } from './switching'

const FIGURES = 4

/**
 * Coverages of a plan as an option of a step has them, one for each level: the least at which it is drawn, the last for
 * the end of all where that is wanted.
 */
export const coveragesText = ({ levels, cull }: SwitchPlan, withCull: boolean): string =>
  [...levels.map((l) => l.coverage), withCull ? cull.coverage : 0]
    .map((v) => String(Number(v.toPrecision(FIGURES))))
    .join(' ')

/** The numbers of such a text; none of an empty one. */
export const numbersOf = (text: string): number[] =>
  text.trim() === '' ? [] : text.trim().split(/\s+/).map(Number)
