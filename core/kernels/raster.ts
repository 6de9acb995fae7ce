import { putU32, putU8, triangleAt, u8At } from './numbers'

// Triangles on a sheet stand as six numbers of 32 bits each: u v of each corner

/** Lays triangles of vertex numbers side by side; one with a vertex that is not there is no numbers. */
export function layTriangles(uv: usize, vertices: u32, indices: usize, count: u32, corners: usize): void {
  for (let t: u32 = 0; t < count; t++) {
    const own = triangleAt(indices, t),
      out = corners + <usize>t * 24
    for (let i: usize = 0; i < 3; i++) {
      const v = load<u32>(own + (i << 2)),
        from = uv + ((<usize>v) << 3),
        good = v < vertices
      store<f32>(out + (i << 3), good ? load<f32>(from) : f32.NaN)
      store<f32>(out + (i << 3), good ? load<f32>(from, 4) : f32.NaN, 4)
    }
  }
}

/**
 * Adds up areas and heights and widens the bounds: six numbers of 64 bits in `state`, area, heights, u0, v0,
 * u1, v1. What is no number or endless is passed over.
 */
export function extendSheet(corners: usize, count: u32, state: usize): void {
  let area = load<f64>(state),
    heights = load<f64>(state, 8),
    u0 = load<f64>(state, 16),
    v0 = load<f64>(state, 24),
    u1 = load<f64>(state, 32),
    v1 = load<f64>(state, 40)
  for (let t: u32 = 0; t < count; t++) {
    const own = corners + <usize>t * 24
    const au = <f64>load<f32>(own),
      av = <f64>load<f32>(own, 4),
      bu = <f64>load<f32>(own, 8),
      bv = <f64>load<f32>(own, 12),
      cu = <f64>load<f32>(own, 16),
      cv = <f64>load<f32>(own, 20)
    const twice = abs((bu - au) * (cv - av) - (cu - au) * (bv - av))
    if (!(twice < Infinity)) continue
    const top = min(av, min(bv, cv)),
      bottom = max(av, max(bv, cv))
    if (twice > 0) {
      area += twice / 2
      heights += bottom - top
    }
    u0 = min(u0, min(au, min(bu, cu)))
    u1 = max(u1, max(au, max(bu, cu)))
    v0 = min(v0, top)
    v1 = max(v1, bottom)
  }
  store<f64>(state, area)
  store<f64>(state, heights, 8)
  store<f64>(state, u0, 16)
  store<f64>(state, v0, 24)
  store<f64>(state, u1, 32)
  store<f64>(state, v1, 40)
}

/** On the inner side of an edge, or on it where it is a left or upper one. */
function isInside(px: f64, py: f64, ex: f64, ey: f64, x: f64, y: f64): boolean {
  const w = ex * (y - py) - ey * (x - px)
  return w > 0 || (w === 0 && (ey < 0 || (ey === 0 && ex > 0)))
}

/** The division finds the place but for rounding; the test itself decides. */
function firstInside(px: f64, py: f64, ex: f64, ey: f64, y: f64, from: f64, to: f64): f64 {
  let x = max(from, min(to + 1, ceil(px + (ex * (y - py)) / ey)))
  while (x > from && isInside(px, py, ex, ey, x - 1, y)) x--
  while (x <= to && !isInside(px, py, ex, ey, x, y)) x++
  return x
}

function lastInside(px: f64, py: f64, ex: f64, ey: f64, y: f64, from: f64, to: f64): f64 {
  let x = min(to, max(from - 1, floor(px + (ex * (y - py)) / ey)))
  while (x < to && isInside(px, py, ex, ey, x + 1, y)) x++
  while (x >= from && !isInside(px, py, ex, ey, x, y)) x--
  return x
}

/** A triangle that is no wider than this is asked texel by texel. */
const FEW_TEXELS: f64 = 4

// What is done with a row of texels
const COUNT: u32 = 0
const LOOK: u32 = 1
const TAKE: u32 = 2

/**
 * Does it with the texels from … to of one of up to three lists of bytes, sixteen at a time while there are
 * so many; true ends the walk.
 */
function visitRow(what: u32, from: u32, to: u32, counts: usize, covered: usize, twice: usize): boolean {
  let at = from
  if (what === COUNT) {
    for (; at + 15 <= to; at += 16)
      v128.store(counts + at, i8x16.add_sat_u(v128.load(counts + at), i8x16.splat(1)))
    for (; at <= to; at++) putU8(counts, at, min<u32>(255, u8At(counts, at) + 1))
  } else if (what === LOOK) {
    for (; at + 15 <= to; at += 16)
      if (v128.any_true(i8x16.gt_u(v128.load(counts + at), i8x16.splat(1)))) return true
    for (; at <= to; at++) if (u8At(counts, at) > 1) return true
  } else {
    for (; at + 15 <= to; at += 16) {
      const n = v128.load(counts + at),
        more = v128.and(i8x16.gt_u(n, i8x16.splat(1)), i8x16.splat(1))
      v128.store(covered + at, i8x16.add_sat_u(v128.load(covered + at), n))
      v128.store(twice + at, v128.or(v128.load(twice + at), more))
      v128.store(counts + at, i8x16.splat(0))
    }
    for (; at <= to; at++) {
      const n = u8At(counts, at)
      if (n === 0) continue
      putU8(covered, at, min<u32>(255, u8At(covered, at) + n))
      if (n > 1) putU8(twice, at, 1)
      putU8(counts, at, 0)
    }
  }
  return false
}

