import { openBorders, openEdges, type OpenEdges } from './openBorders'

/** What hangs together in a triangle list and which way it faces; `flags` has FACE_… bits for each triangle, `shell` each triangle's root triangle. */
export interface MeshTopology {
  openEdges: number
  nonManifoldEdges: number
  turnedEdges: number
  shells: number
  closedShells: number
  insideOut: number
  duplicates: number
  /** Of the closed shells, as they would be when facing outward. */
  volume: number
  /** Rings of open edges, and those among them that look like an accident; see openBorders. */
  borders: number
  holes: number
  /** Open shells that are next to nothing of the surface. */
  crumbs: number
  flags: Uint8Array
  shell: Uint32Array
}

export const FACE_OPEN = 1
export const FACE_NON_MANIFOLD = 2
export const FACE_DUPLICATE = 4
export const FACE_INSIDE_OUT = 8
/** Collapsed: names a point twice or not at all; takes part in nothing. */
export const FACE_COLLAPSED = 16
export const FACE_CRUMB = 32

/** A closed shell with less volume than this share of its area to the power of 1.5 is a sheet with two sides: it has no inside. */
const LEAST_FULLNESS = 1e-6

/** An open shell of at most so many triangles with less than this share of the surface was left over by some cut. */
const CRUMB_TRIANGLES = 4
const CRUMB_SHARE = 1e-4

/**
 * Looks at edges, shells and facing. `corners` holds three point numbers a triangle, all below `pointCount`; `positions` x y z of each point. `mirrored` tells that the winding counts the
 * other way round. Edges are sorted into buckets by their lower point (counting sort), so that no hash table is walked. Shells are joined over edges that have just two triangles, with
 * the facing carried along; of a closed shell the volume tells the inside, of an open one the larger part is taken to face right.
 */
export function meshTopology(corners: Uint32Array, positions: Float32Array, mirrored: 'mirrored' | 'plain'): MeshTopology {
  const triangles = Math.floor(corners.length / 3), pointCount = Math.floor(positions.length / 3)
  const flags = new Uint8Array(triangles)
  const edges = sortEdges(corners, triangles, pointCount, flags)
  const shells = facingSets(triangles)
  const counts = { openEdges: 0, nonManifoldEdges: 0, turnedEdges: 0, duplicates: 0 }
  const walk: Walk = { corners, flags, shells, counts, open: openEdges() }
  for (let low = 0; low < pointCount; low++) walkBucket(edges, low, walk)
  const { sizes, ...judged } = judgeShells(corners, positions, { flags, shells, sign: mirrored === 'mirrored' ? -1 : 1 })
  return { ...counts, ...judged, ...openBorders(walk.open.list(), judged.shell, sizes), flags }
}

/** Edges in buckets by their lower point, two numbers each: the higher point, the owner. */
interface SortedEdges { starts: Uint32Array; edges: Uint32Array }

/** Owner is the triangle times two, plus one when the edge runs from its higher to its lower point. */
function sortEdges(corners: Uint32Array, triangles: number, pointCount: number, flags: Uint8Array): SortedEdges {
  const starts = new Uint32Array(pointCount + 1)
  for (let t = 0; t < triangles; t++) {
    const a = corners[t * 3]!, b = corners[t * 3 + 1]!, c = corners[t * 3 + 2]!
    if (a === b || b === c || a === c || a >= pointCount || b >= pointCount || c >= pointCount) {
      flags[t] = FACE_COLLAPSED
      continue
    }
    starts[(a < b ? a : b) + 1]!++
    starts[(b < c ? b : c) + 1]!++
    starts[(c < a ? c : a) + 1]!++
  }
  for (let p = 0; p < pointCount; p++) starts[p + 1]! += starts[p]!
  const cursor = starts.slice(0, pointCount)
  const edges = new Uint32Array(starts[pointCount]! * 2)
  const put = (from: number, to: number, t: number): void => {
    const down = from > to
    const at = cursor[down ? to : from]!++ * 2
    edges[at] = down ? from : to
    edges[at + 1] = t * 2 + (down ? 1 : 0)
  }
  for (let t = 0; t < triangles; t++) {
    if (flags[t]) continue
    const a = corners[t * 3]!, b = corners[t * 3 + 1]!, c = corners[t * 3 + 2]!
    put(a, b, t)
    put(b, c, t)
    put(c, a, t)
  }
  return { starts, edges }
}

