import type { Subject } from './subject'

/** Share of the surface of the finest level by slot, for the slots that it uses. */
export function slotShares(subject: Subject): Map<string, number> {
  const areas = new Map<string, number>()
  let total = 0
  for (const node of subject.parts.levels.get(Math.min(...subject.parts.levels.keys())) ?? [])
    for (const primitive of node.primitives) {
      if (primitive.triangles === 0 || primitive.slot === null) continue
      areas.set(primitive.slot, (areas.get(primitive.slot) ?? 0) + primitive.area)
      total += primitive.area
    }
  return new Map([...areas].map(([slot, area]) => [slot, total > 0 ? area / total : 0]))
}
