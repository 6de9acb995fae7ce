import type { TopologyFacts } from '@stern-gate/contract'
import {
  FACE_CRUMB,
  FACE_DUPLICATE,
  FACE_INSIDE_OUT,
  FACE_NON_MANIFOLD,
  FACE_OPEN,
} from '../geometry/meshTopology'
import { boundsSize } from '../geometry/pointBounds'
import type { CountTopology } from './countTopology'
import type { AddEvidence } from './evidence'
import { openPlane } from './openPlane'
import { cornersOf, type PlacedMesh } from './placedMesh'

/** Points nearer than this share of the bounds diagonal were meant to be one. */
export const NEAR_SHARE = 1e-5

const kinds: [name: string, flag: number][] = [
  ['open', FACE_OPEN],
  ['non-manifold', FACE_NON_MANIFOLD],
  ['duplicate', FACE_DUPLICATE],
  ['inside-out', FACE_INSIDE_OUT],
  ['crumb', FACE_CRUMB],
]

export interface MeasuredTopology {
  facts: TopologyFacts
  /** Root triangle of each triangle's shell. */ shell: Uint32Array
}

/**
 * How all triangles of a node hang together; null when it has none. Counting begins at once, what it gives is
 * taken when it is called for.
 */
export function measureTopology(
  mesh: PlacedMesh,
  path: string,
  addEvidence: AddEvidence,
  count: CountTopology,
): () => Promise<MeasuredTopology | null> {
  const corners = cornersOf(mesh)
  if (corners.length === 0) return () => Promise.resolve(null)
  const nearDistance = mesh.bounds ? Math.hypot(...boundsSize(mesh.bounds)) * NEAR_SHARE : 0
  const counted = count({ corners, places: mesh.places, winding: mesh.winding, nearDistance })
  // Until it is called for nobody listens
  counted.catch(() => undefined)
  return async () => {
    const {
      topology: { flags, shell, ...counts },
      near,
    } = await counted
    const open: number[] = []
    let from = 0
    mesh.primitives.forEach(({ view, points }, index) => {
      const own = flags.subarray(from, (from += Math.floor(view.indices.length / 3)))
      const lists = flagged(
        own,
        kinds.map(([, flag]) => flag),
      )
      kinds.forEach(([name], k) => addEvidence(`${name}:${path}:${index}`, lists[k]!))
      for (const t of lists[0]!) for (let c = 0; c < 3; c++) open.push(points[view.indices[t * 3 + c]!]!)
    })
    const {
      openEdges,
      nonManifoldEdges,
      turnedEdges,
      shells,
      closedShells,
      insideOut,
      duplicates,
      volume,
      borders,
      holes,
      crumbs,
    } = counts
    return {
      shell,
      facts: {
        points: mesh.places.length / 3,
        near,
        nearDistance,
        openEdges,
        nonManifoldEdges,
        turnedEdges,
        shells,
        closedShells,
        insideOut,
        duplicates,
        volume,
        borders,
        holes,
        openPlane: openPlane({ corners: open, places: mesh.places }, openEdges, mesh.bounds),
        crumbs,
      },
    }
  }
}

/** For each of the flags the triangles that have it, in one walk. */
function flagged(flags: Uint8Array, wanted: readonly number[]): Uint32Array[] {
  const found = wanted.map((): number[] => [])
  for (let t = 0; t < flags.length; t++) {
    if (flags[t] === 0) continue
    for (let k = 0; k < wanted.length; k++) if (flags[t]! & wanted[k]!) found[k]!.push(t)
  }
  return found.map((list) => Uint32Array.from(list))
}
