import { countAt, pointAt, putU32, putU8, triangleAt, u32At, u8At } from './numbers'

const FACE_OPEN: u32 = 1
const FACE_NON_MANIFOLD: u32 = 2
const FACE_DUPLICATE: u32 = 4
const FACE_COLLAPSED: u32 = 16

// Edges stand in buckets by their lower point, as the corner that each runs from: four times the triangle,
// plus 0 to 2

function isCollapsed(a: u32, b: u32, c: u32, points: u32): boolean {
  return a === b || b === c || a === c || a >= points || b >= points || c >= points
}

/**
 * Counts the edges of triangles from … to by their lower point, into `starts`; collapsed triangles are
 * flagged.
 */
export function countEdges(
  corners: usize,
  from: u32,
  to: u32,
  points: u32,
  flags: usize,
  starts: usize,
): void {
  for (let t = from; t < to; t++) {
    const own = triangleAt(corners, t),
      a = load<u32>(own),
      b = load<u32>(own, 4),
      c = load<u32>(own, 8)
    if (isCollapsed(a, b, c, points)) {
      putU8(flags, t, FACE_COLLAPSED)
      continue
    }
    countAt(starts, min(a, b))
    countAt(starts, min(b, c))
    countAt(starts, min(c, a))
  }
}

/** Turns counts into the ends of the buckets; gives the size of the largest one. */
export function endBuckets(starts: usize, points: u32): u32 {
  let end: u32 = 0,
    most: u32 = 0
  for (let p: u32 = 0; p < points; p++) {
    const count = u32At(starts, p)
    if (count > most) most = count
    end += count
    putU32(starts, p, end)
  }
  putU32(starts, points, end)
  return most
}

function putEdge(starts: usize, edges: usize, point: u32, edge: u32): void {
  const at = u32At(starts, point) - 1
  putU32(starts, point, at)
  putU32(edges, at, edge)
}

/** Fills the buckets from the back with the edges of triangles to … from, which turns ends into starts. */
export function fillBuckets(
  corners: usize,
  from: u32,
  to: u32,
  flags: usize,
  starts: usize,
  edges: usize,
): void {
  for (let t = to; t > from;) {
    t--
    if (u8At(flags, t)) continue
    const own = triangleAt(corners, t),
      a = load<u32>(own),
      b = load<u32>(own, 4),
      c = load<u32>(own, 8)
    putEdge(starts, edges, min(c, a), t * 4 + 2)
    putEdge(starts, edges, min(b, c), t * 4 + 1)
    putEdge(starts, edges, min(a, b), t * 4)
  }
}

function cornerPlace(corners: usize, edge: u32, corner: u32): usize {
  return triangleAt(corners, edge >> 2) + ((<usize>corner) << 2)
}

/** The point that an edge runs from. */
function nearPoint(corners: usize, edge: u32): u32 {
  return load<u32>(cornerPlace(corners, edge, edge & 3))
}

/** The other end of an edge. */
function farPoint(corners: usize, edge: u32, low: u32): u32 {
  const from = edge & 3,
    point = load<u32>(cornerPlace(corners, edge, from))
  return point === low ? load<u32>(cornerPlace(corners, edge, from === 2 ? 0 : from + 1)) : point
}

/** The corner of a triangle that is not on an edge of it. */
function thirdPoint(corners: usize, edge: u32): u32 {
  const from = edge & 3
  return load<u32>(cornerPlace(corners, edge, from === 0 ? 2 : from - 1))
}

/** Buckets of more edges are not sorted by insertion. */
const MANY_EDGES: u32 = 64

function key(keys: usize, index: u32): u64 {
  return load<u64>(keys + ((<usize>index) << 3))
}
function putKey(keys: usize, index: u32, value: u64): void {
  store<u64>(keys + ((<usize>index) << 3), value)
}

function sortFew(keys: usize, count: u32): void {
  for (let i: u32 = 1; i < count; i++) {
    const own = key(keys, i)
    let j = i
    for (; j > 0 && key(keys, j - 1) > own; j--) putKey(keys, j, key(keys, j - 1))
    putKey(keys, j, own)
  }
}

/** Heap sort (Williams 1964). */
function sortMany(keys: usize, count: u32): void {
  for (let from = count >> 1; from > 0; from--) sink(keys, from - 1, count)
  for (let end = count - 1; end > 0; end--) {
    const greatest = key(keys, 0)
    putKey(keys, 0, key(keys, end))
    putKey(keys, end, greatest)
    sink(keys, 0, end)
  }
}

