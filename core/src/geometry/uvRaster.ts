/** Texels over the bounds of a sheet. */
export interface Grid { u0: number; v0: number; step: number; width: number; height: number }

const LEAST_SIDE = 16
const USUAL_SIDE = 256
const MOST_SIDE = 4096
/** What one walk over all triangles may cost, in texels: where many lie over one another, a coarser grid tells as much. */
const MOST_WALKED = 64e6
/** Finding a row's ends takes as long as so many texels. */
const ROW_COST = 4

/** Triangles on a sheet, six numbers each (u v of each corner), `load` lays those of a block, which begins at a multiple of its size, into `corners`. */
export interface SheetTriangles { count: number; corners: Float32Array; blockSize: number; load: (from: number) => void }

/** Triangles that all lie side by side already: the only ones that can be asked for by number. */
export const laidTriangles = (corners: Float32Array): SheetTriangles => ({ count: corners.length / 6, corners, blockSize: Math.max(1, corners.length / 6), load: () => undefined })

/** So many are laid at a time: what a processor holds near. */
const BLOCK = 2048

/** Triangles of a list of vertex numbers; NaN for those with bad indices. */
export function indexedTriangles(uv: Float32Array, indices: Uint32Array): SheetTriangles {
  const count = Math.floor(indices.length / 3), corners = new Float32Array(Math.min(count, BLOCK) * 6)
  const load = (from: number): void => {
    const end = Math.min(count, from + BLOCK) * 3
    for (let k = from * 3, at = 0; k < end; k++, at += 2) {
      const v = indices[k]! * 2, good = v < uv.length
      corners[at] = good ? uv[v]! : NaN
      corners[at + 1] = good ? uv[v + 1]! : NaN
    }
  }
  return { count, corners, blockSize: BLOCK, load }
}

/** Loads block by block and calls with the first triangle of each and the one after its last. */
function eachBlock({ count, blockSize, load }: SheetTriangles, visit: (from: number, to: number) => void): void {
  for (let from = 0; from < count; from += blockSize) {
    load(from)
    visit(from, Math.min(count, from + blockSize))
  }
}

/** All triangles side by side. */
export function layTriangles(sheet: SheetTriangles): SheetTriangles {
  const laid = new Float32Array(sheet.count * 6)
  eachBlock(sheet, (from, to) => laid.set(sheet.corners.subarray(0, (to - from) * 6), from * 6))
  return laidTriangles(laid)
}

/** What triangles amount to: the sum of their areas and of their heights, and their bounds. */
export interface Extent { area: number; heights: number; u0: number; v0: number; u1: number; v1: number }

/** Of all triangles, or of those of a list. */
export function extentOf(sheet: SheetTriangles, list: readonly number[] | null = null): Extent {
  const sums: Extent[] = [], { corners } = sheet
  if (list) sums.push(blockExtent(corners, list.length, list))
  else eachBlock(sheet, (from, to) => { sums.push(blockExtent(corners, to - from, null)) })
  return sums.reduce((a, b) => ({ area: a.area + b.area, heights: a.heights + b.heights, u0: Math.min(a.u0, b.u0), v0: Math.min(a.v0, b.v0), u1: Math.max(a.u1, b.u1), v1: Math.max(a.v1, b.v1) }), NOTHING)
}

const NOTHING: Extent = { area: 0, heights: 0, u0: Infinity, v0: Infinity, u1: -Infinity, v1: -Infinity }

/** Of the first triangles of a block, or of those of a list. */
function blockExtent(corners: Float32Array, count: number, list: readonly number[] | null): Extent {
  let { area, heights, u0, v0, u1, v1 } = NOTHING
  for (let i = 0; i < count; i++) {
    const k = (list ? list[i]! : i) * 6
    const au = corners[k]!, av = corners[k + 1]!, bu = corners[k + 2]!, bv = corners[k + 3]!, cu = corners[k + 4]!, cv = corners[k + 5]!
    const twice = Math.abs((bu - au) * (cv - av) - (cu - au) * (bv - av))
    if (!(twice < Infinity)) continue
    const top = Math.min(av, bv, cv), bottom = Math.max(av, bv, cv)
    if (twice > 0) {
      area += twice / 2
      heights += bottom - top
    }
    u0 = Math.min(u0, au, bu, cu)
    u1 = Math.max(u1, au, bu, cu)
    v0 = Math.min(v0, top)
    v1 = Math.max(v1, bottom)
  }
  return { area, heights, u0, v0, u1, v1 }
}

