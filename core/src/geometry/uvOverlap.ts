import { hashBits, tableSize } from './hashBits'
import { sharedArea } from './triangleClip'
import {
  areaAt,
  coverageOf,
  depthOf,
  extentOf,
  gridOf,
  indexedTriangles,
  layTriangles,
  listedTriangles,
  meetingTriangles,
  withArea,
  type Depth,
  type Grid,
  type LaidTriangles,
} from './uvRaster'

export interface UvOverlap {
  covered: number
  overlapped: number
  within: number
  /** Triangles that overlap another, in rising order. */
  triangles: Uint32Array
  stacked: number
  /** Areas are those of clipped pairs; else they were counted on a raster. */
  exact: boolean
}

/** More pairs than this are not clipped one by one; the area is then the raster's. */
const MOST_PAIRS = 500_000
/** Nor more pairs than this looked at whether their bounds meet. */
const MOST_LOOKS = 40e6
/**
 * Up to this many triangles every pair whose bounds meet is clipped; beyond, only those in texels that were
 * counted twice.
 */
const ALL_PAIRS_UP_TO = 4096
/**
 * Side of the raster that areas are taken from where there are too many pairs: finer where there are many
 * triangles.
 */
const sideForAreas = (triangles: number): number => (triangles > 16_384 ? 1024 : 512)
/** Guessed from the raster there must be so many times too many pairs before they are not even tried. */
const SURELY = 1.5
/**
 * Rounding of 32-bit UVs: less than this shared is none, in sheets and as a share of the smaller triangle.
 */
const NO_AREA = 2e-10
const NO_SHARE = 1e-4

/**
 * Measures where triangles lie over one another on a sheet, as they lie (not wrapped). `uv` holds u v of each
 * vertex, `islandOf` the island of each triangle. In large lists first every triangle counts up the texels
 * whose middle it covers, on a grid over the bounds with two texels to a triangle; shared edges count once by
 * the fill rule, and only triangles in texels that were counted twice go on, so that what overlaps by less
 * than a texel of that grid is not found. Equal triangles are found as stacks, the rest is sorted into bins
 * and clipped pair by pair.
 */
export function uvOverlap(uv: Float32Array, indices: Uint32Array, islandOf: Uint32Array): UvOverlap {
  const sheet = indexedTriangles(uv, indices)
  const all = extentOf(sheet)
  const none: UvOverlap = {
    covered: all.area,
    overlapped: 0,
    within: 0,
    triangles: new Uint32Array(0),
    stacked: 0,
    exact: true,
  }
  const grid = gridOf(all, sheet.count)
  if (!grid) return none
  const small = sheet.count <= ALL_PAIRS_UP_TO ? layTriangles(sheet) : null
  const candidates = small ? withArea(small) : meetingTriangles(sheet, grid)
  if (candidates.length === 0) return none
  const laid = small ?? layTriangles(sheet)
  const { excess, stacks, ...found } = overlapOf({ laid, grid, candidates, islandOf })
  if (found.exact) return { ...found, covered: Math.max(0, all.area - excess) }
  const once = onceAndTwice(laid.count, stacks, islandOf)
  return {
    ...found,
    ...coverageOf(
      laid,
      islandOf,
      once,
      gridOf(extentOf(listedTriangles(laid, once)), laid.count, sideForAreas(laid.count))!,
    ),
  }
}

interface Candidates {
  laid: LaidTriangles
  grid: Grid
  candidates: readonly number[]
  islandOf: Uint32Array
}

