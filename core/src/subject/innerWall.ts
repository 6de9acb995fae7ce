import type { NodeFacts } from '@stern-gate/contract'
import { boundsSize } from '../geometry/pointBounds'

type Node = NodeFacts

/** An inner wall is at least so large, along each axis, against the body around it. */
const LEAST_SIDE = 0.6

/**
 * The node that a node which faces inward lines as its inner wall: a closed body that faces outward, whose box
 * lies around this one's and is not much larger. Told from the boxes alone; null where there is none.
 */
export function bodyAround(node: Node, nodes: readonly Node[]): Node | null {
  const inner = node.bounds
  if (!inner || !isTurnedWhole(node)) return null
  const side = boundsSize(inner)
  return (
    nodes.find(({ bounds, topology }) => {
      if (!bounds || !topology || topology.closedShells === 0 || topology.insideOut > 0) return false
      const around = boundsSize(bounds)
      return [0, 1, 2].every(
        (axis) =>
          bounds.min[axis]! < inner.min[axis]! &&
          bounds.max[axis]! > inner.max[axis]! &&
          side[axis]! >= around[axis]! * LEAST_SIDE,
      )
    }) ?? null
  )
}

/** Closed shells and nothing else, all of whose triangles face inward. */
const isTurnedWhole = ({ topology, primitives }: Node): boolean =>
  topology !== null &&
  topology.closedShells > 0 &&
  topology.closedShells === topology.shells &&
  topology.insideOut === primitives.reduce((sum, p) => sum + p.triangles, 0)
