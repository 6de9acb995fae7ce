import { BufferAttribute, BufferGeometry } from 'three'
import type { Bounds } from '@stern-gate/contract'

/** A triangle list in the world; `turned`: its winding is the wrong way round, as under a mirrored node. */
export interface TriangleList {
  positions: Float32Array
  indices: Uint32Array
  turned: boolean
}

/**
 * One geometry of all triangles, or of those that come into a box; its vertices are those of the lists, one after the
 * other. Corners that no vertex has, or that are no places, are left out; null where no triangle is left.
 */
export function joinTriangles(
  parts: readonly TriangleList[],
  within: Bounds | null = null,
): BufferGeometry | null {
  const positions = new Float32Array(parts.reduce((sum, p) => sum + p.positions.length, 0))
  const indices = new Uint32Array(parts.reduce((sum, p) => sum + p.indices.length, 0))
  let first = 0,
    at = 0
  for (const { positions: own, indices: corners, turned } of parts) {
    positions.set(own, first * 3)
    const count = own.length / 3
    for (let t = 0; t + 2 < corners.length; t += 3) {
      const a = corners[t]!,
        b = corners[t + 1]!,
        c = corners[t + 2]!
      if (a >= count || b >= count || c >= count) continue
      if (!isPlace(own, a) || !isPlace(own, b) || !isPlace(own, c)) continue
      if (within && isOutside(own, a, b, c, within)) continue
      indices[at++] = first + a
      indices[at++] = first + (turned ? c : b)
      indices[at++] = first + (turned ? b : c)
    }
    first += count
  }
  if (at === 0) return null
  return new BufferGeometry()
    .setAttribute('position', new BufferAttribute(positions, 3))
    .setIndex(new BufferAttribute(indices.slice(0, at), 1))
}

const isPlace = (p: Float32Array, v: number): boolean =>
  Number.isFinite(p[v * 3]! + p[v * 3 + 1]! + p[v * 3 + 2]!)

/** Whether all corners of a triangle lie beyond the same side of a box. */
function isOutside(p: Float32Array, a: number, b: number, c: number, { min, max }: Bounds): boolean {
  for (let i = 0; i < 3; i++) {
    const [u, v, w] = [p[a * 3 + i]!, p[b * 3 + i]!, p[c * 3 + i]!]
    if (Math.max(u, v, w) < min[i]! || Math.min(u, v, w) > max[i]!) return true
  }
  return false
}
