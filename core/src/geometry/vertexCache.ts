/** Vertices that stay transformed in the cache which the figures are for. */
export const CACHE_SIZE = 16

/** How well a triangle list makes use of transformed vertices. */
export interface CacheUse {
  /** Vertices transformed per triangle: 3 at worst, about 0.6 at best. */
  acmr: number
  /** Times that a used vertex is transformed, on average: 1 at best. */
  atvr: number
}

/** Runs a triangle list through a first-in first-out cache (Sander, Nehab and Barczak 2007, section 3). Vertex numbers beyond `vertices` are left out; null when there is no triangle. */
export function vertexCacheUse(indices: Uint32Array, vertices: number): CacheUse | null {
  const entered = new Uint32Array(vertices)
  // An entry stays for as many misses as the cache is long; 0 means never seen
  let time = CACHE_SIZE + 1, used = 0
  for (let k = 0; k < indices.length; k++) {
    const v = indices[k]!
    if (v >= vertices) continue
    const since = entered[v]!
    if (time - since <= CACHE_SIZE) continue
    if (since === 0) used++
    entered[v] = time++
  }
  const misses = time - CACHE_SIZE - 1, triangles = Math.floor(indices.length / 3)
  return triangles === 0 || used === 0 ? null : { acmr: misses / triangles, atvr: misses / used }
}