interface Walk { corners: Uint32Array; flags: Uint8Array; shells: FacingSets; counts: { openEdges: number; nonManifoldEdges: number; turnedEdges: number; duplicates: number }; open: OpenEdges }

function walkBucket({ starts, edges }: SortedEdges, low: number, walk: Walk): void {
  const from = starts[low]! * 2, to = starts[low + 1]! * 2
  // Buckets hold six edges or so: insertion sort
  for (let i = from + 2; i < to; i += 2) {
    const high = edges[i]!
    if (edges[i - 2]! <= high) continue
    const owner = edges[i + 1]!
    let j = i - 2
    for (; j >= from && edges[j]! > high; j -= 2) {
      edges[j + 2] = edges[j]!
      edges[j + 3] = edges[j + 1]!
    }
    edges[j + 2] = high
    edges[j + 3] = owner
  }
  for (let run = from; run < to; ) {
    let end = run + 2
    while (end < to && edges[end] === edges[run]) end += 2
    if (end - run === 2) walk.open.add(low, edges[run]!, edges[run + 1]! >>> 1)
    takeEdge(edges, run, end, walk)
    run = end
  }
}

function takeEdge(edges: Uint32Array, from: number, to: number, walk: Walk): void {
  const { corners, flags, shells, counts } = walk
  const first = edges[from + 1]!
  if (to - from === 2) {
    counts.openEdges++
    flags[first >>> 1]! |= FACE_OPEN
    return
  }
  if (to - from === 4) {
    const second = edges[from + 3]!
    const turned = ((first ^ second) & 1) === 0
    if (turned) counts.turnedEdges++
    shells.join(first >>> 1, second >>> 1, turned ? 1 : 0)
    if (mixOf(corners, first) === mixOf(corners, second)) markDuplicate(first, second, walk)
    return
  }
  counts.nonManifoldEdges++
  for (let i = from; i < to; i += 2) {
    flags[edges[i + 1]! >>> 1]! |= FACE_NON_MANIFOLD
    const mix = mixOf(corners, edges[i + 1]!)
    for (let j = i + 2; j < to && j < i + 32; j += 2) if (mix === mixOf(corners, edges[j + 1]!)) markDuplicate(edges[i + 1]!, edges[j + 1]!, walk)
  }
}

/** Exclusive or of a triangle's corners: of two over the same edge it is the same just when their third points are. */
const mixOf = (corners: Uint32Array, owner: number): number => {
  const k = (owner >>> 1) * 3
  return corners[k]! ^ corners[k + 1]! ^ corners[k + 2]!
}

/** Two triangles over the same edge with the same third point are one twice. */
function markDuplicate(a: number, b: number, { flags, counts }: Walk): void {
  const later = Math.max(a, b) >>> 1
  if (flags[later]! & FACE_DUPLICATE) return
  flags[later]! |= FACE_DUPLICATE
  counts.duplicates++
}

interface FacingSets { parents: Uint32Array; facing: Uint8Array; twisted: Uint8Array; join: (a: number, b: number, turned: 0 | 1) => void; find: (i: number) => number }

/** Disjoint sets that carry along whether an element faces as its root does. `facing` is true to the root right after find. */
function facingSets(count: number): FacingSets {
  const parents = new Uint32Array(count), facing = new Uint8Array(count), twisted = new Uint8Array(count)
  for (let i = 0; i < count; i++) parents[i] = i
  // Two passes: find the root with the facing summed up, then hang everything on the way under it
  const find = (i: number): number => {
    let root = i, sum = 0
    while (parents[root] !== root) {
      sum ^= facing[root]!
      root = parents[root]!
    }
    for (let at = i; parents[at] !== root && at !== root; ) {
      const up = parents[at]!, own = facing[at]!
      parents[at] = root
      facing[at] = sum
      sum ^= own
      at = up
    }
    return root
  }
  const join = (a: number, b: number, turned: 0 | 1): void => {
    const x = find(a), y = find(b)
    const fa = x === a ? 0 : facing[a]!, fb = y === b ? 0 : facing[b]!
    if (x === y) {
      if ((fa ^ fb) !== turned) twisted[x] = 1
      return
    }
    const [low, high] = x < y ? [x, y] : [y, x]
    parents[high] = low
    facing[high] = fa ^ fb ^ turned
    if (twisted[high]) twisted[low] = 1
  }
  return { parents, facing, twisted, join, find }
}

