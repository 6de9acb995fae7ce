import type { NodeFacts, PrimitiveFacts } from '@stern-gate/contract'
import type { Subject } from './subject'

export interface DrawnPrimitive { node: NodeFacts; primitive: PrimitiveFacts; level: number | null }

/** Primitives made of triangles: those that are drawn, with their level, or all, collision included. */
export function drawnPrimitives(subject: Subject, which: 'drawn' | 'all'): readonly DrawnPrimitive[] {
  const lists = known.get(subject) ?? {}
  known.set(subject, lists)
  return (lists[which] ??= listPrimitives(subject, which))
}

/** A dozen rules walk them; a subject is never changed. */
const known = new WeakMap<Subject, Partial<Record<'drawn' | 'all', readonly DrawnPrimitive[]>>>()

function listPrimitives(subject: Subject, which: 'drawn' | 'all'): DrawnPrimitive[] {
  const groups: [number | null, NodeFacts[]][] = [...subject.parts.levels].sort((a, b) => a[0] - b[0])
  if (which === 'all') groups.push([null, subject.parts.collision])
  return groups.flatMap(([level, nodes]) => nodes.flatMap((node) => node.primitives.filter((p) => p.mode === 'triangles').map((primitive) => ({ node, primitive, level }))))
}
