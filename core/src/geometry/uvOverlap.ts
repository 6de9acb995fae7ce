import { hashBits, tableSize } from './pointIds'
import { sharedArea } from './triangleClip'

export interface UvOverlap {
  covered: number
  overlapped: number
  within: number
  /** Triangles that overlap another, in rising order. */
  triangles: Uint32Array
  stacked: number
  exact: boolean
}

/** More pairs than this are not clipped one by one; the area is then the raster's. */
const MOST_PAIRS = 3_000_000
/** Of the triangles that meet in one texel, at most this many are paired with one another. */
const MOST_IN_A_TEXEL = 48
const LEAST_SIDE = 1024
const MOST_SIDE = 4096
/** Rounding of 32-bit UVs: less than this shared is none, in sheets and as a share of the smaller triangle. */
const NO_AREA = 2e-10
const NO_SHARE = 1e-4

/**
 * Measures where triangles lie over one another on a sheet, as they lie (not wrapped). `uv` holds u v of each vertex, `islandOf` the island of each triangle. First every triangle counts up the texels whose
 * middle it covers, on a grid over the bounds with at least two texels a triangle side; shared edges count once by the fill rule. Only triangles in texels that were counted twice go on: equal ones are found as stacks,
 * the rest is clipped pair by pair. What overlaps by less than a texel of the grid is not found.
 */
export function uvOverlap(uv: Float32Array, indices: Uint32Array, islandOf: Uint32Array): UvOverlap {
  const laid = layTriangles(uv, indices)
  const grid = gridOf(laid)
  if (!grid) return { covered: 0, overlapped: 0, within: 0, triangles: new Uint32Array(0), stacked: 0, exact: true }
  const counts = new Uint8Array(grid.width * grid.height)
  for (let t = 0; t < laid.length / 6; t++) eachTexel(laid, t * 6, grid, (at) => { if (counts[at]! < 255) counts[at]!++ })
  const texelArea = grid.step * grid.step
  let covered = 0, doubled = 0
  for (const n of counts) if (n > 0) {
    covered++
    if (n > 1) doubled++
  }
  if (doubled === 0) return { covered: covered * texelArea, overlapped: 0, within: 0, triangles: new Uint32Array(0), stacked: 0, exact: true }
  return { covered: covered * texelArea, ...overlapOf({ laid, grid, counts, islandOf, rasterArea: doubled * texelArea }) }
}

/** u v of each triangle's corners, one after the other; NaN for triangles with bad indices. */
function layTriangles(uv: Float32Array, indices: Uint32Array): Float64Array {
  const laid = new Float64Array(indices.length - (indices.length % 3) << 1)
  for (let k = 0; k * 2 < laid.length; k++) {
    const v = indices[k]! * 2
    laid[k * 2] = v < uv.length ? uv[v]! : NaN
    laid[k * 2 + 1] = v < uv.length ? uv[v + 1]! : NaN
  }
  return laid
}

interface Grid { u0: number; v0: number; step: number; width: number; height: number }

function gridOf(laid: Float64Array): Grid | null {
  let u0 = Infinity, v0 = Infinity, u1 = -Infinity, v1 = -Infinity
  for (let k = 0; k < laid.length; k += 2) {
    const u = laid[k]!, v = laid[k + 1]!
    if (!Number.isFinite(u + v)) continue
    if (u < u0) u0 = u
    if (u > u1) u1 = u
    if (v < v0) v0 = v
    if (v > v1) v1 = v
  }
  const extent = Math.max(u1 - u0, v1 - v0)
  if (!(extent > 0)) return null
  let side = LEAST_SIDE
  while (side < MOST_SIDE && side * side < (laid.length / 6) * 4) side *= 2
  const step = extent / side
  return { u0, v0, step, width: Math.max(1, Math.ceil((u1 - u0) / step)), height: Math.max(1, Math.ceil((v1 - v0) / step)) }
}

