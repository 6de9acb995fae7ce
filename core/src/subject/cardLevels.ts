import type { NodeFacts } from '@stern-gate/contract'
import { CARD } from '../scene/slotNotes'
import type { Subject } from './subject'

/** Whether nodes of a level show all of an asset on cards, by a slot of their own. */
export function isCardLevel({ mesh }: Pick<Subject, 'mesh'>, nodes: readonly NodeFacts[]): boolean {
  const cards = new Set((mesh?.slots ?? []).filter((s) => s.surface === CARD).map((s) => s.name))
  return nodes.some((n) => n.primitives.some((p) => p.slot !== null && cards.has(p.slot)))
}
