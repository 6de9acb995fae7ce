import type { Proposal } from '@stern-gate/contract'

/** Of fewer pictures nothing is concluded. */
export const LEAST_PICTURES = 3

/** What a proposal says whatever fits it. */
type Known = Pick<Proposal, 'id' | 'title' | 'now' | 'then' | 'change'>

/** A proposal of what fits and what does not, with no more of these than are looked at. */
export const proposal = (
  topic: Proposal['topic'],
  known: Known,
  { fitting, misfits }: { fitting: number; misfits: readonly string[] },
): Proposal => ({
  ...known,
  topic,
  fits: fitting,
  of: fitting + misfits.length,
  misfits: misfits.slice(0, 200),
  note: null,
  groups: [],
})
