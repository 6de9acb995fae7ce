import { putU32, putU8, triangleAt, u32At, u8At } from './numbers'

/** A triangle has no area on the sheet below this: a hundredth of a texel at 8192². */
const LEAST_UV_AREA: f64 = 0.01 / 67108864

/**
 * 32,768 sums of surface by the upper half of the 32-bit float of UV area over surface: 128 bins an octave, a
 * third of a per cent once the root is taken. Empty between calls: to clear all for each of many small sheets
 * would take longer than the sheets.
 */
const bins: usize = memory.data(262144, 16)

/** Bin of what is endless on both sides. */
const NO_RATIO: u32 = 0x7fc0

/** Where the bins of surface by density stand, 64 bits each. */
export function densityBins(): usize {
  return bins
}

/** Sets of numbers that can be joined: path halving, the smaller number stays the root. */
function find(parents: usize, element: u32): u32 {
  let at = element
  for (let up = u32At(parents, at); up !== at; up = u32At(parents, at)) {
    const above = u32At(parents, up)
    putU32(parents, at, above)
    at = above
  }
  return at
}

function join(parents: usize, a: u32, b: u32): void {
  // Most are joined already, and hang under the same number
  if (u32At(parents, a) !== u32At(parents, b)) joinRoots(parents, a, b)
}

function joinRoots(parents: usize, a: u32, b: u32): void {
  const x = find(parents, a),
    y = find(parents, b)
  if (x < y) putU32(parents, y, x)
  else if (y < x) putU32(parents, x, y)
}

function inFirst(u: f64, v: f64): boolean {
  return u >= 0 && u <= 1 && v >= 0 && v <= 1
}

/**
 * Looks at triangles on the sheet, numbered from `at`: joins the representatives of their vertices, sorts
 * surface by density, and lists the mirrored, the degenerate and those that are not all in the first tile.
 * `used` tells which were looked at. `state`: the sum of areas in 64 bits, then the lowest and the highest
 * bin, whether one lies in the first tile, and how many are in the three lists.
 */
export function surveySheet(
  uv: usize,
  vertices: u32,
  indices: usize,
  count: u32,
  at: u32,
  areas: usize,
  rep: usize,
  parents: usize,
  right: f64,
  used: usize,
  mirrored: usize,
  degenerate: usize,
  elsewhere: usize,
  state: usize,
): void {
  let uvArea = load<f64>(state),
    lowest = load<u32>(state, 8),
    highest = load<i32>(state, 12),
    first = load<u32>(state, 16),
    mirrors: u32 = 0,
    degenerates: u32 = 0,
    others: u32 = 0
  for (let t: u32 = 0; t < count; t++) {
    const corners = triangleAt(indices, t)
    const i = load<u32>(corners),
      j = load<u32>(corners, 4),
      k = load<u32>(corners, 8)
    putU8(used, at + t, 0)
    if (i >= vertices || j >= vertices || k >= vertices) continue
    const a = uv + ((<usize>i) << 3),
      b = uv + ((<usize>j) << 3),
      c = uv + ((<usize>k) << 3)
    const au = <f64>load<f32>(a),
      av = <f64>load<f32>(a, 4),
      bu = <f64>load<f32>(b),
      bv = <f64>load<f32>(b, 4),
      cu = <f64>load<f32>(c),
      cv = <f64>load<f32>(c, 4)
    const signed = ((bu - au) * (cv - av) - (cu - au) * (bv - av)) / 2
    if (signed !== signed) continue
    putU8(used, at + t, 1)
    const p = u32At(rep, j)
    join(parents, u32At(rep, i), p)
    join(parents, p, u32At(rep, k))
    const area = abs(signed),
      surface = load<f32>(areas + ((<usize>t) << 2))
    uvArea += area
    if (area <= LEAST_UV_AREA) {
      if (surface > 0) putU32(degenerate, degenerates++, at + t)
      continue
    }
    if (signed * right < 0) putU32(mirrored, mirrors++, at + t)
    if (inFirst(au, av) && inFirst(bu, bv) && inFirst(cu, cv)) first = 1
    else putU32(elsewhere, others++, at + t)
    if (surface > 0) {
      const ratio = <f32>(area / <f64>surface),
        bin = ratio === ratio ? reinterpret<u32>(ratio) >> 16 : NO_RATIO,
        place = bins + ((<usize>bin) << 3)
      store<f64>(place, load<f64>(place) + <f64>surface)
      if (bin < lowest) lowest = bin
      if (<i32>bin > highest) highest = <i32>bin
    }
  }
  store<f64>(state, uvArea)
  store<u32>(state, lowest, 8)
  store<i32>(state, highest, 12)
  store<u32>(state, first, 16)
  store<u32>(state, mirrors, 20)
  store<u32>(state, degenerates, 24)
  store<u32>(state, others, 28)
}

/** Hangs each of the elements under its root itself: what one hangs under comes before it. */
export function flatten(parents: usize, from: u32, to: u32): void {
  for (let v = from; v < to; v++) putU32(parents, v, u32At(parents, u32At(parents, v)))
}

/**
 * The island of each triangle that was looked at, numbered from `at`, 0xffffffff for others; `seen` marks
 * roots. Gives how many islands were new.
 */
export function nameIslands(
  indices: usize,
  count: u32,
  at: u32,
  used: usize,
  rep: usize,
  parents: usize,
  seen: usize,
  islandOf: usize,
): u32 {
  let islands: u32 = 0
  for (let t: u32 = 0; t < count; t++) {
    if (!u8At(used, at + t)) {
      putU32(islandOf, t, 0xffffffff)
      continue
    }
    const root = u32At(parents, u32At(rep, load<u32>(triangleAt(indices, t))))
    putU32(islandOf, t, root)
    if (!u8At(seen, root)) {
      putU8(seen, root, 1)
      islands++
    }
  }
  return islands
}
