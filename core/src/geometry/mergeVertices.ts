/** One attribute of vertices, `size` numbers each; two vertices agree when no number differs by more than the tolerance. */
export interface VertexAttribute { values: Float32Array; size: number; tolerance: number }

/** `rep` gives each vertex the earlier one that it equals, or itself. */
export interface MergedVertices { rep: Uint32Array; merged: number }

/** At most this many different vertices of one point are compared; a fan of more is left unmerged, so that time stays linear. */
const MOST_AT_A_POINT = 96

/** Finds vertices that share a point and agree in every attribute. `points` gives each vertex its point, below `pointCount`. */
export function mergeVertices(points: Uint32Array, pointCount: number, attributes: readonly VertexAttribute[]): MergedVertices {
  const vertices = points.length
  const rep = new Uint32Array(vertices)
  const heads = new Int32Array(pointCount).fill(-1), next = new Int32Array(vertices).fill(-1)
  let merged = 0
  for (let v = 0; v < vertices; v++) {
    const point = points[v]!
    let found = -1, looked = 0
    for (let other = heads[point]!; other !== -1 && looked < MOST_AT_A_POINT; other = next[other]!, looked++)
      if (agree(attributes, v, other)) {
        found = other
        break
      }
    if (found >= 0) {
      rep[v] = found
      merged++
    } else {
      rep[v] = v
      next[v] = heads[point]!
      heads[point] = v
    }
  }
  return { rep, merged }
}

function agree(attributes: readonly VertexAttribute[], a: number, b: number): boolean {
  for (const { values, size, tolerance } of attributes)
    for (let i = 0; i < size; i++) if (!(Math.abs(values[a * size + i]! - values[b * size + i]!) <= tolerance)) return false
  return true
}