/** Calls with the number of every texel whose middle lies in the triangle; a middle on an edge belongs to the left or upper side. */
function eachTexel(laid: Float64Array, k: number, { u0, v0, step, width, height }: Grid, visit: (texel: number) => void): void {
  let ax = (laid[k]! - u0) / step - 0.5, ay = (laid[k + 1]! - v0) / step - 0.5
  const bx = (laid[k + 2]! - u0) / step - 0.5, by = (laid[k + 3]! - v0) / step - 0.5
  let cx = (laid[k + 4]! - u0) / step - 0.5, cy = (laid[k + 5]! - v0) / step - 0.5
  const twice = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
  if (!(twice !== 0 && Number.isFinite(twice))) return
  if (twice < 0) {
    const x = ax, y = ay
    ax = cx
    ay = cy
    cx = x
    cy = y
  }
  const left = Math.max(0, Math.ceil(Math.min(ax, bx, cx))), right = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx)))
  const top = Math.max(0, Math.ceil(Math.min(ay, by, cy))), bottom = Math.min(height - 1, Math.floor(Math.max(ay, by, cy)))
  if (left > right || top > bottom) return
  const e0x = bx - ax, e0y = by - ay, e1x = cx - bx, e1y = cy - by, e2x = ax - cx, e2y = ay - cy
  // A middle on an edge counts for one of its two triangles only
  const own0 = e0y < 0 || (e0y === 0 && e0x > 0), own1 = e1y < 0 || (e1y === 0 && e1x > 0), own2 = e2y < 0 || (e2y === 0 && e2x > 0)
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++) {
      const w0 = e0x * (y - ay) - e0y * (x - ax)
      if (w0 < 0 || (w0 === 0 && !own0)) continue
      const w1 = e1x * (y - by) - e1y * (x - bx)
      if (w1 < 0 || (w1 === 0 && !own1)) continue
      const w2 = e2x * (y - cy) - e2y * (x - cx)
      if (w2 < 0 || (w2 === 0 && !own2)) continue
      visit(y * width + x)
    }
}

interface Doubled { laid: Float64Array; grid: Grid; counts: Uint8Array; islandOf: Uint32Array; rasterArea: number }

function overlapOf({ laid, grid, counts, islandOf, rasterArea }: Doubled): Omit<UvOverlap, 'covered'> {
  const candidates: number[] = []
  for (let t = 0; t < laid.length / 6; t++) {
    let meets = false
    eachTexel(laid, t * 6, grid, (at) => { if (counts[at]! > 1) meets = true })
    if (meets) candidates.push(t)
  }
  const hit = new Uint8Array(laid.length / 6)
  const stacks = findStacks(laid, candidates, hit)
  let stackedArea = 0, stackedWithin = 0
  for (const [t, below] of stacks.pairs) {
    const area = areaOf(laid, t)
    if (!stacks.counted.has(below)) {
      stackedArea += area
      stacks.counted.add(below)
      if (islandOf[t] === islandOf[below]) stackedWithin += area
    }
  }
  const pairs = pairUp(laid, grid, counts, stacks.single)
  if (!pairs) {
    for (const t of candidates) hit[t] = 1
    return { overlapped: rasterArea, within: 0, triangles: Uint32Array.from(candidates), stacked: stacks.pairs.length, exact: false }
  }
  let sum = 0, within = 0
  for (let i = 0; i < pairs.length; i += 2) {
    const a = pairs[i]!, b = pairs[i + 1]!
    const area = sharedArea(laid, a * 6, b * 6)
    if (area <= NO_AREA || area <= NO_SHARE * Math.min(areaOf(laid, a), areaOf(laid, b))) continue
    sum += area
    if (islandOf[a] === islandOf[b]) within += area
    hit[a] = hit[b] = 1
  }
  const once = sum > 0 ? manifold(laid, grid, stacks.single) : 1
  const triangles: number[] = []
  for (let t = 0; t < hit.length; t++) if (hit[t]) triangles.push(t)
  return { overlapped: sum * once + stackedArea, within: within * once + stackedWithin, triangles: Uint32Array.from(triangles), stacked: stacks.pairs.length, exact: true }
}

