import { append, inKernels, type KernelRoom } from '../kernels/inKernels'

/** Texels over the bounds of a sheet. */
export interface Grid {
  u0: number
  v0: number
  step: number
  width: number
  height: number
}

const LEAST_SIDE = 16
const USUAL_SIDE = 256
const MOST_SIDE = 4096
/**
 * What one walk over all triangles may cost, in texels: where many lie over one another, a coarser grid tells
 * as much.
 */
const MOST_WALKED = 64e6
/** Finding a row's ends takes as long as so many texels. */
const ROW_COST = 4

/**
 * Triangles on a sheet; held in the kernels' memory they are laid side by side, six numbers each (u v of each
 * corner), those from … to at a place.
 */
export interface SheetTriangles {
  count: number
  hold: (room: KernelRoom) => (from: number, to: number, at: number) => void
}

/** Triangles that all lie side by side already: the only ones that can be asked for by number. */
export interface LaidTriangles extends SheetTriangles {
  corners: Float32Array
}

export const laidTriangles = (corners: Float32Array): LaidTriangles => ({
  count: corners.length / 6,
  corners,
  hold: (room) => (from, to, at) => room.floats(at, (to - from) * 6).set(corners.subarray(from * 6, to * 6)),
})

/** Those of a list. */
export const listedTriangles = ({ corners }: LaidTriangles, list: ArrayLike<number>): SheetTriangles => ({
  count: list.length,
  hold: (room) => (from, to, at) => {
    const out = room.floats(at, (to - from) * 6)
    for (let i = from, k = 0; i < to; i++)
      for (let own = list[i]! * 6, end = own + 6; own < end; own++) out[k++] = corners[own]!
  },
})

/** So many are laid at a time: what a processor holds near. */
const BLOCK = 2048

/** Triangles of a list of vertex numbers; no numbers for those with bad indices. */
export function indexedTriangles(uv: Float32Array, indices: Uint32Array): SheetTriangles {
  const count = Math.floor(indices.length / 3)
  return {
    count,
    hold(room) {
      const held = room.hold(uv),
        own = room.space(Math.min(count, BLOCK) * 12)
      return (from, to, at) => {
        room.words(own, (to - from) * 3).set(indices.subarray(from * 3, to * 3))
        room.run.layTriangles(held, Math.floor(uv.length / 2), own, to - from, at)
      }
    },
  }
}

/** Lays block by block and calls with the place, the first triangle and how many. */
function eachBlock(
  room: KernelRoom,
  { count, hold }: SheetTriangles,
  visit: (at: number, from: number, count: number) => void,
): void {
  const lay = hold(room),
    at = room.space(Math.min(count, BLOCK) * 24)
  for (let from = 0; from < count; from += BLOCK) {
    const to = Math.min(count, from + BLOCK)
    lay(from, to, at)
    visit(at, from, to - from)
  }
}

/** All triangles side by side. */
export function layTriangles(sheet: SheetTriangles): LaidTriangles {
  const laid = new Float32Array(sheet.count * 6)
  inKernels((room) =>
    eachBlock(room, sheet, (at, from, count) => laid.set(room.floats(at, count * 6), from * 6)),
  )
  return laidTriangles(laid)
}

/** What triangles amount to: the sum of their areas and of their heights, and their bounds. */
export interface Extent {
  area: number
  heights: number
  u0: number
  v0: number
  u1: number
  v1: number
}

/** What is no number or endless is passed over. */
export function extentOf(sheet: SheetTriangles): Extent {
  return inKernels((room) => {
    const state = room.space(48)
    room.doubles(state, 6).set([0, 0, Infinity, Infinity, -Infinity, -Infinity])
    eachBlock(room, sheet, (at, _from, count) => {
      room.run.extendSheet(at, count, state)
    })
    const [area, heights, u0, v0, u1, v1] = room.doubles(state, 6) as unknown as [
      number,
      number,
      number,
      number,
      number,
      number,
    ]
    return { area, heights, u0, v0, u1, v1 }
  })
}

/** Triangles that have an area. */
export function withArea({ count, corners }: LaidTriangles): number[] {
  const found: number[] = []
  for (let t = 0; t < count; t++) if (areaAt(corners, t * 6) > 0) found.push(t)
  return found
}

/** Area of the triangle whose six numbers begin at `k`. */
export const areaAt = (corners: Float32Array, k: number): number =>
  Math.abs(
    (corners[k + 2]! - corners[k]!) * (corners[k + 5]! - corners[k + 1]!) -
      (corners[k + 4]! - corners[k]!) * (corners[k + 3]! - corners[k + 1]!),
  ) / 2

/**
 * A grid with two texels to a triangle, or `wanted` texels across; coarser where that would make a walk too
 * long. Null where nothing has an extent.
 */
