/** A triangle counts as degenerate below this share of the squared bounds diagonal. */
export const DEGENERATE_AREA_SHARE = 1e-12

export interface TriangleSurvey {
  /** Sum of the areas, in the squared unit of the positions. */
  area: number
  /** Area of each triangle; 0 where indices are bad. */
  areas: Float32Array
  /** Triangle numbers whose area is below the limit, or that name a vertex twice. */
  degenerate: Uint32Array
  /** Triangle numbers that name a vertex which is not there. */
  badIndices: Uint32Array
}

/**
 * Walks a triangle list once. `positions` holds x y z for each vertex, `indices` three vertex numbers for each triangle; indices are
 * checked. `areaLimit` is absolute. Triangles with positions that are not finite count neither as area nor as degenerate.
 */
export function triangleSurvey(positions: Float32Array, indices: Uint32Array, areaLimit: number): TriangleSurvey {
  const vertices = positions.length / 3
  const degenerate: number[] = []
  const badIndices: number[] = []
  const areas = new Float32Array(Math.floor(indices.length / 3))
  let area = 0
  for (let t = 0; t * 3 + 2 < indices.length; t++) {
    const a = indices[t * 3]!, b = indices[t * 3 + 1]!, c = indices[t * 3 + 2]!
    if (a >= vertices || b >= vertices || c >= vertices) {
      badIndices.push(t)
      continue
    }
    const x = positions[a * 3]!, y = positions[a * 3 + 1]!, z = positions[a * 3 + 2]!
    const ux = positions[b * 3]! - x, uy = positions[b * 3 + 1]! - y, uz = positions[b * 3 + 2]! - z
    const vx = positions[c * 3]! - x, vy = positions[c * 3 + 1]! - y, vz = positions[c * 3 + 2]! - z
    const cx = uy * vz - uz * vy, cy = uz * vx - ux * vz, cz = ux * vy - uy * vx
    const own = Math.sqrt(cx * cx + cy * cy + cz * cz) / 2
    areas[t] = own
    if (own <= areaLimit) degenerate.push(t)
    if (own === own && own !== Infinity) area += own
  }
  return { area, areas, degenerate: Uint32Array.from(degenerate), badIndices: Uint32Array.from(badIndices) }
}

/** Number of points (x y z …) with a coordinate that is not finite. */
export function notFinitePoints(positions: Float32Array): number {
  let count = 0
  for (let k = 0; k + 2 < positions.length; k += 3)
    if (!Number.isFinite(positions[k]! + positions[k + 1]! + positions[k + 2]!)) count++
  return count
}
