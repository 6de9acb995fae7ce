import { inKernels, triangleBlocks } from '../kernels/inKernels'

/** Vertices that stay transformed in the cache which the figures are for. */
export const CACHE_SIZE = 16

/** How well a triangle list makes use of transformed vertices. */
export interface CacheUse {
  /** Vertices transformed per triangle: 3 at worst, about 0.6 at best. */
  acmr: number
  /** Times that a used vertex is transformed, on average: 1 at best. */
  atvr: number
}

/**
 * Runs a triangle list through a first-in first-out cache (Sander, Nehab and Barczak 2007, section 3). Vertex
 * numbers beyond `vertices` are left out; null when there is no triangle.
 */
export function vertexCacheUse(indices: Uint32Array, vertices: number): CacheUse | null {
  return inKernels((room) => {
    const entered = room.filled(vertices * 4),
      state = room.filled(8),
      begin = CACHE_SIZE + 1
    room.words(state, 1)[0] = begin
    triangleBlocks(room, indices, (at, _from, count) => {
      room.run.cacheUse(at, count * 3, vertices, CACHE_SIZE, entered, state)
    })
    const [time, used] = room.words(state, 2) as unknown as [number, number]
    const misses = time - begin,
      triangles = Math.floor(indices.length / 3)
    return triangles === 0 || used === 0 ? null : { acmr: misses / triangles, atvr: misses / used }
  })
}