const areaOf = (laid: Float64Array, t: number): number => {
  const k = t * 6
  return Math.abs((laid[k + 2]! - laid[k]!) * (laid[k + 5]! - laid[k + 1]!) - (laid[k + 4]! - laid[k]!) * (laid[k + 3]! - laid[k + 1]!)) / 2
}

/** Rounds to about a hundredth of a texel at 8192. */
const STACK_ROUNDING = 1 << 20

/** Triangles of the same three corners: each later one is paired with the first; `single` holds one of each. */
function findStacks(laid: Float64Array, candidates: readonly number[], hit: Uint8Array): { pairs: [number, number][]; single: number[]; counted: Set<number> } {
  const size = tableSize(candidates.length)
  const heads = new Int32Array(size).fill(-1), next = new Int32Array(candidates.length)
  const pairs: [number, number][] = [], single: number[] = []
  for (const [i, t] of candidates.entries()) {
    const k = t * 6
    // Symmetric in the corners, so that their order does not matter
    const round = (v: number): number => Math.round(v * STACK_ROUNDING)
    const [a, b, c] = [0, 2, 4].map((o) => hashBits(round(laid[k + o]!), round(laid[k + o + 1]!), 7)) as [number, number, number]
    const slot = ((a + b + c) ^ Math.imul(a ^ b ^ c, 0x9e3779b1)) & (size - 1)
    let found = -1
    for (let other = heads[slot]!; other !== -1 && found === -1; other = next[other]!) if (sameCorners(laid, k, candidates[other]! * 6)) found = candidates[other]!
    if (found >= 0) {
      pairs.push([t, found])
      hit[t] = hit[found] = 1
    } else {
      next[i] = heads[slot]!
      heads[slot] = i
      single.push(t)
    }
  }
  return { pairs, single, counted: new Set() }
}

function sameCorners(laid: Float64Array, a: number, b: number): boolean {
  const near = (i: number, j: number): boolean => Math.abs(laid[a + i]! - laid[b + j]!) < 1 / STACK_ROUNDING && Math.abs(laid[a + i + 1]! - laid[b + j + 1]!) < 1 / STACK_ROUNDING
  return [[0, 2, 4], [2, 4, 0], [4, 0, 2], [0, 4, 2], [4, 2, 0], [2, 0, 4]].some(([i, j, k]) => near(0, i!) && near(2, j!) && near(4, k!))
}

/** Pairs of triangles that meet in a texel counted twice, each pair once; null when there are too many. */
function pairUp(laid: Float64Array, grid: Grid, counts: Uint8Array, triangles: readonly number[]): number[] | null {
  const lists = new Map<number, number[]>()
  for (const t of triangles)
    eachTexel(laid, t * 6, grid, (at) => {
      if (counts[at]! < 2) return
      const list = lists.get(at)
      if (!list) lists.set(at, [t])
      else if (list.length < MOST_IN_A_TEXEL) list.push(t)
    })
  const seen = new Set<number>(), pairs: number[] = []
  const total = laid.length / 6
  for (const list of lists.values())
    for (let i = 0; i < list.length; i++)
      for (let j = i + 1; j < list.length; j++) {
        const key = list[i]! * total + list[j]!
        if (seen.has(key)) continue
        if (seen.size >= MOST_PAIRS) return null
        seen.add(key)
        pairs.push(list[i]!, list[j]!)
      }
  return pairs
}

/** Where three or more lie over one another the pairs count an area several times; this is the area once over that sum, from the raster. */
function manifold(laid: Float64Array, grid: Grid, triangles: readonly number[]): number {
  const counts = new Map<number, number>()
  for (const t of triangles) eachTexel(laid, t * 6, grid, (at) => { counts.set(at, (counts.get(at) ?? 0) + 1) })
  let once = 0, pairs = 0
  for (const n of counts.values()) if (n > 1) {
    once++
    pairs += (n * (n - 1)) / 2
  }
  return pairs > 0 ? once / pairs : 1
}
