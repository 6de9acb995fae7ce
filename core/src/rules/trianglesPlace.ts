import type { NodeFacts, Place } from '@stern-gate/contract'
import type { Subject } from '../subject/subject'

/**
 * The first triangle list of a measure over a node's primitives, or the node itself where no list was kept.
 */
export function trianglesPlace(subject: Subject, node: NodeFacts, measure: string): Place {
  for (const primitive of node.primitives) {
    const evidence = `${measure}:${node.path}:${primitive.index}`
    if (subject.mesh?.evidence.some((e) => e.name === evidence))
      return { kind: 'triangles', node: node.path, primitive: primitive.index, evidence }
  }
  return { kind: 'node', node: node.path }
}
