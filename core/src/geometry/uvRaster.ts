/** Texels over the bounds of a sheet. */
export interface Grid { u0: number; v0: number; step: number; width: number; height: number }

const LEAST_SIDE = 16
const USUAL_SIDE = 256
const MOST_SIDE = 4096
/** What one walk over all triangles may cost, in texels: where many lie over one another, a coarser grid tells as much. */
const MOST_WALKED = 64e6
/** Finding a row's ends takes as long as so many texels. */
const ROW_COST = 4

/** What triangles amount to: the sum of their areas and of their heights. */
export interface Extent { area: number; heights: number }

/** Of all triangles, or of those of a list. */
export function extentOf(laid: Float32Array, list: readonly number[] | null = null): Extent {
  const sum = { area: 0, heights: 0 }, count = list ? list.length : laid.length / 6
  for (let i = 0; i < count; i++) {
    const t = list ? list[i]! : i, k = t * 6, area = areaOf(laid, t)
    if (!(area > 0)) continue
    sum.area += area
    sum.heights += Math.max(laid[k + 1]!, laid[k + 3]!, laid[k + 5]!) - Math.min(laid[k + 1]!, laid[k + 3]!, laid[k + 5]!)
  }
  return sum
}

export const areaOf = (laid: Float32Array, t: number): number => {
  const k = t * 6
  return Math.abs((laid[k + 2]! - laid[k]!) * (laid[k + 5]! - laid[k + 1]!) - (laid[k + 4]! - laid[k]!) * (laid[k + 3]! - laid[k + 1]!)) / 2
}

/** A grid with two texels to a triangle, or `wanted` texels across; coarser where that would make a walk too long. Null where nothing has an extent. */
export function gridOf(laid: Float32Array, all: Extent, wanted?: number): Grid | null {
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
  const walked = (n: number): number => all.area * (n / extent) ** 2 + ROW_COST * all.heights * (n / extent)
  while (side > LEAST_SIDE && walked(side) > MOST_WALKED) side /= 2
  const step = extent / side
  // Off the round fractions that edges lie on: a texel's middle on an edge would be decided by rounding
  const across = 0.382 * step, down = 0.271 * step
  return { u0: u0 - across, v0: v0 - down, step, width: Math.ceil((u1 - u0 + across) / step), height: Math.ceil((v1 - v0 + down) / step) }
}

/** Counts for each texel how many triangles (all, or those of a list) cover its middle; 255 at the most. */
export function countTexels(laid: Float32Array, list: readonly number[] | null, grid: Grid): Uint8Array {
  const counts = new Uint8Array(grid.width * grid.height)
  const total = list ? list.length : laid.length / 6, visit = counter(counts)
  for (let i = 0; i < total; i++) walkRows(laid, (list ? list[i]! : i) * 6, grid, visit)
  return counts
}

/** Triangles that cover a texel that was counted twice. */
export function meetingDoubled(laid: Float32Array, grid: Grid, counts: Uint8Array): number[] {
  const found: number[] = [], visit = looker(counts)
  for (let t = 0; t * 6 < laid.length; t++) if (walkRows(laid, t * 6, grid, visit)) found.push(t)
  return found
}

/** Areas that are covered at all, more than once, and more than once by one island. */
export interface Coverage { covered: number; overlapped: number; within: number }

/** Coverage by counting the texels of the triangles of a list, for sheets with too many overlaps to clip each. */
export function coverageOf(laid: Float32Array, islandOf: Uint32Array, list: readonly number[], grid: Grid): Coverage {
  const triangles = laid.length / 6, texels = grid.width * grid.height
  const covered = new Uint8Array(texels), own = new Uint8Array(texels), ownTwice = new Uint8Array(texels)
  const count = counter(own), take = taker(own, covered, ownTwice)
  // Island by island: what its triangles cover is taken over and cleared before the next
  // Triangles without an island have the greatest number; it becomes 0, so that keys stay whole
  const order = Float64Array.from(list, (t) => ((islandOf[t]! + 1) % 2 ** 32) * triangles + t).sort()
  for (let from = 0; from < order.length; ) {
    const island = Math.floor(order[from]! / triangles)
    let to = from
    while (to < order.length && Math.floor(order[to]! / triangles) === island) to++
    const members = order.subarray(from, to)
    for (const key of members) walkRows(laid, (key % triangles) * 6, grid, count)
    for (const key of members) walkRows(laid, (key % triangles) * 6, grid, take)
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

/** Walks the rows of texels whose middle lies in a triangle; a middle on an edge belongs to one of its two triangles only. The visit may end the walk by true, which is then the answer. */
function walkRows(laid: Float32Array, k: number, { u0, v0, step, width, height }: Grid, visit: RowVisit): boolean {
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
  for (let y = top; y <= bottom; y++) {
    let from = left, to = right
    for (let edge = 0; edge < 3 && from <= to; edge++) {
      const px = edge === 0 ? ax : edge === 1 ? bx : cx, py = edge === 0 ? ay : edge === 1 ? by : cy
      const ex = (edge === 0 ? bx : edge === 1 ? cx : ax) - px, ey = (edge === 0 ? by : edge === 1 ? cy : ay) - py
      if (ey < 0) from = firstInside(px, py, ex, ey, y, from, to)
      else if (ey > 0) to = lastInside(px, py, ex, ey, y, from, to)
      else if (!isInside(px, py, ex, ey, from, y)) to = from - 1
    }
    if (from <= to && visit.row(y * width + from, y * width + to)) return true
  }
  return false
}

/** What is done with a row of texels, from the first to the last. */
interface RowVisit { row: (from: number, to: number) => boolean }

/** On the inner side of an edge, or on it where it is a left or upper one. */
function isInside(px: number, py: number, ex: number, ey: number, x: number, y: number): boolean {
  const w = ex * (y - py) - ey * (x - px)
  return w > 0 || (w === 0 && (ey < 0 || (ey === 0 && ex > 0)))
}

/** The division finds the place but for rounding; the test itself decides. */
function firstInside(px: number, py: number, ex: number, ey: number, y: number, from: number, to: number): number {
  let x = Math.max(from, Math.min(to + 1, Math.ceil(px + (ex * (y - py)) / ey)))
  while (x > from && isInside(px, py, ex, ey, x - 1, y)) x--
  while (x <= to && !isInside(px, py, ex, ey, x, y)) x++
  return x
}

function lastInside(px: number, py: number, ex: number, ey: number, y: number, from: number, to: number): number {
  let x = Math.min(to, Math.max(from - 1, Math.floor(px + (ex * (y - py)) / ey)))
  while (x < to && isInside(px, py, ex, ey, x + 1, y)) x++
  while (x >= from && !isInside(px, py, ex, ey, x, y)) x--
  return x
}

const counter = (counts: Uint8Array): RowVisit => ({
  row(from, to) {
    for (let at = from; at <= to; at++) if (counts[at]! < 255) counts[at]!++
    return false
  },
})

const looker = (counts: Uint8Array): RowVisit => ({
  row(from, to) {
    for (let at = from; at <= to; at++) if (counts[at]! > 1) return true
    return false
  },
})

/** Adds what an island counted to the whole, once, and clears it. */
const taker = (own: Uint8Array, covered: Uint8Array, ownTwice: Uint8Array): RowVisit => ({
  row(from, to) {
    for (let at = from; at <= to; at++) {
      const n = own[at]!
      if (n === 0) continue
      covered[at] = Math.min(255, covered[at]! + n)
      if (n > 1) ownTwice[at] = 1
      own[at] = 0
    }
    return false
  },
})
