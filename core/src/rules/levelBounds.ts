import type { Bounds } from '@stern-gate/contract'
import { joinBounds } from '../geometry/pointBounds'
import type { Subject } from './subject'

/** Box around the finest level; null when nothing is drawn. Collision and coarser levels do not count. */
export function levelBounds(subject: Subject): Bounds | null {
  const finest = Math.min(...subject.parts.levels.keys())
  return joinBounds((subject.parts.levels.get(finest) ?? []).map((n) => n.bounds))
}

/** Triangles of one level. */
export const levelTriangles = (subject: Subject, level: number): number =>
  (subject.parts.levels.get(level) ?? []).flatMap((n) => n.primitives).reduce((sum, p) => sum + p.triangles, 0)
