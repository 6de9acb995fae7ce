import type { Document } from '@gltf-transform/core'
import type { ChainFacts } from '@stern-gate/contract'
import { outlineDifference } from '../geometry/outlines'
import { boundsRadius, joinBounds } from '../geometry/pointBounds'
import { comparedCuts, hashOfLeast, quadsAt, type SharedCuts } from '../geometry/quadSample'
import { deviationFrom } from '../geometry/surfaceDeviation'
import { switchCoverages } from '../read/lodExtension'
import { hashedSurface, triangleCount, trianglesOf, type PlacedMesh } from './placedMesh'

/** Samples on each surface of each pair of levels. */
const SAMPLES = 8192
/** Levels of more triangles together are not compared: it would take longer than all else. */
const MOST_TRIANGLES = 2_000_000
const FIGURES = 5
/** Places of a coarser level whose quads are looked at. */
const QUAD_PLACES = 400
const NOISE = 1e-7

/** How far every coarser level is off the finest; null for one level, and for what is too large to be looked at. */
export function measureChain(
  document: Document,
  byLevel: ReadonlyMap<number, readonly PlacedMesh[]>,
): ChainFacts | null {
  const [first, ...coarser] = [...byLevel].sort(([a], [b]) => a - b)
  const coverages = switchCoverages(document)
  // One level and a coverage under which it is not drawn is a chain, too
  if (!first || (coarser.length === 0 && !coverages)) return null
  const bounds = joinBounds(first[1].map((m) => m.bounds)),
    finest = { parts: trianglesOf(first[1]) },
    others = coarser.map(([level, meshes]) => ({ level, meshes, parts: trianglesOf(meshes) }))
  const triangles = [finest, ...others].reduce((sum, { parts }) => sum + triangleCount(parts), 0)
  if (!bounds || triangles > MOST_TRIANGLES) return null
  const radius = boundsRadius(bounds),
    deviationOf = deviationFrom(finest)
  // What is this little against the whole is noise of single numbers
  const length = (metres: number): number => (metres < radius * NOISE ? 0 : rounded(metres))
  const hashedOf = (meshes: readonly PlacedMesh[]) => meshes.map((mesh) => hashedSurface(mesh, bounds))
  const own = hashedOf(first[1])
  const cutsOf = (meshes: readonly PlacedMesh[]): SharedCuts => {
    const surfaces = hashedOf(meshes),
      upTo = hashOfLeast(surfaces, QUAD_PLACES)
    return comparedCuts(quadsAt(surfaces, upTo), quadsAt(own, upTo))
  }
  const errors = others.flatMap(({ level, meshes, parts }) => {
    const deviation = deviationOf({ parts }, SAMPLES)
    if (!deviation) return []
    const { most, within99, normals, uv, samples } = deviation
    return [
      {
        level,
        most: length(most),
        within99: length(within99),
        normals: rounded(normals),
        uv: uv === null ? null : rounded(uv),
        outline: outlineDifference(finest.parts, parts, bounds),
        samples,
        cuts: cutsOf(meshes),
      },
    ]
  })
  return {
    errors,
    radius: rounded(radius),
    coverages,
  }
}

const rounded = (value: number): number => Number(value.toPrecision(FIGURES))