function sink(keys: usize, from: u32, end: u32): void {
  const own = key(keys, from)
  let at = from
  for (let child = at * 2 + 1; child < end; child = at * 2 + 1) {
    if (child + 1 < end && key(keys, child + 1) > key(keys, child)) child++
    if (key(keys, child) <= own) break
    putKey(keys, at, key(keys, child))
    at = child
  }
  putKey(keys, at, own)
}

/** Whether what `rootOf` was asked for since it was last set faces as its roots do, all taken together. */
let turnedSoFar: u32 = 0

/** The root of a triangle, by path halving; how it faces against that goes into `turnedSoFar`. */
function rootOf(parents: usize, facing: usize, triangle: u32): u32 {
  let x = triangle,
    turned: u32 = 0
  for (let up = u32At(parents, x); up !== x; up = u32At(parents, x)) {
    const faces = u8At(facing, x) ^ u8At(facing, up),
      above = u32At(parents, up)
    putU8(facing, x, faces)
    putU32(parents, x, above)
    turned ^= faces
    x = above
  }
  turnedSoFar ^= turned
  return x
}

/**
 * Disjoint sets that carry along whether a triangle faces as the one that it hangs under; the smaller number
 * stays the root and faces as itself.
 */
function join(parents: usize, facing: usize, twisted: usize, a: u32, b: u32, turned: u32): void {
  // Most hang under the same number already, and agree
  if (u32At(parents, a) === u32At(parents, b) && (u8At(facing, a) ^ u8At(facing, b)) === turned) return
  turnedSoFar = turned
  const x = rootOf(parents, facing, a),
    y = rootOf(parents, facing, b)
  if (x === y) {
    if (turnedSoFar) putU8(twisted, x, 1)
    return
  }
  const low = min(x, y),
    high = max(x, y)
  putU32(parents, high, low)
  putU8(facing, high, turnedSoFar)
  if (u8At(twisted, high)) putU8(twisted, low, 1)
}

let openEdges: u32 = 0,
  manyEdges: u32 = 0,
  turnedEdges: u32 = 0,
  duplicates: u32 = 0
/** What the walk has counted since it was begun. */
export function openCount(): u32 {
  return openEdges
}
export function nonManifoldCount(): u32 {
  return manyEdges
}
export function turnedCount(): u32 {
  return turnedEdges
}
export function duplicateCount(): u32 {
  return duplicates
}
export function beginWalk(): void {
  openEdges = manyEdges = turnedEdges = duplicates = 0
}

/** Two triangles over the same edge with the same third point are one twice. */
function markDuplicate(a: u32, b: u32, flags: usize): void {
  const later = max(a, b) >> 2
  if (u8At(flags, later) & FACE_DUPLICATE) return
  putU8(flags, later, u8At(flags, later) | FACE_DUPLICATE)
  duplicates++
}

function takeMany(corners: usize, keys: usize, from: u32, to: u32, flags: usize): void {
  manyEdges++
  for (let i = from; i < to; i++) {
    const edge = <u32>key(keys, i),
      third = thirdPoint(corners, edge)
    putU8(flags, edge >> 2, u8At(flags, edge >> 2) | FACE_NON_MANIFOLD)
    for (let j = i + 1; j < to && j < i + 16; j++)
      if (third === thirdPoint(corners, <u32>key(keys, j))) markDuplicate(edge, <u32>key(keys, j), flags)
  }
}

/**
 * Walks the buckets of points from … to: pairs join their triangles, open edges are written to the front of
 * `edges`, where all has been walked. `keys` has room for the largest bucket, 64 bits each.
 */
