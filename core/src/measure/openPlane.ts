import type { Bounds, TopologyFacts } from '@stern-gate/contract'

type OpenPlane = NonNullable<TopologyFacts['openPlane']>

/** Points so near a plane, in diagonals of the bounds, lie in it. */
const IN_PLANE = 1e-4
/** So much of all open edges lies in one plane where a half was cut off; a few holes elsewhere do not hide it. */
const MOST_OF_THEM = 0.95
const FEWEST = 3

/** Triangles with an open edge: three point numbers each. */
export interface OpenTriangles {
  corners: readonly number[]
  places: Float32Array
}

/**
 * The axis plane at an end of the bounds in which the open edges lie, so that everything stands on one side of it;
 * null where they do not. A triangle that lies in the plane itself is a cover, and its edges do not count.
 */
export function openPlane(
  { corners, places }: OpenTriangles,
  openEdges: number,
  bounds: Bounds | null,
): OpenPlane | null {
  if (!bounds || openEdges < FEWEST) return null
  const tolerance = IN_PLANE * Math.hypot(...bounds.max.map((v, k) => v - bounds.min[k]!))
  let best: OpenPlane | null = null
  for (const axis of [0, 1, 2] as const)
    for (const [side, at] of [
      ['above', bounds.min[axis]],
      ['below', bounds.max[axis]],
    ] as const) {
      const edges = edgesIn(corners, places, axis, at, tolerance)
      if (edges >= MOST_OF_THEM * openEdges && edges > (best?.edges ?? 0))
        best = { axis: (['X', 'Y', 'Z'] as const)[axis], at, side, edges: Math.min(edges, openEdges) }
    }
  return best
}

function edgesIn(
  corners: readonly number[],
  places: Float32Array,
  axis: number,
  at: number,
  tolerance: number,
): number {
  let edges = 0
  const isIn = (point: number): number => (Math.abs(places[point * 3 + axis]! - at) <= tolerance ? 1 : 0)
  for (let t = 0; t + 2 < corners.length; t += 3) {
    const inPlane = isIn(corners[t]!) + isIn(corners[t + 1]!) + isIn(corners[t + 2]!)
    if (inPlane === 2) edges++
  }
  return edges
}
