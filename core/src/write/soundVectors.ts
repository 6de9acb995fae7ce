import type { Accessor, Document, Primitive } from '@gltf-transform/core'

/** Shorter vectors have no direction. */
const SHORTEST = 1e-6

/**
 * Gives normals and tangents that have no direction – of no length, or not finite – one: a normal that of the
 * faces around its vertex, a tangent one that stands square to the normal. All others stay as they are. Edits
 * in place; returns how many there were. The standard forbids such vectors, and a viewer shows black spots.
 */
export function giveDirections(document: Document): number {
  const done = new Set<Accessor>()
  let mended = 0
  for (const mesh of document.getRoot().listMeshes())
    for (const primitive of mesh.listPrimitives()) {
      const normal = primitive.getAttribute('NORMAL'),
        tangent = primitive.getAttribute('TANGENT')
      if (normal && !done.has(normal)) mended += mendNormals(primitive, normal)
      if (tangent && !done.has(tangent)) mended += mendTangents(tangent, normal)
      for (const accessor of [normal, tangent]) if (accessor) done.add(accessor)
    }
  return mended
}

const hasDirection = (v: readonly number[]): boolean => {
  const length = Math.hypot(v[0]!, v[1]!, v[2]!)
  return length > SHORTEST && Number.isFinite(length)
}

/** Elements of an accessor without a direction. */
function withoutDirection(accessor: Accessor): number[] {
  const found: number[] = [],
    element: number[] = []
  for (let i = 0; i < accessor.getCount(); i++)
    if (!hasDirection(accessor.getElement(i, element))) found.push(i)
  return found
}

function mendNormals(primitive: Primitive, normal: Accessor): number {
  const bad = withoutDirection(normal)
  if (bad.length === 0) return 0
  const faces = faceNormals(primitive, new Set(bad))
  for (const i of bad) {
    const sum = faces.get(i) ?? [0, 0, 0]
    const length = Math.hypot(...sum)
    normal.setElement(i, length > 0 && Number.isFinite(length) ? sum.map((v) => v / length) : [0, 1, 0])
  }
  return bad.length
}

/** For some vertices the sum of their faces' normals, each as long as twice its area. */
function faceNormals(primitive: Primitive, wanted: ReadonlySet<number>): Map<number, number[]> {
  const sums = new Map<number, number[]>(),
    position = primitive.getAttribute('POSITION'),
    indices = primitive.getIndices()
  const count = indices?.getCount() ?? position?.getCount() ?? 0
  if (!position || primitive.getMode() !== 4) return sums
  const corner = (k: number): number => (indices ? indices.getScalar(k) : k)
  for (let t = 0; t + 2 < count; t += 3) {
    const corners = [corner(t), corner(t + 1), corner(t + 2)]
    if (!corners.some((c) => wanted.has(c)) || corners.some((c) => c >= position.getCount())) continue
    const [a, b, c] = corners.map((i): number[] => position.getElement(i, [])) as [
      number[],
      number[],
      number[],
    ]
    const u = [0, 1, 2].map((k) => b[k]! - a[k]!),
      v = [0, 1, 2].map((k) => c[k]! - a[k]!)
    const n = [u[1]! * v[2]! - u[2]! * v[1]!, u[2]! * v[0]! - u[0]! * v[2]!, u[0]! * v[1]! - u[1]! * v[0]!]
    if (!n.every(Number.isFinite)) continue
    for (const i of corners)
      if (wanted.has(i))
        sums.set(
          i,
          (sums.get(i) ?? [0, 0, 0]).map((s, k) => s + n[k]!),
        )
  }
  return sums
}

function mendTangents(tangent: Accessor, normal: Accessor | null): number {
  let mended = 0
  const element: number[] = []
  for (let i = 0; i < tangent.getCount(); i++) {
    const [x, y, z, w] = tangent.getElement(i, element) as [number, number, number, number]
    const sign = w < 0 ? -1 : 1
    if (hasDirection([x, y, z]) && w === sign) continue
    const across = hasDirection([x, y, z]) ? [x, y, z] : squareTo(normal?.getElement(i, []) ?? [0, 1, 0])
    tangent.setElement(i, [...across, sign])
    mended++
  }
  return mended
}

/** A unit vector that stands square to another: across the axis that it leans to least. */
function squareTo(n: readonly number[]): number[] {
  const least = [0, 1, 2].reduce((best, k) => (Math.abs(n[k]!) < Math.abs(n[best]!) ? k : best), 0)
  const axis = [0, 1, 2].map((k) => (k === least ? 1 : 0)),
    dot = n[least]!
  const across = axis.map((v, k) => v - dot * n[k]!),
    length = Math.hypot(...across)
  return across.map((v) => v / length)
}
