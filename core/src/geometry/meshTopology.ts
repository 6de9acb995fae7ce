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
  walkEdges(edges, pointCount, walk)
  const { trianglesOf, ...judged } = judgeShells(corners, positions, { flags, shells, sign: mirrored === 'mirrored' ? -1 : 1 })
  return { ...counts, ...judged, ...openBorders(walk.open.list(), judged.shell, trianglesOf), flags }
}

/** Edges in buckets by their lower point, as the corner that each runs from: four times the triangle, plus 0 to 2. */
interface SortedEdges { starts: Uint32Array; edges: Uint32Array }

function sortEdges(corners: Uint32Array, triangles: number, pointCount: number, flags: Uint8Array): SortedEdges {
  const starts = new Uint32Array(pointCount + 1)
  for (let t = 0; t < triangles; t++) {
    const a = corners[t * 3]!, b = corners[t * 3 + 1]!, c = corners[t * 3 + 2]!
    if (a === b || b === c || a === c || a >= pointCount || b >= pointCount || c >= pointCount) {
      flags[t] = FACE_COLLAPSED
      continue
    }
    starts[a < b ? a : b]!++
    starts[b < c ? b : c]!++
    starts[c < a ? c : a]!++
  }
  // Ends first: filling from the back turns them into starts
  for (let p = 0; p < pointCount; p++) starts[p + 1]! += starts[p]!
  const edges = new Uint32Array(starts[pointCount]!)
  for (let t = triangles - 1; t >= 0; t--) {
    if (flags[t]) continue
    const a = corners[t * 3]!, b = corners[t * 3 + 1]!, c = corners[t * 3 + 2]!
    edges[--starts[c < a ? c : a]!] = t * 4 + 2
    edges[--starts[b < c ? b : c]!] = t * 4 + 1
    edges[--starts[a < b ? a : b]!] = t * 4
  }
  return { starts, edges }
}

interface Walk { corners: Uint32Array; flags: Uint8Array; shells: FacingSets; counts: { openEdges: number; nonManifoldEdges: number; turnedEdges: number; duplicates: number }; open: OpenEdges }

/** A bucket of more edges is not sorted by insertion. */
const MANY_EDGES = 64

function walkEdges({ starts, edges }: SortedEdges, pointCount: number, walk: Walk): void {
  const { corners } = walk
  let highs = new Uint32Array(MANY_EDGES)
  for (let low = 0; low < pointCount; low++) {
    const from = starts[low]!, count = starts[low + 1]! - from
    if (count > highs.length) highs = new Uint32Array(count * 2)
    for (let i = 0; i < count; i++) highs[i] = farPoint(corners, edges[from + i]!, low)
    if (count > MANY_EDGES) sortBucket(edges.subarray(from, from + count), highs)
    else sortFew(edges, from, count, highs)
    for (let run = 0; run < count; ) {
      let end = run + 1
      while (end < count && highs[end] === highs[run]) end++
      if (end - run === 2) takePair(edges[from + run]!, edges[from + run + 1]!, low, walk)
      else if (end - run === 1) takeOpen(edges[from + run]!, low, highs[run]!, walk)
      else takeMany(edges, from + run, from + end, walk)
      run = end
    }
  }
}

/** Insertion sort: buckets hold six edges or so. */
function sortFew(edges: Uint32Array, from: number, count: number, highs: Uint32Array): void {
  for (let i = 1; i < count; i++) {
    const high = highs[i]!
    if (highs[i - 1]! <= high) continue
    const edge = edges[from + i]!
    let j = i - 1
    for (; j >= 0 && highs[j]! > high; j--) {
      highs[j + 1] = highs[j]!
      edges[from + j + 1] = edges[from + j]!
    }
    highs[j + 1] = high
    edges[from + j + 1] = edge
  }
}

/** Sorts a bucket and its higher points by these. */
function sortBucket(edges: Uint32Array, highs: Uint32Array): void {
  const order = Uint32Array.from(edges.keys()).sort((i, j) => highs[i]! - highs[j]!)
  edges.set(order.map((i) => edges[i]!))
  highs.set(order.map((i) => highs[i]!))
}

