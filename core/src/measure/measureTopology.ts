import type { TopologyFacts } from '@stern-gate/contract'
import { FACE_CRUMB, FACE_DUPLICATE, FACE_INSIDE_OUT, FACE_NON_MANIFOLD, FACE_OPEN, meshTopology } from '../geometry/meshTopology'
import { nearPoints } from '../geometry/nearPoints'
import { boundsSize } from '../geometry/pointBounds'
import type { AddEvidence } from './evidence'
import { cornersOf, type PlacedMesh } from './placedMesh'

/** Points nearer than this share of the bounds diagonal were meant to be one. */
export const NEAR_SHARE = 1e-5

const kinds: [name: string, flag: number][] = [['open', FACE_OPEN], ['non-manifold', FACE_NON_MANIFOLD], ['duplicate', FACE_DUPLICATE], ['inside-out', FACE_INSIDE_OUT], ['crumb', FACE_CRUMB]]

/** How all triangles of a node hang together; null when it has none. `shell` is left for those who ask on. */
export function measureTopology(mesh: PlacedMesh, path: string, addEvidence: AddEvidence): { facts: TopologyFacts; shell: Uint32Array; corners: Uint32Array } | null {
  const corners = cornersOf(mesh)
  if (corners.length === 0) return null
  const { flags, shell, ...counts } = meshTopology(corners, mesh.places, mesh.winding)
  let from = 0
  mesh.primitives.forEach(({ view }, index) => {
    const own = flags.subarray(from, (from += Math.floor(view.indices.length / 3)))
    for (const [name, flag] of kinds) addEvidence(`${name}:${path}:${index}`, flagged(own, flag))
  })
  const diagonal = mesh.bounds ? Math.hypot(...boundsSize(mesh.bounds)) : 0
  const nearDistance = diagonal * NEAR_SHARE
  const { openEdges, nonManifoldEdges, turnedEdges, shells, closedShells, insideOut, duplicates, volume, borders, holes, crumbs } = counts
  return { shell, corners, facts: { points: mesh.places.length / 3, near: nearPoints(mesh.places, nearDistance).near, nearDistance, openEdges, nonManifoldEdges, turnedEdges, shells, closedShells, insideOut, duplicates, volume, borders, holes, crumbs } }
}

function flagged(flags: Uint8Array, flag: number): Uint32Array {
  let count = 0
  for (let t = 0; t < flags.length; t++) if (flags[t]! & flag) count++
  const found = new Uint32Array(count)
  if (count > 0) for (let t = 0, at = 0; t < flags.length; t++) if (flags[t]! & flag) found[at++] = t
  return found
}