/**
 * Walks the rows of texels whose middle lies in a triangle; a middle on an edge belongs to one of its two
 * triangles only. A visit may end the walk by true, which is then the answer.
 */
function walkRows(
  own: usize,
  u0: f64,
  v0: f64,
  step: f64,
  width: u32,
  height: u32,
  what: u32,
  counts: usize,
  covered: usize,
  twiceCovered: usize,
): boolean {
  let ax = (<f64>load<f32>(own) - u0) / step - 0.5,
    ay = (<f64>load<f32>(own, 4) - v0) / step - 0.5
  const bx = (<f64>load<f32>(own, 8) - u0) / step - 0.5,
    by = (<f64>load<f32>(own, 12) - v0) / step - 0.5
  let cx = (<f64>load<f32>(own, 16) - u0) / step - 0.5,
    cy = (<f64>load<f32>(own, 20) - v0) / step - 0.5
  const twice = (bx - ax) * (cy - ay) - (cx - ax) * (by - ay)
  if (!(twice !== 0 && isFinite(twice))) return false
  if (twice < 0) {
    const x = ax,
      y = ay
    ax = cx
    ay = cy
    cx = x
    cy = y
  }
  const left = max<f64>(0, ceil(min(ax, min(bx, cx)))),
    right = min(<f64>width - 1, floor(max(ax, max(bx, cx))))
  const top = max<f64>(0, ceil(min(ay, min(by, cy)))),
    bottom = min(<f64>height - 1, floor(max(ay, max(by, cy))))
  const abx = bx - ax,
    aby = by - ay,
    bcx = cx - bx,
    bcy = cy - by,
    cax = ax - cx,
    cay = ay - cy
  for (let y = top; y <= bottom; y++) {
    let from = left,
      to = right
    if (right - left < FEW_TEXELS) {
      // Of so few each is asked; what is inside is in one piece
      while (
        from <= to &&
        !(
          isInside(ax, ay, abx, aby, from, y) &&
          isInside(bx, by, bcx, bcy, from, y) &&
          isInside(cx, cy, cax, cay, from, y)
        )
      )
        from++
      while (
        to > from &&
        !(
          isInside(ax, ay, abx, aby, to, y) &&
          isInside(bx, by, bcx, bcy, to, y) &&
          isInside(cx, cy, cax, cay, to, y)
        )
      )
        to--
    } else
      for (let edge = 0; edge < 3 && from <= to; edge++) {
        const px = edge === 0 ? ax : edge === 1 ? bx : cx,
          py = edge === 0 ? ay : edge === 1 ? by : cy
        const ex = edge === 0 ? abx : edge === 1 ? bcx : cax,
          ey = edge === 0 ? aby : edge === 1 ? bcy : cay
        if (ey < 0) from = firstInside(px, py, ex, ey, y, from, to)
        else if (ey > 0) to = lastInside(px, py, ex, ey, y, from, to)
        else if (!isInside(px, py, ex, ey, from, y)) to = from - 1
      }
    if (from > to) continue
    const row = <u32>y * width
    if (visitRow(what, row + <u32>from, row + <u32>to, counts, covered, twiceCovered)) return true
  }
  return false
}

/**
 * Counts for each texel how many of the triangles cover its middle, on top of what stands there; 255 at the
 * most.
 */
export function countTexels(
  corners: usize,
  count: u32,
  u0: f64,
  v0: f64,
  step: f64,
  width: u32,
  height: u32,
  counts: usize,
): void {
  for (let t: u32 = 0; t < count; t++)
    walkRows(corners + <usize>t * 24, u0, v0, step, width, height, COUNT, counts, 0, 0)
}

/** Lists the triangles, counted on from `at`, that cover a texel which was counted twice; gives how many. */
export function listMeeting(
  corners: usize,
  count: u32,
  u0: f64,
  v0: f64,
  step: f64,
  width: u32,
  height: u32,
  counts: usize,
  at: u32,
  list: usize,
): u32 {
  let found: u32 = 0
  for (let t: u32 = 0; t < count; t++)
    if (walkRows(corners + <usize>t * 24, u0, v0, step, width, height, LOOK, counts, 0, 0))
      putU32(list, found++, at + t)
  return found
}

/** Adds what an island counted to the whole, once, marks what it counted twice, and clears it. */
export function takeTexels(
  corners: usize,
  count: u32,
  u0: f64,
  v0: f64,
  step: f64,
  width: u32,
  height: u32,
  counts: usize,
  covered: usize,
  twice: usize,
): void {
  for (let t: u32 = 0; t < count; t++)
    walkRows(corners + <usize>t * 24, u0, v0, step, width, height, TAKE, counts, covered, twice)
}

/** Counts bytes that are `least` or more. */
export function countAtLeast(bytes: usize, count: u32, least: u32): u32 {
  const limit = i8x16.splat(<i8>least)
  let found: u32 = 0,
    at: u32 = 0
  for (; at + 16 <= count; at += 16)
    found += popcnt<u32>(<u32>i8x16.bitmask(i8x16.ge_u(v128.load(bytes + at), limit)))
  for (; at < count; at++) if (u8At(bytes, at) >= least) found++
  return found
}
