import type { Material, Mesh, Node, Primitive } from '@gltf-transform/core'
import type { NodeFacts } from '@stern-gate/contract'
import { pointBounds } from '../geometry/pointBounds'
import { primitiveView } from '../scene/primitiveView'

type CopyOf = NonNullable<NodeFacts['copyOf']>

/** Points of copies differ by rounding: so much of the largest side is the same place. */
const SAME_PLACE = 2e-5

/**
 * Nodes whose mesh is that of an earlier node: the same mesh, or another with the same triangles, slots and
 * attributes whose points are equal but for one shift (things that were moved and then written with their places
 * in the points). Given by path.
 */
export function findCopies(nodes: readonly (readonly [Node, string])[]): Map<string, CopyOf> {
  const copies = new Map<string, CopyOf>()
  const firsts = new Map<Mesh, CopyOf>()
  const alike = new Map<string, { mesh: Mesh; node: string }[]>()
  for (const [node, path] of nodes) {
    const mesh = node.getMesh()
    // What follows bones stands where they stand: its points alone say nothing
    if (!mesh || node.getSkin()) continue
    const known = firsts.get(mesh)
    if (known) {
      copies.set(path, known)
      continue
    }
    const key = signature(mesh)
    const candidates = alike.get(key) ?? []
    const found = firstCopy(mesh, candidates)
    if (found) copies.set(path, found)
    else alike.set(key, [...candidates, { mesh, node: path }])
    firsts.set(mesh, found ?? { node: path, shift: [0, 0, 0] })
  }
  return copies
}

/** What meshes have in common that may be copies: counts, slots and attributes of their primitives. */
const signature = (mesh: Mesh): string =>
  mesh
    .listPrimitives()
    .map((p) =>
      [
        p.getMode(),
        p.getAttribute('POSITION')?.getCount() ?? 0,
        p.getIndices()?.getCount() ?? -1,
        p.getMaterial()?.getName() ?? '',
        p.listTargets().length,
        ...p.listSemantics(),
      ].join(' '),
    )
    .join('|')

/** Of a thousand meshes with the same counts that are all different, each is compared with a few. */
const MOST_COMPARED = 24

function firstCopy(mesh: Mesh, candidates: readonly { mesh: Mesh; node: string }[]): CopyOf | null {
  for (const candidate of candidates.slice(0, MOST_COMPARED)) {
    const shift = shiftBetween(candidate.mesh, mesh)
    if (shift) return { node: candidate.node, shift }
  }
  return null
}

/** How far the points of `b` lie from those of `a`, if that is all that differs; else null. */
function shiftBetween(a: Mesh, b: Mesh): [number, number, number] | null {
  const first = a.listPrimitives(),
    second = b.listPrimitives()
  const from = first[0] && primitiveView(first[0]).positions,
    to = second[0] && primitiveView(second[0]).positions
  if (!from || !to || from.length < 3 || to.length < 3) return null
  const shift: [number, number, number] = [to[0]! - from[0]!, to[1]! - from[1]!, to[2]! - from[2]!]
  if (!shift.every(Number.isFinite)) return null
  const exact = shift.every((v) => Math.abs(v) < 1e-9)
  for (const [i, p] of first.entries())
    if (!samePrimitive(p, second[i]!, exact ? [0, 0, 0] : shift)) return null
  return exact ? [0, 0, 0] : shift
}

/** Readers of some formats write a slot once for each thing that wears it. */
const sameSlot = (a: Material | null, b: Material | null): boolean =>
  a === b || (a !== null && b !== null && a.equals(b))

function samePrimitive(a: Primitive, b: Primitive, shift: readonly number[]): boolean {
  if (!sameSlot(a.getMaterial(), b.getMaterial()) || a.listTargets().length > 0) return false
  if (!sameNumbers(a.getIndices()?.getArray() ?? null, b.getIndices()?.getArray() ?? null, 0)) return false
  if (!samePoints(primitiveView(a).positions, primitiveView(b).positions, shift)) return false
  return a
    .listSemantics()
    .every(
      (semantic) =>
        semantic === 'POSITION' ||
        sameNumbers(a.getAttribute(semantic)!.getArray(), b.getAttribute(semantic)!.getArray(), 1e-4),
    )
}

function samePoints(a: Float32Array, b: Float32Array, shift: readonly number[]): boolean {
  if (a.length !== b.length) return false
  const bounds = pointBounds(b)
  if (!bounds) return false
  const side = Math.max(...[0, 1, 2].map((k) => bounds.max[k]! - bounds.min[k]!))
  // Floats far from the origin are coarser: seven digits of where they stand
  const reach = Math.max(...bounds.min.map(Math.abs), ...bounds.max.map(Math.abs), ...shift.map(Math.abs))
  const limit = Math.max(side * SAME_PLACE, reach * 2.5e-7)
  for (let k = 0; k < a.length; k++) if (!(Math.abs(b[k]! - a[k]! - shift[k % 3]!) <= limit)) return false
  return true
}

type Numbers = ArrayLike<number> | null
function sameNumbers(a: Numbers, b: Numbers, limit: number): boolean {
  if (a === b) return true
  if (!a || !b || a.length !== b.length) return false
  for (let k = 0; k < a.length; k++) if (!(Math.abs(a[k]! - b[k]!) <= limit)) return false
  return true
}
