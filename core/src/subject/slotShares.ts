import type { NodeFacts } from '@stern-gate/contract'

/** Share of the surface of some nodes by slot, for the slots that they use. */
export function slotShares(nodes: readonly NodeFacts[]): ReadonlyMap<string, number> {
  const shares = new Map<string, number>()
  let total = 0
  for (const node of nodes)
    for (const { slot, triangles, area } of node.primitives) {
      if (triangles === 0 || slot === null) continue
      shares.set(slot, (shares.get(slot) ?? 0) + area)
      total += area
    }
  for (const [slot, area] of shares) shares.set(slot, total > 0 ? area / total : 0)
  return shares
}
