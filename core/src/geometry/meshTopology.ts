import { inBlocks, inKernels, type KernelRoom } from '../kernels/inKernels'
import { innerWalls } from './innerWalls'
import { openBorders } from './openBorders'

/**
 * What hangs together in a triangle list and which way it faces; `flags` has FACE_… bits for each triangle,
 * `shell` each triangle's root triangle.
 */
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

/**
 * A closed shell with less volume than this share of its area to the power of 1.5 is a sheet with two sides:
 * it has no inside.
 */
const LEAST_FULLNESS = 1e-6

/**
 * An open shell of at most so many triangles with less than this share of the surface was left over by some
 * cut.
 */
const CRUMB_TRIANGLES = 4
const CRUMB_SHARE = 1e-4

/**
 * Looks at edges, shells and facing. `corners` holds three point numbers a triangle, all below `pointCount`;
 * `positions` x y z of each point. `mirrored` tells that the winding counts the other way round. Edges are
 * sorted into buckets by their lower point (counting sort), so that no hash table is walked. Shells are
 * joined over edges that have just two triangles, with the facing carried along; of a closed shell the volume
 * tells the inside, of an open one the larger part is taken to face right.
 */
export function meshTopology(
  corners: Uint32Array,
  positions: Float32Array,
  mirrored: 'mirrored' | 'plain',
): MeshTopology {
  return inKernels((room) => {
    const held = holdMesh(room, corners, Math.floor(positions.length / 3))
    const { run, words } = room
    walkEdges(room, held)
    const counts = {
      openEdges: run.openCount(),
      nonManifoldEdges: run.nonManifoldCount(),
      turnedEdges: run.turnedCount(),
      duplicates: run.duplicateCount(),
    }
    const open = edgeList(words(held.edges, counts.openEdges), corners)
    const sums = sumShells(room, held, positions, mirrored === 'mirrored' ? -1 : 1)
    const hollow = hollowWalls(room, held, sums, { corners, positions })
    const judged = judgeShells(sums, hollow)
    if (judged.insideOut + judged.crumbs > 0) markShells(room, held, sums, judged.marks)
    const shell = words(held.parents, held.triangles).slice()
    const numbers = words(sums.numbers, held.triangles),
      trianglesOf = (root: number): number =>
        sums.triangles[numbers[root]! * 2]! + sums.triangles[numbers[root]! * 2 + 1]!
    const { shells, closedShells, insideOut, volume, crumbs } = judged
    return {
      ...counts,
      shells,
      closedShells,
      insideOut,
      volume,
      crumbs,
      shell,
      ...openBorders(open, shell, trianglesOf),
      flags: room.bytes(held.flags, held.triangles).slice(),
    }
  })
}

/** Places of a mesh and of what is found out about it, in the kernels' memory. */
interface HeldMesh {
  triangles: number
  points: number
  corners: number
  flags: number
  starts: number
  edges: number
  parents: number
  facing: number
  twisted: number
}

function holdMesh(room: KernelRoom, corners: Uint32Array, points: number): HeldMesh {
  const triangles = Math.floor(corners.length / 3)
  const held: HeldMesh = {
    triangles,
    points,
    corners: room.hold(corners),
    flags: room.filled(triangles),
    starts: room.filled((points + 1) * 4),
    edges: room.space(triangles * 12),
    parents: room.space(triangles * 4),
    facing: room.filled(triangles),
    twisted: room.filled(triangles),
  }
  const parents = room.words(held.parents, triangles)
  for (let t = 0; t < triangles; t++) parents[t] = t
  return held
}

/** Sorts the edges by their lower point and walks them; open ones then stand at the front of `edges`. */
function walkEdges(
  { run, space }: KernelRoom,
  { triangles, points, corners, flags, starts, edges, parents, facing, twisted }: HeldMesh,
): void {
  inBlocks(triangles, (from, to) => {
    run.countEdges(corners, from, to, points, flags, starts)
  })
  const keys = space(run.endBuckets(starts, points) * 8)
  // From the back, for that turns the ends of the buckets into starts
  inBlocks(triangles, (from, to) => {
    run.fillBuckets(corners, triangles - to, triangles - from, flags, starts, edges)
  })
  run.beginWalk()
  inBlocks(points, (from, to) => {
    run.walkEdges(corners, from, to, flags, starts, edges, parents, facing, twisted, keys)
  })
}

/** Two points and the triangle of each edge. */
function edgeList(edges: Uint32Array, corners: Uint32Array): Uint32Array {
  const list = new Uint32Array(edges.length * 3)
  edges.forEach((edge, e) => {
    const triangle = edge >>> 2,
      from = edge & 3
    list[e * 3] = corners[triangle * 3 + from]!
    list[e * 3 + 1] = corners[triangle * 3 + (from === 2 ? 0 : from + 1)]!
    list[e * 3 + 2] = triangle
  })
  return list
}

/**
 * Of each shell: areas and numbers of the triangles that face as its root does and of those that do not, six
 * times the volume, what it is. `numbers` is the place of the shell's number for each root.
 */
interface ShellSums {
  count: number
  numbers: number
  areas: Float64Array
  triangles: Uint32Array
  sixVolumes: Float64Array
  open: Uint8Array
  twisted: Uint8Array
}

