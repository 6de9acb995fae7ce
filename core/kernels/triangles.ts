import { pointAt, putU32, triangleAt, u32At } from './numbers'

/**
 * Runs vertices through a first-in first-out cache of `size`; `state` holds the time and how many were used.
 */
export function cacheUse(
  indices: usize,
  count: u32,
  vertices: u32,
  size: u32,
  entered: usize,
  state: usize,
): void {
  // An entry stays for as many misses as the cache is long; 0 means never seen
  let time = load<u32>(state),
    used = load<u32>(state, 4)
  for (let k: u32 = 0; k < count; k++) {
    const v = u32At(indices, k)
    if (v >= vertices) continue
    const since = u32At(entered, v)
    if (time - since <= size) continue
    if (since === 0) used++
    putU32(entered, v, time++)
  }
  store<u32>(state, time)
  store<u32>(state, used, 4)
}

/**
 * Areas of triangles, the numbers of those that are degenerate or name a vertex that is not there, counted
 * from `at`; `state` holds the sum of areas and how many of each.
 */
export function surveyTriangles(
  positions: usize,
  vertices: u32,
  indices: usize,
  count: u32,
  at: u32,
  limit: f64,
  areas: usize,
  degenerate: usize,
  bad: usize,
  state: usize,
): void {
  let area = load<f64>(state),
    degenerates: u32 = 0,
    bads: u32 = 0
  for (let t: u32 = 0; t < count; t++) {
    const corners = triangleAt(indices, t)
    const a = load<u32>(corners),
      b = load<u32>(corners, 4),
      c = load<u32>(corners, 8)
    if (a >= vertices || b >= vertices || c >= vertices) {
      putU32(bad, bads++, at + t)
      store<f32>(areas + ((<usize>t) << 2), 0)
      continue
    }
    const pa = pointAt(positions, a),
      pb = pointAt(positions, b),
      pc = pointAt(positions, c)
    const x = <f64>load<f32>(pa),
      y = <f64>load<f32>(pa, 4),
      z = <f64>load<f32>(pa, 8)
    const ux = <f64>load<f32>(pb) - x,
      uy = <f64>load<f32>(pb, 4) - y,
      uz = <f64>load<f32>(pb, 8) - z
    const vx = <f64>load<f32>(pc) - x,
      vy = <f64>load<f32>(pc, 4) - y,
      vz = <f64>load<f32>(pc, 8) - z
    const nx = uy * vz - uz * vy,
      ny = uz * vx - ux * vz,
      nz = ux * vy - uy * vx
    const own = sqrt(nx * nx + ny * ny + nz * nz) / 2
    store<f32>(areas + ((<usize>t) << 2), <f32>own)
    if (own <= limit) putU32(degenerate, degenerates++, at + t)
    if (own === own && own !== Infinity) area += own
  }
  store<f64>(state, area)
  store<u32>(state, degenerates, 8)
  store<u32>(state, bads, 12)
}

/** Normals from … to that are not unit long within the tolerance. */
export function notUnit(normals: usize, from: u32, to: u32, tolerance: f64): u32 {
  let count: u32 = 0
  for (let v = from; v < to; v++) {
    const place = pointAt(normals, v)
    const x = <f64>load<f32>(place),
      y = <f64>load<f32>(place, 4),
      z = <f64>load<f32>(place, 8)
    if (!(abs(sqrt(x * x + y * y + z * z) - 1) <= tolerance)) count++
  }
  return count
}

/**
 * Numbers, counted from `at`, of triangles whose corner normals, added up, point away from the face; gives
 * how many.
 */
export function normalsAgainst(
  positions: usize,
  normals: usize,
  vertices: u32,
  indices: usize,
  count: u32,
  at: u32,
  sign: f64,
  against: usize,
): u32 {
  let found: u32 = 0
  for (let t: u32 = 0; t < count; t++) {
    const corners = triangleAt(indices, t)
    const i = load<u32>(corners),
      j = load<u32>(corners, 4),
      k = load<u32>(corners, 8)
    if (i >= vertices || j >= vertices || k >= vertices) continue
    const a = pointAt(positions, i),
      b = pointAt(positions, j),
      c = pointAt(positions, k)
    const x = <f64>load<f32>(a),
      y = <f64>load<f32>(a, 4),
      z = <f64>load<f32>(a, 8)
    const ux = <f64>load<f32>(b) - x,
      uy = <f64>load<f32>(b, 4) - y,
      uz = <f64>load<f32>(b, 8) - z
    const vx = <f64>load<f32>(c) - x,
      vy = <f64>load<f32>(c, 4) - y,
      vz = <f64>load<f32>(c, 8) - z
    const p = pointAt(normals, i),
      q = pointAt(normals, j),
      r = pointAt(normals, k)
    const nx = <f64>load<f32>(p) + <f64>load<f32>(q) + <f64>load<f32>(r)
    const ny = <f64>load<f32>(p, 4) + <f64>load<f32>(q, 4) + <f64>load<f32>(r, 4)
    const nz = <f64>load<f32>(p, 8) + <f64>load<f32>(q, 8) + <f64>load<f32>(r, 8)
    if (((uy * vz - uz * vy) * nx + (uz * vx - ux * vz) * ny + (ux * vy - uy * vx) * nz) * sign < 0)
      putU32(against, found++, at + t)
  }
  return found
}