export function gridOf(
  { area, heights, u0, v0, u1, v1 }: Extent,
  triangles: number,
  wanted?: number,
): Grid | null {
  const extent = Math.max(u1 - u0, v1 - v0)
  if (!(extent > 0)) return null
  let side = wanted ?? USUAL_SIDE
  while (wanted === undefined && side < MOST_SIDE && side * side < triangles * 4) side *= 2
  const walked = (n: number): number => area * (n / extent) ** 2 + ROW_COST * heights * (n / extent)
  while (side > LEAST_SIDE && walked(side) > MOST_WALKED) side /= 2
  const step = extent / side
  // Off the round fractions that edges lie on: a texel's middle on an edge would be decided by rounding
  const across = 0.382 * step,
    down = 0.271 * step
  return {
    u0: u0 - across,
    v0: v0 - down,
    step,
    width: Math.ceil((u1 - u0 + across) / step),
    height: Math.ceil((v1 - v0 + down) / step),
  }
}

/** Counts for each texel how many triangles cover its middle; 255 at the most. */
function countsOf(room: KernelRoom, sheet: SheetTriangles, { u0, v0, step, width, height }: Grid): number {
  const counts = room.filled(width * height)
  eachBlock(room, sheet, (at, _from, count) => {
    room.run.countTexels(at, count, u0, v0, step, width, height, counts)
  })
  return counts
}

/**
 * Where three or more lie over one another pairs count an area several times: what is covered twice or more,
 * and the excess, each over the sum of the pairs; that sum in texels, and how many lie over one another at
 * the most.
 */
export interface Depth {
  once: number
  excess: number
  pairs: number
  deepest: number
}

export function depthOf(sheet: SheetTriangles, grid: Grid): Depth {
  return inKernels((room) => {
    const texels = grid.width * grid.height,
      counts = countsOf(room, sheet, grid)
    let once = 0,
      pairs = 0,
      excess = 0,
      deepest = 0
    if (room.run.countAtLeast(counts, texels, 2) > 0)
      for (let i = 0, all = room.bytes(counts, texels); i < texels; i++) {
        const n = all[i]!
        if (n < 2) continue
        once++
        if (n > deepest) deepest = n
        pairs += (n * (n - 1)) / 2
        excess += n - 1
      }
    return pairs > 0
      ? { once: once / pairs, excess: excess / pairs, pairs, deepest }
      : { once: 1, excess: 1, pairs, deepest }
  })
}

/** Triangles that cover a texel which more than one covers. */
export function meetingTriangles(sheet: SheetTriangles, grid: Grid): number[] {
  const { u0, v0, step, width, height } = grid,
    found: number[] = []
  inKernels((room) => {
    const counts = countsOf(room, sheet, grid)
    if (room.run.countAtLeast(counts, width * height, 2) === 0) return
    const list = room.space(Math.min(sheet.count, BLOCK) * 4)
    eachBlock(room, sheet, (at, from, count) =>
      append(
        found,
        room.words(list, room.run.listMeeting(at, count, u0, v0, step, width, height, counts, from, list)),
      ),
    )
  })
  return found
}

/** Areas that are covered at all, more than once, and more than once by one island. */
export interface Coverage {
  covered: number
  overlapped: number
  within: number
}

/**
 * Coverage by counting the texels of the triangles of a list, for sheets with too many overlaps to clip each.
 */
export function coverageOf(
  laid: LaidTriangles,
  islandOf: Uint32Array,
  list: readonly number[],
  { u0, v0, step, width, height }: Grid,
): Coverage {
  // Triangles without an island have the greatest number; it becomes 0, so that keys stay whole
  const order = Float64Array.from(list, (t) => ((islandOf[t]! + 1) % 2 ** 32) * laid.count + t).sort()
  const members = Uint32Array.from(order, (key) => key % laid.count),
    texels = width * height
  return inKernels((room) => {
    const { run } = room,
      own = room.filled(texels),
      covered = room.filled(texels),
      ownTwice = room.filled(texels)
    const lay = listedTriangles(laid, members).hold(room),
      at = room.space(BLOCK * 24)
    // Island by island: what its triangles cover is taken over and cleared before the next
    for (let from = 0, to = 0; from < order.length; from = to) {
      const island = islandOf[members[from]!]
      while (to < order.length && islandOf[members[to]!] === island) to++
      for (const take of [false, true])
        for (let begin = from; begin < to; begin += BLOCK) {
          const end = Math.min(to, begin + BLOCK)
          lay(begin, end, at)
          if (take) run.takeTexels(at, end - begin, u0, v0, step, width, height, own, covered, ownTwice)
          else run.countTexels(at, end - begin, u0, v0, step, width, height, own)
        }
    }
    const areaOf = (counts: number, least: number): number =>
      run.countAtLeast(counts, texels, least) * step * step
    return { covered: areaOf(covered, 1), overlapped: areaOf(covered, 2), within: areaOf(ownTwice, 1) }
  })
}
