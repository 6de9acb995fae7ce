import type { NodeFacts, PrimitiveFacts } from '@stern-gate/contract'
import type { PartsOfMesh } from '../scene/meshParts'

export interface DrawnPrimitive {
  node: NodeFacts
  primitive: PrimitiveFacts
  level: number | null
}

/**
 * Primitives made of triangles: those that are drawn, by level, and all, collision (without a level)
 * included.
 */
export interface DrawnPrimitives {
  drawn: readonly DrawnPrimitive[]
  all: readonly DrawnPrimitive[]
}

export function drawnPrimitives(parts: PartsOfMesh): DrawnPrimitives {
  const drawn: DrawnPrimitive[] = [],
    shapes: DrawnPrimitive[] = []
  for (const [level, nodes] of parts.levels) addTriangles(drawn, nodes, level)
  addTriangles(shapes, parts.collision, null)
  return { drawn, all: shapes.length === 0 ? drawn : [...drawn, ...shapes] }
}

function addTriangles(to: DrawnPrimitive[], nodes: readonly NodeFacts[], level: number | null): void {
  for (const node of nodes)
    for (const primitive of node.primitives)
      if (primitive.mode === 'triangles') to.push({ node, primitive, level })
}

/** Triangles of all primitives of some nodes. */
export function trianglesOf(nodes: readonly NodeFacts[]): number {
  let sum = 0
  for (const node of nodes) for (const primitive of node.primitives) sum += primitive.triangles
  return sum
}