/** The other end of an edge. */
function farPoint(corners: Uint32Array, edge: number, low: number): number {
  const k = (edge >>> 2) * 3, from = edge & 3
  const point = corners[k + from]!
  return point === low ? corners[k + (from === 2 ? 0 : from + 1)]! : point
}

/** The corner of a triangle that is not on an edge of it. */
function thirdPoint(corners: Uint32Array, edge: number): number {
  const k = (edge >>> 2) * 3, from = edge & 3
  return corners[k + (from === 0 ? 2 : from - 1)]!
}

const runsUp = (corners: Uint32Array, edge: number, low: number): boolean => corners[(edge >>> 2) * 3 + (edge & 3)] === low

function takeOpen(edge: number, low: number, high: number, { flags, counts, open }: Walk): void {
  open.add(low, high, edge >>> 2)
  counts.openEdges++
  flags[edge >>> 2]! |= FACE_OPEN
}

function takePair(first: number, second: number, low: number, walk: Walk): void {
  const { corners, shells, counts } = walk
  const turned = runsUp(corners, first, low) === runsUp(corners, second, low)
  if (turned) counts.turnedEdges++
  shells.join(first >>> 2, second >>> 2, turned ? 1 : 0)
  if (thirdPoint(corners, first) === thirdPoint(corners, second)) markDuplicate(first, second, walk)
}

function takeMany(edges: Uint32Array, from: number, to: number, walk: Walk): void {
  const { corners, flags, counts } = walk
  counts.nonManifoldEdges++
  for (let i = from; i < to; i++) {
    flags[edges[i]! >>> 2]! |= FACE_NON_MANIFOLD
    const third = thirdPoint(corners, edges[i]!)
    for (let j = i + 1; j < to && j < i + 16; j++) if (third === thirdPoint(corners, edges[j]!)) markDuplicate(edges[i]!, edges[j]!, walk)
  }
}

/** Two triangles over the same edge with the same third point are one twice. */
function markDuplicate(a: number, b: number, { flags, counts }: Walk): void {
  const later = Math.max(a, b) >>> 2
  if (flags[later]! & FACE_DUPLICATE) return
  flags[later]! |= FACE_DUPLICATE
  counts.duplicates++
}

interface FacingSets { parents: Uint32Array; facing: Uint8Array; twisted: Uint8Array; join: (a: number, b: number, turned: 0 | 1) => void }

/** Disjoint sets that carry along whether an element faces as the one that it hangs under; path halving, the smaller number stays the root and faces as itself. */
function facingSets(count: number): FacingSets {
  const parents = new Uint32Array(count), facing = new Uint8Array(count), twisted = new Uint8Array(count)
  for (let i = 0; i < count; i++) parents[i] = i
  const join = (a: number, b: number, turned: 0 | 1): void => {
    let x = a, y = b, other = turned as number
    for (let up = parents[x]!; up !== x; up = parents[x]!) {
      facing[x]! ^= facing[up]!
      parents[x] = parents[up]!
      other ^= facing[x]!
      x = parents[up]!
    }
    for (let up = parents[y]!; up !== y; up = parents[y]!) {
      facing[y]! ^= facing[up]!
      parents[y] = parents[up]!
      other ^= facing[y]!
      y = parents[up]!
    }
    if (x === y) {
      if (other) twisted[x] = 1
      return
    }
    const low = x < y ? x : y, high = x < y ? y : x
    parents[high] = low
    facing[high] = other
    if (twisted[high]) twisted[low] = 1
  }
  return { parents, facing, twisted, join }
}

interface ShellInput { flags: Uint8Array; shells: FacingSets; sign: number }

