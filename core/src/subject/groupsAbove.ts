import type { NodeFacts } from '@stern-gate/contract'
import type { Subject } from './subject'

/**
 * A node that draws nothing itself, with how many nodes that do hang on it, skinned ones left out: those
 * stand by their bones.
 */
export interface Group {
  node: NodeFacts
  parts: number
}

/** Groups of the drawn nodes and of collision, bones left out. */
export function groupsAbove({ mesh, parts }: Subject): Group[] {
  const nodes = mesh?.nodes ?? []
  if (nodes.length === parts.all.length) return []
  const byPath = new Map(nodes.map((n) => [n.path, n])),
    counts = new Map<NodeFacts, number>()
  for (const { parent, skinned } of parts.all) {
    if (skinned) continue
    for (let above = byPath.get(parent ?? ''); above; above = byPath.get(above.parent ?? ''))
      if (above.primitives.length === 0 && !above.joint) counts.set(above, (counts.get(above) ?? 0) + 1)
  }
  return [...counts].map(([node, count]) => ({ node, parts: count }))
}

/** Parents by path, for a list of nodes that is never edited in place. */
const byPaths = new WeakMap<readonly NodeFacts[], ReadonlyMap<string, NodeFacts>>()

/** The node above another; undefined for the uppermost. */
export function parentOf(nodes: readonly NodeFacts[], { parent }: NodeFacts): NodeFacts | undefined {
  if (parent === null) return undefined
  const known = byPaths.get(nodes) ?? new Map(nodes.map((n) => [n.path, n]))
  byPaths.set(nodes, known)
  return known.get(parent)
}

/**
 * Nodes that cannot take over what is baked above them: a clip or a skin says where they stand, or a child of
 * theirs. By the path of the node above.
 */
export const heldBelow = ({ mesh }: Subject): Set<string> =>
  new Set(
    (mesh?.nodes ?? []).flatMap((n) => (n.parent !== null && (n.animated || n.joint) ? [n.parent] : [])),
  )
