import type { Bounds, MeshFacts, NodeFacts } from '@stern-gate/contract'
import { claimedAir } from '../geometry/claimedAir'
import { convexHull, outOfHull, type Hull } from '../geometry/convexHull'
import { mirrorSymmetry } from '../geometry/mirrorSymmetry'
import { boundsSize, joinBounds } from '../geometry/pointBounds'
import { surfaceSamples } from '../geometry/surfaceSamples'
import { triangleCount, trianglesOf, type PlacedMesh } from './placedMesh'

const SAMPLES = 4096
const SEED = 20_240_917
/** A collision mesh with more triangles than this is no collision mesh; no hull is made of it. */
const MOST_HULL_TRIANGLES = 20_000
/** A shell is convex when it fills its hull but for this share. */
const CONVEX_SHARE = 0.999
/** A sample stands out when it is further out than this share of the longest side. */
const OUT_SHARE = 0.005

/** Symmetry and centre of a surface; null without one. */
export function measureShape(
  level: readonly PlacedMesh[],
  bounds: Bounds | null,
): { facts: MeshFacts['shape']; samples: Float32Array } {
  const samples = surfaceSamples(trianglesOf(level), SAMPLES, SEED)
  if (!bounds || samples.length === 0) return { facts: null, samples }
  const centroid: [number, number, number] = [0, 0, 0]
  for (let k = 0; k < samples.length; k++) centroid[k % 3]! += samples[k]! / (samples.length / 3)
  return { facts: { symmetry: mirrorSymmetry(samples, bounds), centroid }, samples }
}

export interface ShellHulls {
  facts: NonNullable<NodeFacts['hull']>
  hulls: Hull[]
}

/**
 * The hull of each shell of a collision mesh, and whether the shells are their own hulls; null when none can
 * be made.
 */
export function measureHulls(
  mesh: PlacedMesh,
  shell: Uint32Array,
  corners: Uint32Array,
  closedVolume: { closedShells: number; shells: number; volume: number },
): ShellHulls | null {
  if (corners.length / 3 > MOST_HULL_TRIANGLES) return null
  const byShell = new Map<number, number[]>()
  for (let t = 0; t < shell.length; t++) {
    const list = byShell.get(shell[t]!) ?? []
    byShell.set(shell[t]!, list)
    for (let i = 0; i < 3; i++) {
      const p = corners[t * 3 + i]! * 3
      if (p + 2 < mesh.places.length) list.push(mesh.places[p]!, mesh.places[p + 1]!, mesh.places[p + 2]!)
    }
  }
  const hulls = [...byShell.values()].flatMap((points) => convexHull(new Float32Array(points)) ?? [])
  if (hulls.length === 0) return null
  const volume = hulls.reduce((sum, h) => sum + h.volume, 0)
  const closed = closedVolume.closedShells === closedVolume.shells && hulls.length === byShell.size
  return {
    hulls,
    facts: {
      volume,
      corners: hulls.reduce((sum, h) => sum + h.corners, 0),
      faces: hulls.reduce((sum, h) => sum + h.faces, 0),
      convex: closed && closedVolume.volume >= volume * CONVEX_SHARE,
    },
  }
}

/** How far the surface stands out of all hulls together; null without hulls or samples. */
export function measureFit(
  samples: Float32Array,
  bounds: Bounds | null,
  hulls: readonly Hull[],
  placed: { shown: readonly PlacedMesh[]; solid: readonly PlacedMesh[] },
): MeshFacts['fit'] {
  const count = samples.length / 3
  if (!bounds || count === 0 || hulls.length === 0) return null
  const tolerance = Math.max(...boundsSize(bounds)) * OUT_SHARE
  let outside = 0,
    farthest = 0
  for (let k = 0; k < samples.length; k += 3) {
    let out = Infinity
    for (const hull of hulls)
      out = Math.min(out, outOfHull(hull, samples[k]!, samples[k + 1]!, samples[k + 2]!))
    if (out > tolerance) outside++
    if (out > farthest) farthest = out
  }
  return {
    samples: count,
    shareOutside: outside / count,
    farthestOut: farthest,
    hullVolume: hulls.reduce((sum, h) => sum + h.volume, 0),
    air: airOf(hulls, placed),
  }
}

/** A surface of more triangles is not looked at, nor are more shapes: it would take longer than all else. */
const MOST_AIR_TRIANGLES = 1_000_000,
  MOST_AIR_SHAPES = 64
const AIR_FIGURES = 3

function airOf(
  hulls: readonly Hull[],
  { shown, solid }: { shown: readonly PlacedMesh[]; solid: readonly PlacedMesh[] },
): number | null {
  const bounds = joinBounds([...shown, ...solid].map((m) => m.bounds))
  const surface = trianglesOf(shown)
  if (!bounds || triangleCount(surface) > MOST_AIR_TRIANGLES || hulls.length > MOST_AIR_SHAPES) return null
  const air = claimedAir(surface, hulls, bounds)
  return air === null ? null : Number(air.toPrecision(AIR_FIGURES))
}
