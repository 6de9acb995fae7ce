import type { Bounds } from '@stern-gate/contract'
import { nameWords } from '../rulebook/nameWords'
import { boxGap } from './ways'

/** Whether a word of a name, or two that follow each other, stand in the rulebook's list of figures. */
export function isFigureName(name: string, figures: readonly string[]): boolean {
  const words = nameWords(name)
  const listed = new Set(figures.map((f) => nameWords(f).join('')))
  return words.some((word, i) => listed.has(word) || listed.has(`${word}${words[i + 1] ?? ''}`))
}

/** Height of a grown person in metres; how wide, with arms down or spread, and how deep, as shares of it. */
const HEIGHT = { least: 1.4, most: 2.1 }
const ARMS_DOWN = { least: 0.22, most: 0.5 }
const ARMS_SPREAD = { least: 0.85, most: 1.05 }
const DEPTH = { least: 0.1, most: 0.35 }
/** Boards and posts are as tall, but made of less. */
const LEAST_TRIANGLES = 100

const within = (value: number, { least, most }: { least: number; most: number }): boolean =>
  value >= least && value <= most

/** As tall, wide and deep as a person, not a mere board, and standing apart from everything else. */
export function isHumanSize(
  box: Bounds | null,
  triangles: number,
  others: readonly (Bounds | null)[],
): boolean {
  if (!box || triangles < LEAST_TRIANGLES) return false
  const [x, height, z] = box.max.map((v, k) => v - box.min[k]!) as [number, number, number]
  if (!within(height, HEIGHT)) return false
  const wide = Math.max(x, z) / height,
    deep = Math.min(x, z) / height
  if (!within(deep, DEPTH) || !(within(wide, ARMS_DOWN) || within(wide, ARMS_SPREAD))) return false
  return others.every((other) => other === null || boxGap(box, other) > 0)
}
