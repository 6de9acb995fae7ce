/** Texels over the bounds of a sheet. */
export interface Grid { u0: number; v0: number; step: number; width: number; height: number }

const LEAST_SIDE = 64
const USUAL_SIDE = 256
const MOST_SIDE = 4096
/** Texels that all triangles together may cover: where many lie over one another, a coarser grid tells as much. */
const MOST_WALKED = 24e6

export const areaOf = (laid: Float32Array, t: number): number => {
  const k = t * 6
  return Math.abs((laid[k + 2]! - laid[k]!) * (laid[k + 5]! - laid[k + 1]!) - (laid[k + 4]! - laid[k]!) * (laid[k + 3]! - laid[k + 1]!)) / 2
}

/** A grid with two texels to a triangle, or `wanted` texels across; coarser where the triangles' areas (`total`) would make a walk too long. Null where nothing has an extent. */
export function gridOf(laid: Float32Array, total: number, wanted?: number): Grid | null {
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
  let side = wanted ?? USUAL_SIDE
  while (wanted === undefined && side < MOST_SIDE && side * side < (laid.length / 6) * 4) side *= 2
  while (side > LEAST_SIDE && (total / (extent * extent)) * side * side > MOST_WALKED) side /= 2
  const step = extent / side
  // Off the round fractions that edges lie on: a texel's middle on an edge would be decided by rounding
  const across = 0.382 * step, down = 0.271 * step
  return { u0: u0 - across, v0: v0 - down, step, width: Math.ceil((u1 - u0 + across) / step), height: Math.ceil((v1 - v0 + down) / step) }
}

/** Counts for each texel how many triangles (all, or those of a list) cover its middle; 255 at the most. */
export function countTexels(laid: Float32Array, list: readonly number[] | null, grid: Grid): Uint8Array {
  const counts = new Uint8Array(grid.width * grid.height)
  const total = list ? list.length : laid.length / 6
  for (let i = 0; i < total; i++) walkTexels(laid, (list ? list[i]! : i) * 6, grid, counts, 'count')
  return counts
}

/** Whether a triangle covers a texel that was counted twice. */
export const meetsDoubled = (laid: Float32Array, t: number, grid: Grid, counts: Uint8Array): boolean => walkTexels(laid, t * 6, grid, counts, 'look')

/** Areas that are covered at all, more than once, and more than once by one island. */
export interface Coverage { covered: number; overlapped: number; within: number }

/** Coverage by counting texels, for sheets with too many overlaps to clip each. */
export function coverageOf(laid: Float32Array, islandOf: Uint32Array, grid: Grid): Coverage {
  const triangles = laid.length / 6, texels = grid.width * grid.height
  const covered = new Uint8Array(texels), own = new Uint8Array(texels), ownTwice = new Uint8Array(texels)
  // Island by island: what its triangles cover is taken over and cleared before the next
  // Triangles without an island have the greatest number; it becomes 0, so that keys stay whole
  const order = Float64Array.from({ length: triangles }, (_, t) => ((islandOf[t]! + 1) % 2 ** 32) * triangles + t).sort()
  for (let from = 0; from < triangles; ) {
    const island = Math.floor(order[from]! / triangles)
    let to = from
    while (to < triangles && Math.floor(order[to]! / triangles) === island) to++
    const members = order.subarray(from, to)
    for (const key of members) walkTexels(laid, (key % triangles) * 6, grid, own, 'count')
    for (const key of members) takeOver(laid, (key % triangles) * 6, grid, own, covered, ownTwice)
    from = to
  }
  let once = 0, twice = 0, within = 0
  for (let i = 0; i < texels; i++) {
    if (covered[i]! === 0) continue
    once++
    if (covered[i]! > 1) twice++
    within += ownTwice[i]!
  }
  const texel = grid.step * grid.step
  return { covered: once * texel, overlapped: twice * texel, within: within * texel }
}

/** Adds what an island counted in a triangle's box to the whole, once, and clears it. */
function takeOver(laid: Float32Array, k: number, { u0, v0, step, width, height }: Grid, own: Uint8Array, covered: Uint8Array, ownTwice: Uint8Array): void {
  const x0 = Math.max(0, Math.floor((Math.min(laid[k]!, laid[k + 2]!, laid[k + 4]!) - u0) / step - 0.5)), x1 = Math.min(width - 1, Math.ceil((Math.max(laid[k]!, laid[k + 2]!, laid[k + 4]!) - u0) / step - 0.5))
  const y0 = Math.max(0, Math.floor((Math.min(laid[k + 1]!, laid[k + 3]!, laid[k + 5]!) - v0) / step - 0.5)), y1 = Math.min(height - 1, Math.ceil((Math.max(laid[k + 1]!, laid[k + 3]!, laid[k + 5]!) - v0) / step - 0.5))
  for (let y = y0; y <= y1; y++)
    for (let x = x0; x <= x1; x++) {
      const at = y * width + x, n = own[at]!
      if (n === 0) continue
      covered[at] = Math.min(255, covered[at]! + n)
      if (n > 1) ownTwice[at] = 1
      own[at] = 0
    }
}

/** Walks the texels whose middle lies in a triangle; a middle on an edge belongs to one of its two triangles only. Counts them up, or looks whether one was counted twice. */
function walkTexels(laid: Float32Array, k: number, { u0, v0, step, width, height }: Grid, counts: Uint8Array, does: 'count' | 'look'): boolean {
  let ax = (laid[k]! - u0) / step - 0.5, ay = (laid[k + 1]! - v0) / step - 0.5
  const bx = (laid[k + 2]! - u0) / step - 0.5, by = (laid[k + 3]! - v0) / step - 0.5
  let cx = (laid[k + 4]! - u0) / step - 0.5, cy = (laid[k + 5]! - v0) / step - 0.5
  const twice = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
  if (!(twice !== 0 && Number.isFinite(twice))) return false
  if (twice < 0) {
    const x = ax, y = ay
    ax = cx
    ay = cy
    cx = x
    cy = y
  }
  const left = Math.max(0, Math.ceil(Math.min(ax, bx, cx))), right = Math.min(width - 1, Math.floor(Math.max(ax, bx, cx)))
  const top = Math.max(0, Math.ceil(Math.min(ay, by, cy))), bottom = Math.min(height - 1, Math.floor(Math.max(ay, by, cy)))
  const e0x = bx - ax, e0y = by - ay, e1x = cx - bx, e1y = cy - by, e2x = ax - cx, e2y = ay - cy
  const own0 = e0y < 0 || (e0y === 0 && e0x > 0), own1 = e1y < 0 || (e1y === 0 && e1x > 0), own2 = e2y < 0 || (e2y === 0 && e2x > 0)
  for (let y = top; y <= bottom; y++)
    for (let x = left; x <= right; x++) {
      const w0 = e0x * (y - ay) - e0y * (x - ax)
      if (w0 < 0 || (w0 === 0 && !own0)) continue
      const w1 = e1x * (y - by) - e1y * (x - bx)
      if (w1 < 0 || (w1 === 0 && !own1)) continue
      const w2 = e2x * (y - cy) - e2y * (x - cx)
      if (w2 < 0 || (w2 === 0 && !own2)) continue
      const at = y * width + x
      if (does === 'look') {
        if (counts[at]! > 1) return true
      } else if (counts[at]! < 255) counts[at]!++
    }
  return false
}