export function walkEdges(
  corners: usize,
  from: u32,
  to: u32,
  flags: usize,
  starts: usize,
  edges: usize,
  parents: usize,
  facing: usize,
  twisted: usize,
  keys: usize,
): void {
  for (let low = from; low < to; low++) {
    const first = u32At(starts, low),
      count = u32At(starts, low + 1) - first
    for (let i: u32 = 0; i < count; i++) {
      const edge = u32At(edges, first + i)
      putKey(keys, i, ((<u64>farPoint(corners, edge, low)) << 32) | edge)
    }
    if (count > MANY_EDGES) sortMany(keys, count)
    else sortFew(keys, count)
    for (let run: u32 = 0; run < count;) {
      const high = key(keys, run) >> 32
      let end = run + 1
      while (end < count && key(keys, end) >> 32 === high) end++
      const edge = <u32>key(keys, run)
      if (end - run === 2) {
        const other = <u32>key(keys, run + 1)
        const turned = <u32>((nearPoint(corners, edge) === low) === (nearPoint(corners, other) === low))
        turnedEdges += turned
        join(parents, facing, twisted, edge >> 2, other >> 2, turned)
        if (thirdPoint(corners, edge) === thirdPoint(corners, other)) markDuplicate(edge, other, flags)
      } else if (end - run === 1) {
        putU32(edges, openEdges++, edge)
        putU8(flags, edge >> 2, u8At(flags, edge >> 2) | FACE_OPEN)
      } else takeMany(corners, keys, run, end, flags)
      run = end
    }
  }
}

/**
 * Hangs triangles from … to under their roots themselves and numbers the roots, counted on from `known`; what
 * one hangs under comes before it. Gives how many roots there are now.
 */
export function numberShells(
  from: u32,
  to: u32,
  flags: usize,
  parents: usize,
  facing: usize,
  numbers: usize,
  known: u32,
): u32 {
  let count = known
  for (let t = from; t < to; t++) {
    const up = u32At(parents, t)
    if (up === t) {
      if (!(u8At(flags, t) & FACE_COLLAPSED)) putU32(numbers, t, count++)
      continue
    }
    putU8(facing, t, u8At(facing, t) ^ u8At(facing, up))
    putU32(parents, t, u32At(parents, up))
  }
  return count
}

/**
 * Sums up triangles from … to by shell: areas and numbers of those that face as the root does and of those
 * that do not, six times the volume, whether it is open, whether it is joined to itself the wrong way round.
 */
export function sumShells(
  corners: usize,
  positions: usize,
  from: u32,
  to: u32,
  flags: usize,
  parents: usize,
  facing: usize,
  twisted: usize,
  numbers: usize,
  sign: f64,
  areas: usize,
  triangles: usize,
  volumes: usize,
  open: usize,
  twists: usize,
): void {
  for (let t = from; t < to; t++) {
    const flag = u8At(flags, t)
    if (flag & FACE_COLLAPSED) continue
    const root = u32At(parents, t),
      n = u32At(numbers, root),
      turned = u8At(facing, t)
    if (root === t) putU8(twists, n, u8At(twisted, t))
    countAt(triangles, n * 2 + turned)
    if (flag & (FACE_OPEN | FACE_NON_MANIFOLD)) putU8(open, n, 1)
    const own = triangleAt(corners, t),
      a = pointAt(positions, load<u32>(own)),
      b = pointAt(positions, load<u32>(own, 4)),
      c = pointAt(positions, load<u32>(own, 8))
    const ax = <f64>load<f32>(a),
      ay = <f64>load<f32>(a, 4),
      az = <f64>load<f32>(a, 8)
    const ux = <f64>load<f32>(b) - ax,
      uy = <f64>load<f32>(b, 4) - ay,
      uz = <f64>load<f32>(b, 8) - az
    const vx = <f64>load<f32>(c) - ax,
      vy = <f64>load<f32>(c, 4) - ay,
      vz = <f64>load<f32>(c, 8) - az
    const nx = uy * vz - uz * vy,
      ny = uz * vx - ux * vz,
      nz = ux * vy - uy * vx
    const area = areas + ((<usize>(n * 2 + turned)) << 3),
      volume = volumes + ((<usize>n) << 3)
    store<f64>(area, load<f64>(area) + sqrt(nx * nx + ny * ny + nz * nz) / 2)
    store<f64>(volume, load<f64>(volume) + (turned ? -sign : sign) * (ax * nx + ay * ny + az * nz))
  }
}

/**
 * Sets the flags that `marks` has for each shell: for triangles that face as its root does, and for the
 * others.
 */
export function markShells(
  from: u32,
  to: u32,
  flags: usize,
  parents: usize,
  facing: usize,
  numbers: usize,
  marks: usize,
): void {
  for (let t = from; t < to; t++) {
    const flag = u8At(flags, t)
    if (!(flag & FACE_COLLAPSED))
      putU8(flags, t, flag | u8At(marks, u32At(numbers, u32At(parents, t)) * 2 + u8At(facing, t)))
  }
}