interface ShellInput { flags: Uint8Array; shells: FacingSets; sign: number }

function judgeShells(corners: Uint32Array, positions: Float32Array, { flags, shells, sign }: ShellInput): Pick<MeshTopology, 'shells' | 'closedShells' | 'insideOut' | 'volume' | 'shell' | 'crumbs'> & { sizes: Uint32Array } {
  const triangles = flags.length
  const shell = new Uint32Array(triangles), side = new Uint8Array(triangles), numbers = new Uint32Array(triangles)
  const sums: ShellSum[] = []
  for (let t = 0; t < triangles; t++) {
    const root = shells.find(t)
    shell[t] = root
    if (flags[t]! & FACE_COLLAPSED) continue
    // The root is the lowest triangle of its shell, so it comes first
    if (root === t) numbers[t] = sums.push({ plainArea: 0, turnedArea: 0, sixVolumes: 0, open: false, twisted: shells.twisted[t] === 1, wrong: 2, triangles: 0, crumb: false }) - 1
    const sum = sums[numbers[root]!]!
    const turned = root === t ? 0 : shells.facing[t]!
    side[t] = turned
    sum.triangles++
    if (flags[t]! & (FACE_OPEN | FACE_NON_MANIFOLD)) sum.open = true
    const a = corners[t * 3]! * 3, b = corners[t * 3 + 1]! * 3, c = corners[t * 3 + 2]! * 3
    const ax = positions[a]!, ay = positions[a + 1]!, az = positions[a + 2]!
    const ux = positions[b]! - ax, uy = positions[b + 1]! - ay, uz = positions[b + 2]! - az
    const vx = positions[c]! - ax, vy = positions[c + 1]! - ay, vz = positions[c + 2]! - az
    const nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx
    const area = Math.sqrt(nx * nx + ny * ny + nz * nz) / 2
    if (turned) sum.turnedArea += area
    else sum.plainArea += area
    sum.sixVolumes += (turned ? -1 : 1) * sign * (ax * nx + ay * ny + az * nz)
  }
  let closed = 0, volume = 0, crumbs = 0
  const surface = sums.reduce((all, s) => all + s.plainArea + s.turnedArea, 0)
  for (const sum of sums) {
    const area = sum.plainArea + sum.turnedArea, full = Math.abs(sum.sixVolumes) / 6
    if (!sum.open) closed++
    else if (sum.triangles <= CRUMB_TRIANGLES && area < surface * CRUMB_SHARE) {
      sum.crumb = true
      crumbs++
    }
    if (sum.twisted) continue
    const fat = !sum.open && full > LEAST_FULLNESS * area ** 1.5
    if (fat) volume += full
    sum.wrong = (fat ? sum.sixVolumes < 0 : sum.turnedArea > sum.plainArea) ? 0 : 1
  }
  let insideOut = 0
  const sizes = new Uint32Array(triangles)
  for (let t = 0; t < triangles; t++) {
    if (flags[t]! & FACE_COLLAPSED) continue
    const sum = sums[numbers[shell[t]!]!]!
    if (shell[t] === t) sizes[t] = sum.triangles
    if (sum.crumb) flags[t]! |= FACE_CRUMB
    if (side[t] !== sum.wrong) continue
    flags[t]! |= FACE_INSIDE_OUT
    insideOut++
  }
  return { shells: sums.length, closedShells: closed, insideOut, volume, shell, crumbs, sizes }
}

/** `wrong` tells which side faces in: 0 those that face as the root does, 1 the others, 2 it cannot be told. */
interface ShellSum { plainArea: number; turnedArea: number; sixVolumes: number; open: boolean; twisted: boolean; wrong: 0 | 1 | 2; triangles: number; crumb: boolean }