/** `excess` is what the areas of all triangles add up to beyond what they cover. */
function overlapOf({
  laid,
  grid,
  candidates,
  islandOf,
}: Candidates): Omit<UvOverlap, 'covered'> & { excess: number; stacks: Stacks } {
  const hit = new Uint8Array(laid.count)
  const stacks = findStacks(laid.corners, candidates, hit)
  let stackedArea = 0,
    stackedWithin = 0,
    stackedExcess = 0
  const seen = new Set<number>()
  for (const [t, below] of stacks.pairs) {
    const area = areaAt(laid.corners, t * 6)
    stackedExcess += area
    if (seen.has(below)) continue
    seen.add(below)
    stackedArea += area
    if (islandOf[t] === islandOf[below]) stackedWithin += area
  }
  const { single } = stacks
  let sum = 0,
    within = 0
  let counted: Depth | null = null
  const depth = (): Depth => (counted ??= depthOf(listedTriangles(laid, single), grid))
  const done =
    !isHopeless(laid, grid, single, depth) &&
    eachPair(laid.corners, grid, single, (a, b) => {
      const area = sharedArea(laid.corners, a * 6, b * 6)
      if (
        area <= NO_AREA ||
        area <= NO_SHARE * Math.min(areaAt(laid.corners, a * 6), areaAt(laid.corners, b * 6))
      )
        return
      sum += area
      if (islandOf[a] === islandOf[b]) within += area
      hit[a] = hit[b] = 1
    })
  const ratio = sum > 0 ? depth() : { once: 1, excess: 1 }
  if (!done) for (const t of candidates) hit[t] = 1
  // Where something lies over a stack the sums would count its area twice
  const mixed =
    sum > 0 && stacks.pairs.length > 0 && depthOf(listedTriangles(laid, candidates), grid).deepest > 2
  const triangles: number[] = []
  for (let t = 0; t < hit.length; t++) if (hit[t]) triangles.push(t)
  return {
    overlapped: sum * ratio.once + stackedArea,
    within: within * ratio.once + stackedWithin,
    excess: sum * ratio.excess + stackedExcess,
    triangles: Uint32Array.from(triangles),
    stacked: stacks.pairs.length,
    exact: done && !mixed,
    stacks,
  }
}

/**
 * Guessed from the raster, whether there are too many pairs to clip each; few triangles cannot have so many.
 */
function isHopeless(laid: LaidTriangles, grid: Grid, single: readonly number[], depth: () => Depth): boolean {
  if ((single.length * (single.length - 1)) / 2 <= MOST_PAIRS) return false
  const texels =
    single.reduce((all, t) => all + areaAt(laid.corners, t * 6), 0) / grid.step ** 2 / single.length
  // Two that overlap share a part of their texels, a quarter or so
  return depth().pairs / Math.max(1, texels / 4) > MOST_PAIRS * SURELY
}

interface Stacks {
  pairs: [number, number][]
  single: number[]
}

/**
 * Triangles that cover what all cover, as often as it matters: of a stack two are enough, of one island where
 * there are such.
 */
function onceAndTwice(count: number, { pairs }: Stacks, islandOf: Uint32Array): number[] {
  const left = new Uint8Array(count),
    second = new Map<number, number>()
  for (const [t, below] of pairs) {
    left[t] = 1
    const known = second.get(below)
    if (known === undefined || (islandOf[t] === islandOf[below] && islandOf[known] !== islandOf[below]))
      second.set(below, t)
  }
  for (const t of second.values()) left[t] = 0
  const kept: number[] = []
  for (let t = 0; t < left.length; t++) if (!left[t]) kept.push(t)
  return kept
}

/** Rounds to about a hundredth of a texel at 8192. */
const STACK_ROUNDING = 1 << 20

/**
 * Triangles of the same three corners: each later one is paired with the first; `single` holds one of each.
 */
function findStacks(laid: Float32Array, candidates: readonly number[], hit: Uint8Array): Stacks {
  const size = tableSize(candidates.length)
  const heads = new Int32Array(size).fill(-1),
    next = new Int32Array(candidates.length)
  const pairs: [number, number][] = [],
    single: number[] = []
  for (const [i, t] of candidates.entries()) {
    const k = t * 6
    // Symmetric in the corners, so that their order does not matter
    const a = hashCorner(laid, k),
      b = hashCorner(laid, k + 2),
      c = hashCorner(laid, k + 4)
    const slot = ((a + b + c) ^ Math.imul(a ^ b ^ c, 0x9e3779b1)) & (size - 1)
    let found = -1
    for (let other = heads[slot]!; other !== -1 && found === -1; other = next[other]!)
      if (sameCorners(laid, k, candidates[other]! * 6)) found = candidates[other]!
    if (found >= 0) {
      pairs.push([t, found])
      hit[t] = hit[found] = 1
    } else {
      next[i] = heads[slot]!
      heads[slot] = i
      single.push(t)
    }
  }
  return { pairs, single }
}

const hashCorner = (laid: Float32Array, k: number): number =>
  hashBits(Math.round(laid[k]! * STACK_ROUNDING), Math.round(laid[k + 1]! * STACK_ROUNDING), 7)

function sameCorners(laid: Float32Array, a: number, b: number): boolean {
  for (let turn = 0; turn < 6; turn += 2) {
    if (!sameCorner(laid, a, b + turn)) continue
    const next = b + ((turn + 2) % 6),
      last = b + ((turn + 4) % 6)
    if (sameCorner(laid, a + 2, next) && sameCorner(laid, a + 4, last)) return true
    if (sameCorner(laid, a + 2, last) && sameCorner(laid, a + 4, next)) return true
  }
  return false
}

