import type { Bounds } from '@stern-gate/contract'
import { nameWords } from '../rulebook/nameWords'
import { boxGap } from './ways'

/** Whether a word of a name, or two that follow each other, stand in the rulebook's list of figures. */
export function isFigureName(name: string, figures: readonly string[]): boolean {
  const words = nameWords(name)
  const listed = new Set(figures.map((f) => nameWords(f).join('')))
  return words.some((word, i) => listed.has(word) || listed.has(`${word}${words[i + 1] ?? ''}`))
}

/** Height of a grown person, and how wide and deep at most for it, in metres. */
const HEIGHT = { least: 1.4, most: 2.1 }
const WIDTH_OF_HEIGHT = 1.05
const DEPTH_OF_HEIGHT = 0.45

/** As tall as a person and no wider than one with arms spread, standing apart from everything else. */
export function isHumanSize(box: Bounds | null, others: readonly (Bounds | null)[]): boolean {
  if (!box) return false
  const [x, height, z] = box.max.map((v, k) => v - box.min[k]!) as [number, number, number]
  if (height < HEIGHT.least || height > HEIGHT.most) return false
  const wide = Math.max(x, z),
    deep = Math.min(x, z)
  // A door leaf or a post is as tall, but thinner
  if (wide > height * WIDTH_OF_HEIGHT || deep > height * DEPTH_OF_HEIGHT || deep < height * 0.08) return false
  return others.every((other) => other === null || boxGap(box, other) > 0)
}
