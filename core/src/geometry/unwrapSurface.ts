import type { Atlas, Mesh } from 'watlas'
import { bad, good, type Outcome } from '@stern-gate/contract'
import { triangleSurvey } from './triangleSurvey'

/** A piece of a surface: places (xyz per vertex) and triangles (three vertices each). */
export interface SurfacePart {
  positions: Float32Array
  indices: Uint32Array
}

/**
 * The same piece cut at the seams: the vertex that each new one comes from, its place on the sheet (uv), the
 * triangles.
 */
export interface UnwrappedPart {
  source: Uint32Array
  uvs: Float32Array
  indices: Uint32Array
}

export interface Unwrapped {
  parts: UnwrappedPart[]
  islands: number
}

/** The sheet's edge keeps this free, in texels. */
const EDGE = 1
const MOST_TRIES = 10
/** A density is good enough within this share of one that no longer fits. */
const NEAR_ENOUGH = 0.96
/**
 * Growing an island takes the square of its triangles: a surface of many is cut into pieces of about this
 * number.
 */
const MANY_TRIANGLES = 8000,
  ISLAND_TRIANGLES = 400

/**
 * Cuts a surface into islands and lays them on one square sheet from 0 to 1, evenly, none over another: at
 * `size` texels at least `gap` of them lie between islands and one at the edge. Charts and packing are those
 * of xatlas. Faults: remedy/not-applicable where the gaps leave no room or the surface cannot be cut.
 */
export async function unwrapSurface(
  parts: readonly SurfacePart[],
  { size, gap }: { size: number; gap: number },
): Promise<Outcome<Unwrapped>> {
  const scale = scaleToOne(parts)
  if (scale === null)
    return bad(
      'remedy/not-applicable',
      'The surface has points that are no numbers, or triangles that name a vertex that is not there.',
      'Mend the mesh first.',
    )
  const watlas = await import('watlas')
  await watlas.Initialize()
  const atlas: Atlas = new watlas.Atlas()
  try {
    for (const { positions, indices } of parts)
      atlas.addMesh({
        vertexPositionData: positions.map((v) => v * scale),
        vertexCount: positions.length / 3,
        vertexPositionStride: 12,
        indexData: indices,
        indexCount: indices.length,
      })
    atlas.computeCharts({ maxChartArea: largestIsland(parts) * scale * scale, fixWinding: true })
    const fits = fitOnSheet(atlas, size - 2 * EDGE, gap)
    if (atlas.chartCount === 0)
      return bad(
        'remedy/not-applicable',
        'The surface has no triangle that could lie on a sheet.',
        'Mend the mesh first: its triangles have no area.',
      )
    if (!fits)
      return bad(
        'remedy/not-applicable',
        `${atlas.chartCount} islands with ${gap} texels between them do not fit on ${size} × ${size} texels.`,
        'Take a larger lightmap or a smaller gap.',
      )
    return good({ parts: parts.map((_, i) => readPart(atlas.getMesh(i), size)), islands: atlas.chartCount })
  } catch {
    return bad(
      'remedy/not-applicable',
      'The surface cannot be cut into islands.',
      'Mend the mesh first: points that are no numbers, triangles without an area.',
    )
  } finally {
    atlas.delete()
  }
}

/**
 * Factor that brings the largest coordinate to one: xatlas knows lengths of everyday size only. Null where it
 * would hang: at points that are no numbers or not there.
 */
function scaleToOne(parts: readonly SurfacePart[]): number | null {
  let largest = 0
  for (const { positions, indices } of parts) {
    for (const v of positions) largest = Math.max(largest, Math.abs(v))
    if (!Number.isFinite(largest) || indices.some((i) => i * 3 >= positions.length)) return null
  }
  return largest === 0 ? 1 : 1 / largest
}

/** Area that no island should pass; 0 for none. */
function largestIsland(parts: readonly SurfacePart[]): number {
  const triangles = parts.reduce((sum, p) => sum + p.indices.length / 3, 0)
  return triangles <= MANY_TRIANGLES
    ? 0
    : (parts.reduce((sum, p) => sum + triangleSurvey(p.positions, p.indices, 0).area, 0) * ISLAND_TRIANGLES) /
        triangles
}

/**
 * Packs at the greatest density found for which the sheet has room: the packer only comes near the size that
 * it is asked for. Islands keep their direction: the packer turns them by swapping u and v, which would
 * mirror them.
 */
function fitOnSheet(atlas: Atlas, room: number, gap: number): boolean {
  const pack = (density: number): number => {
    atlas.packCharts({
      padding: gap,
      resolution: density === 0 ? room : 0,
      texelsPerUnit: density,
      bilinear: false,
      rotateCharts: false,
      rotateChartsToAxis: true,
    })
    return atlas.atlasCount > 1 ? Infinity : Math.max(atlas.width, atlas.height)
  }
  let side = pack(0),
    density = atlas.texelsPerUnit,
    fits = 0,
    tooDense = Infinity
  for (let i = 0; i < MOST_TRIES && fits < tooDense * NEAR_ENOUGH; i++) {
    if (side <= room) fits = density
    else tooDense = density
    const wanted = density * (room / side)
    density =
      wanted > fits && wanted < tooDense
        ? wanted
        : tooDense < Infinity
          ? (fits + tooDense) / 2
          : density * 1.05
    side = pack(density)
  }
  if (side <= room) return true
  return fits > 0 && pack(fits) <= room
}

function readPart(mesh: Mesh, size: number): UnwrappedPart {
  const count = mesh.vertexCount
  const source = new Uint32Array(count),
    uvs = new Float32Array(count * 2),
    indices = new Uint32Array(mesh.indexCount)
  mesh.getIndexArray(indices)
  for (let v = 0; v < count; v++) {
    const { uv, xref } = mesh.getVertex(v)
    source[v] = xref
    uvs[v * 2] = (uv[0] + EDGE) / size
    uvs[v * 2 + 1] = (uv[1] + EDGE) / size
  }
  return { source, uvs, indices }
}