function judgeShells(corners: Uint32Array, positions: Float32Array, { flags, shells, sign }: ShellInput): Judged {
  const { shell, side, numbers, sums } = sumShells(corners, positions, { flags, shells, sign })
  let closed = 0, volume = 0, crumbs = 0, surface = 0, insideOut = 0
  for (let n = 0; n < sums.count; n++) surface += sums.areas[n * 2]! + sums.areas[n * 2 + 1]!
  // The flags to set: of each shell for the triangles that face as its root does, and for the others
  const marks = new Uint8Array(sums.count * 2)
  for (let n = 0; n < sums.count; n++) {
    const plain = sums.areas[n * 2]!, turned = sums.areas[n * 2 + 1]!, area = plain + turned, full = Math.abs(sums.sixVolumes[n]!) / 6
    const open = sums.open[n] === 1
    if (!open) closed++
    else if (sums.triangles[n * 2]! + sums.triangles[n * 2 + 1]! <= CRUMB_TRIANGLES && area < surface * CRUMB_SHARE) {
      marks[n * 2] = marks[n * 2 + 1] = FACE_CRUMB
      crumbs++
    }
    // Of a shell that is joined to itself the wrong way round it cannot be told which side faces in
    if (sums.twisted[n]) continue
    const fat = !open && full > LEAST_FULLNESS * area ** 1.5
    if (fat) volume += full
    const wrong = n * 2 + ((fat ? sums.sixVolumes[n]! < 0 : turned > plain) ? 0 : 1)
    marks[wrong]! |= FACE_INSIDE_OUT
    insideOut += sums.triangles[wrong]!
  }
  if (insideOut + crumbs > 0) for (let t = 0; t < flags.length; t++) if (!(flags[t]! & FACE_COLLAPSED)) flags[t]! |= marks[numbers[shell[t]!]! * 2 + side[t]!]!
  const trianglesOf = (root: number): number => sums.triangles[numbers[root]! * 2]! + sums.triangles[numbers[root]! * 2 + 1]!
  return { shells: sums.count, closedShells: closed, insideOut, volume, shell, crumbs, trianglesOf }
}

type Judged = Pick<MeshTopology, 'shells' | 'closedShells' | 'insideOut' | 'volume' | 'shell' | 'crumbs'> & { /** Triangles of the shell with this root. */ trianglesOf: (root: number) => number }

/** Of each shell: areas and numbers of the triangles that face as its root does and of those that do not, six times the volume, what it is. */
interface ShellSums { count: number; areas: Float64Array; triangles: Uint32Array; sixVolumes: Float64Array; open: Uint8Array; twisted: Uint8Array }

/** `shell` has each triangle's root, `side` whether it faces as that does, `numbers` the shell's number for each root. */
function sumShells(corners: Uint32Array, positions: Float32Array, { flags, shells: { parents: shell, facing: side, twisted }, sign }: ShellInput): { shell: Uint32Array; side: Uint8Array; numbers: Uint32Array; sums: ShellSums } {
  const triangles = flags.length, numbers = new Uint32Array(triangles)
  let count = 0
  // What a triangle hangs under comes before it and by then hangs under the root itself
  for (let t = 0; t < triangles; t++) {
    const up = shell[t]!
    if (up === t) {
      if (!(flags[t]! & FACE_COLLAPSED)) numbers[t] = count++
      continue
    }
    side[t]! ^= side[up]!
    shell[t] = shell[up]!
  }
  const sums: ShellSums = { count, areas: new Float64Array(count * 2), triangles: new Uint32Array(count * 2), sixVolumes: new Float64Array(count), open: new Uint8Array(count), twisted: new Uint8Array(count) }
  const { areas, sixVolumes } = sums
  for (let t = 0; t < triangles; t++) {
    if (flags[t]! & FACE_COLLAPSED) continue
    const n = numbers[shell[t]!]!, turned = side[t]!
    if (shell[t] === t) sums.twisted[n] = twisted[t]!
    sums.triangles[n * 2 + turned]!++
    if (flags[t]! & (FACE_OPEN | FACE_NON_MANIFOLD)) sums.open[n] = 1
    const a = corners[t * 3]! * 3, b = corners[t * 3 + 1]! * 3, c = corners[t * 3 + 2]! * 3
    const ax = positions[a]!, ay = positions[a + 1]!, az = positions[a + 2]!
    const ux = positions[b]! - ax, uy = positions[b + 1]! - ay, uz = positions[b + 2]! - az
    const vx = positions[c]! - ax, vy = positions[c + 1]! - ay, vz = positions[c + 2]! - az
    const nx = uy * vz - uz * vy, ny = uz * vx - ux * vz, nz = ux * vy - uy * vx
    areas[n * 2 + turned]! += Math.sqrt(nx * nx + ny * ny + nz * nz) / 2
    sixVolumes[n]! += (turned ? -1 : 1) * sign * (ax * nx + ay * ny + az * nz)
  }
  return { shell, side, numbers, sums }
}