function sumShells(room: KernelRoom, held: HeldMesh, positions: Float32Array, sign: number): ShellSums {
  const { run, filled } = room,
    { corners, flags, parents, facing, twisted } = held
  // The edges have been walked: their room is free, for a number a triangle and then for the points, or for
  // marks
  const numbers = held.edges,
    left = held.triangles * 8
  const points = positions.byteLength > left ? room.hold(positions) : numbers + held.triangles * 4
  if (positions.byteLength <= left) room.floats(points, positions.length).set(positions)
  let count = 0
  inBlocks(held.triangles, (from, to) => {
    count = run.numberShells(from, to, flags, parents, facing, numbers, count)
  })
  const areas = filled(count * 16),
    triangles = filled(count * 8),
    volumes = filled(count * 8),
    open = filled(count),
    twists = filled(count)
  inBlocks(held.triangles, (from, to) => {
    run.sumShells(
      corners,
      points,
      from,
      to,
      flags,
      parents,
      facing,
      twisted,
      numbers,
      sign,
      areas,
      triangles,
      volumes,
      open,
      twists,
    )
  })
  return {
    count,
    numbers,
    areas: room.doubles(areas, count * 2),
    triangles: room.words(triangles, count * 2),
    sixVolumes: room.doubles(volumes, count),
    open: room.bytes(open, count),
    twisted: room.bytes(twists, count),
  }
}

/** Closed, with an inside. */
function isBody({ areas, sixVolumes, open }: ShellSums, n: number): boolean {
  const area = areas[n * 2]! + areas[n * 2 + 1]!
  return open[n] === 0 && Math.abs(sixVolumes[n]!) / 6 > LEAST_FULLNESS * area ** 1.5
}

/** Inner walls of hollow bodies, by the number of their shell. */
function hollowWalls(
  room: KernelRoom,
  held: HeldMesh,
  sums: ShellSums,
  { corners, positions }: { corners: Uint32Array; positions: Float32Array },
): ReadonlySet<number> {
  let inward = 0
  for (let n = 0; n < sums.count; n++)
    if (sums.sixVolumes[n]! < 0 && sums.twisted[n] === 0 && isBody(sums, n)) inward++
  if (inward === 0 || inward === sums.count) return new Set()
  const parents = room.words(held.parents, held.triangles),
    numbers = room.words(sums.numbers, held.triangles),
    flags = room.bytes(held.flags, held.triangles)
  const shellOf = Int32Array.from({ length: held.triangles }, (_, t) =>
    (flags[t]! & FACE_COLLAPSED) !== 0 ? -1 : numbers[parents[t]!]!,
  )
  return innerWalls({
    corners,
    positions,
    shellOf,
    sixVolumes: sums.sixVolumes,
    isBody: (n) => sums.twisted[n] === 0 && isBody(sums, n),
  })
}

/**
 * `marks` has the flags to set, of each shell for the triangles that face as its root does, and for the
 * others.
 */
type Judged = Pick<MeshTopology, 'shells' | 'closedShells' | 'insideOut' | 'volume' | 'crumbs'> & {
  marks: Uint8Array
}

function judgeShells(sums: ShellSums, hollow: ReadonlySet<number>): Judged {
  let closed = 0,
    volume = 0,
    crumbs = 0,
    surface = 0,
    insideOut = 0
  for (let n = 0; n < sums.count; n++) surface += sums.areas[n * 2]! + sums.areas[n * 2 + 1]!
  const marks = new Uint8Array(sums.count * 2)
  for (let n = 0; n < sums.count; n++) {
    const plain = sums.areas[n * 2]!,
      turned = sums.areas[n * 2 + 1]!,
      area = plain + turned,
      full = Math.abs(sums.sixVolumes[n]!) / 6
    const open = sums.open[n] === 1
    if (!open) closed++
    else if (
      sums.triangles[n * 2]! + sums.triangles[n * 2 + 1]! <= CRUMB_TRIANGLES &&
      area < surface * CRUMB_SHARE
    ) {
      marks[n * 2] = marks[n * 2 + 1] = FACE_CRUMB
      crumbs++
    }
    // Of a shell that is joined to itself the wrong way round it cannot be told which side faces in
    if (sums.twisted[n]) continue
    const fat = isBody(sums, n)
    // The room within a hollow body is none of its volume, and its wall faces right
    if (hollow.has(n)) {
      volume -= full
      continue
    }
    if (fat) volume += full
    const wrong = n * 2 + ((fat ? sums.sixVolumes[n]! < 0 : turned > plain) ? 0 : 1)
    marks[wrong]! |= FACE_INSIDE_OUT
    insideOut += sums.triangles[wrong]!
  }
  return { shells: sums.count, closedShells: closed, insideOut, volume, crumbs, marks }
}

function markShells(
  room: KernelRoom,
  { triangles, flags, parents, facing }: HeldMesh,
  { numbers, count }: ShellSums,
  marks: Uint8Array,
): void {
  // There stood points or nothing; a shell has a triangle, and a triangle three edges
  const at = numbers + triangles * 4
  room.bytes(at, count * 2).set(marks)
  inBlocks(triangles, (from, to) => {
    room.run.markShells(from, to, flags, parents, facing, numbers, at)
  })
}