/** Triangles that have an area. */
export function withArea(sheet: SheetTriangles): number[] {
  const found: number[] = []
  eachBlock(sheet, (from, to) => { for (let t = from; t < to; t++) if (areaAt(sheet.corners, (t - from) * 6) > 0) found.push(t) })
  return found
}

/** Area of the triangle whose six numbers begin at `k`. */
export const areaAt = (corners: Float32Array, k: number): number =>
  Math.abs((corners[k + 2]! - corners[k]!) * (corners[k + 5]! - corners[k + 1]!) - (corners[k + 4]! - corners[k]!) * (corners[k + 3]! - corners[k + 1]!)) / 2

/** A grid with two texels to a triangle, or `wanted` texels across; coarser where that would make a walk too long. Null where nothing has an extent. */
export function gridOf({ area, heights, u0, v0, u1, v1 }: Extent, triangles: number, wanted?: number): Grid | null {
  const extent = Math.max(u1 - u0, v1 - v0)
  if (!(extent > 0)) return null
  let side = wanted ?? USUAL_SIDE
  while (wanted === undefined && side < MOST_SIDE && side * side < triangles * 4) side *= 2
  const walked = (n: number): number => area * (n / extent) ** 2 + ROW_COST * heights * (n / extent)
  while (side > LEAST_SIDE && walked(side) > MOST_WALKED) side /= 2
  const step = extent / side
  // Off the round fractions that edges lie on: a texel's middle on an edge would be decided by rounding
  const across = 0.382 * step, down = 0.271 * step
  return { u0: u0 - across, v0: v0 - down, step, width: Math.ceil((u1 - u0 + across) / step), height: Math.ceil((v1 - v0 + down) / step) }
}

/** Counts for each texel how many triangles (all, or those of a list) cover its middle; 255 at the most. */
export function countTexels(sheet: SheetTriangles, list: readonly number[] | null, grid: Grid): Uint8Array {
  const counts = new Uint8Array(grid.width * grid.height), visit = counter(counts), { corners } = sheet
  if (list) for (const t of list) walkRows(corners, t * 6, grid, visit)
  else eachBlock(sheet, (from, to) => { for (let k = 0; k < (to - from) * 6; k += 6) walkRows(corners, k, grid, visit) })
  return counts
}

/** Triangles that cover a texel that was counted twice. */
export function meetingDoubled(sheet: SheetTriangles, grid: Grid, counts: Uint8Array): number[] {
  const found: number[] = [], visit = looker(counts), { corners } = sheet
  eachBlock(sheet, (from, to) => { for (let t = from; t < to; t++) if (walkRows(corners, (t - from) * 6, grid, visit)) found.push(t) })
  return found
}

/** Areas that are covered at all, more than once, and more than once by one island. */
export interface Coverage { covered: number; overlapped: number; within: number }

/** Coverage by counting the texels of the triangles of a list, for sheets with too many overlaps to clip each. */
export function coverageOf({ count: triangles, corners }: SheetTriangles, islandOf: Uint32Array, list: readonly number[], grid: Grid): Coverage {
  const texels = grid.width * grid.height
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
    for (const key of members) walkRows(corners, (key % triangles) * 6, grid, count)
    for (const key of members) walkRows(corners, (key % triangles) * 6, grid, take)
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

/** A triangle that is no wider than this is asked texel by texel. */
const FEW_TEXELS = 4

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
  const abx = bx - ax, aby = by - ay, bcx = cx - bx, bcy = cy - by, cax = ax - cx, cay = ay - cy
  for (let y = top; y <= bottom; y++) {
    let from = left, to = right
    if (right - left < FEW_TEXELS) {
      // Of so few each is asked; what is inside is in one piece
      while (from <= to && !(isInside(ax, ay, abx, aby, from, y) && isInside(bx, by, bcx, bcy, from, y) && isInside(cx, cy, cax, cay, from, y))) from++
      while (to > from && !(isInside(ax, ay, abx, aby, to, y) && isInside(bx, by, bcx, bcy, to, y) && isInside(cx, cy, cax, cay, to, y))) to--
    } else for (let edge = 0; edge < 3 && from <= to; edge++) {
      const px = edge === 0 ? ax : edge === 1 ? bx : cx, py = edge === 0 ? ay : edge === 1 ? by : cy
      const ex = edge === 0 ? abx : edge === 1 ? bcx : cax, ey = edge === 0 ? aby : edge === 1 ? bcy : cay
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