const sameCorner = (laid: Float32Array, i: number, j: number): boolean =>
  Math.abs(laid[i]! - laid[j]!) < 1 / STACK_ROUNDING &&
  Math.abs(laid[i + 1]! - laid[j + 1]!) < 1 / STACK_ROUNDING

/**
 * Calls with every pair of triangles whose bounds meet, each pair once; false when there were too many and
 * the rest was left.
 */
function eachPair(
  laid: Float32Array,
  grid: Grid,
  triangles: readonly number[],
  visit: (a: number, b: number) => void,
): boolean {
  const bins = sortIntoBins(laid, grid, triangles)
  let pairs = 0,
    looks = 0
  for (let bin = 0; bin < bins.side * bins.side; bin++)
    for (let i = bins.starts[bin]!, end = bins.starts[bin + 1]!; i < end; i++) {
      const a = bins.list[i]!
      if ((looks += end - i - 1) > MOST_LOOKS) return false
      for (let j = i + 1; j < end; j++) {
        const b = bins.list[j]!
        const u = Math.max(bins.boxes[a * 4]!, bins.boxes[b * 4]!),
          v = Math.max(bins.boxes[a * 4 + 1]!, bins.boxes[b * 4 + 1]!)
        if (
          u >= Math.min(bins.boxes[a * 4 + 2]!, bins.boxes[b * 4 + 2]!) ||
          v >= Math.min(bins.boxes[a * 4 + 3]!, bins.boxes[b * 4 + 3]!)
        )
          continue
        // Two that share several bins meet in the one that holds the lower corner of their common box
        if (bins.binOf(u, v) !== bin) continue
        if (++pairs > MOST_PAIRS) return false
        visit(triangles[a]!, triangles[b]!)
      }
    }
  return true
}

interface Bins {
  side: number
  starts: Uint32Array
  list: Uint32Array
  boxes: Float64Array
  binOf: (u: number, v: number) => number
}

/**
 * Numbers of `triangles` by the bins that their bounds touch: about one bin to a triangle, and none smaller
 * than they are on the whole.
 */
function sortIntoBins(
  laid: Float32Array,
  { u0, v0, step, width, height }: Grid,
  triangles: readonly number[],
): Bins {
  const extent = Math.max(width, height) * step
  const boxes = new Float64Array(triangles.length * 4)
  let sides = 0
  for (const [i, t] of triangles.entries()) {
    const k = t * 6
    boxes[i * 4] = Math.min(laid[k]!, laid[k + 2]!, laid[k + 4]!)
    boxes[i * 4 + 1] = Math.min(laid[k + 1]!, laid[k + 3]!, laid[k + 5]!)
    boxes[i * 4 + 2] = Math.max(laid[k]!, laid[k + 2]!, laid[k + 4]!)
    boxes[i * 4 + 3] = Math.max(laid[k + 1]!, laid[k + 3]!, laid[k + 5]!)
    sides += Math.max(boxes[i * 4 + 2]! - boxes[i * 4]!, boxes[i * 4 + 3]! - boxes[i * 4 + 1]!)
  }
  const side = Math.max(
    1,
    Math.min(
      1024,
      Math.ceil(Math.sqrt(triangles.length)),
      Math.ceil((extent * triangles.length) / Math.max(sides, Number.MIN_VALUE)),
    ),
  )
  const place = (value: number, from: number): number =>
    Math.min(side - 1, Math.max(0, Math.floor(((value - from) / extent) * side)))
  const each = (i: number, visit: (bin: number) => void): void => {
    const x1 = place(boxes[i * 4 + 2]!, u0),
      y1 = place(boxes[i * 4 + 3]!, v0)
    for (let y = place(boxes[i * 4 + 1]!, v0); y <= y1; y++)
      for (let x = place(boxes[i * 4]!, u0); x <= x1; x++) visit(y * side + x)
  }
  const starts = new Uint32Array(side * side + 1)
  for (let i = 0; i < triangles.length; i++)
    each(i, (bin) => {
      starts[bin + 1]!++
    })
  for (let b = 0; b < side * side; b++) starts[b + 1]! += starts[b]!
  const cursor = starts.slice(0, side * side),
    list = new Uint32Array(starts[side * side]!)
  for (let i = 0; i < triangles.length; i++)
    each(i, (bin) => {
      list[cursor[bin]!++] = i
    })
  return { side, starts, list, boxes, binOf: (u, v) => place(v, v0) * side + place(u, u0) }
}
