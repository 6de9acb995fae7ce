import { following } from './borderRings'
import { hashBits, tableSize } from './hashBits'
import { pointIds } from './pointIds'

/** Distances on a sheet, in its widths. */
export interface UvGap {
  /** Between two islands; null where there is one alone, or none come nearer than a thirty-second of the sheet. */
  between: number | null
  /** From an island to the edge of the sheet; below 0 where one reaches over it. */
  edge: number
}

/** Cells of the grid, from fine to coarse: what lies no further apart than one of them is found. */
const GRIDS = [512, 128, 32] as const

interface Border {
  /** x, y of both ends, four numbers an edge. */
  ends: Float64Array
  island: Uint32Array
}

/**
 * The least distance between islands of a layout, and to the edge of its sheet: exact, over the borders of the islands.
 * `islands` gives each triangle the number of its island. Null without a triangle that has UVs.
 */
export function uvGap(uv: Float32Array, indices: ArrayLike<number>, islands: Uint32Array): UvGap | null {
  const border = borderOf(uv, indices, islands)
  if (border.island.length === 0) return null
  let edge = Infinity
  for (const v of border.ends) edge = Math.min(edge, v, 1 - v)
  return { between: leastBetween(border), edge }
}

/**
 * Edges that one triangle of an island has alone. Corners of one island at one place of the sheet are one: a seam of
 * split vertices inside it is no border.
 */
function borderOf(uv: Float32Array, indices: ArrayLike<number>, islands: Uint32Array): Border {
  const ids = cornerIds(uv, indices, islands),
    open = openPlaces(indices, ids, islands.length * 3)
  const maybe: number[] = []
  for (let k = 0; k < islands.length * 3; k++) {
    const a = indices[k]!,
      b = indices[following(k)]!
    if (!isPlace(uv, a) || !isPlace(uv, b) || ids[a] === ids[b]) continue
    if (open[ids[a]!] !== 0 && open[ids[b]!] !== 0) maybe.push(k)
  }
  const mask = tableSize(maybe.length) - 1,
    // The corner at which an edge was first met, 0 for none, and whether it came again
    first = new Uint32Array(mask + 1),
    again = new Uint8Array(mask + 1)
  for (const k of maybe) {
    const a = ids[indices[k]!]!,
      b = ids[indices[following(k)]!]!
    const low = Math.min(a, b),
      high = Math.max(a, b)
    let slot = hashBits(low, high, 0) & mask
    while (first[slot] !== 0 && !isEdge(first[slot]! - 1, low, high)) slot = (slot + 1) & mask
    if (first[slot] === 0) first[slot] = k + 1
    else again[slot] = 1
  }
  const alone: number[] = []
  for (let slot = 0; slot <= mask; slot++)
    if (first[slot] !== 0 && again[slot] === 0) alone.push(first[slot]! - 1)
  const ends = new Float64Array(alone.length * 4)
  alone.forEach((k, n) => {
    const a = indices[k]!,
      b = indices[following(k)]!
    ends.set([uv[a * 2]!, uv[a * 2 + 1]!, uv[b * 2]!, uv[b * 2 + 1]!], n * 4)
  })
  return { ends, island: Uint32Array.from(alone, (k) => islands[Math.floor(k / 3)]!) }

  function isEdge(k: number, low: number, high: number): boolean {
    const a = ids[indices[k]!]!,
      b = ids[indices[following(k)]!]!
    return Math.min(a, b) === low && Math.max(a, b) === high
  }
}

/**
 * Places at which a border may begin: each edge adds a number of its other end where it leaves and takes it away where
 * it comes in, so that nothing is left where every edge has its neighbour. By chance that happens elsewhere once in
 * 2³² places.
 */
function openPlaces(indices: ArrayLike<number>, ids: Uint32Array, corners: number): Int32Array {
  const sums = new Int32Array(ids.length)
  for (let k = 0; k < corners; k++) {
    const a = ids[indices[k]!]!,
      b = ids[indices[following(k)]!]!
    sums[a]! += hashBits(b, 0, 1)
    sums[b]! -= hashBits(a, 0, 1)
  }
  return sums
}

/** Numbers the places of vertices, those of each island by themselves; all triangles of a vertex are of one island. */
function cornerIds(uv: Float32Array, indices: ArrayLike<number>, islands: Uint32Array): Uint32Array {
  const places = new Float32Array((uv.length / 2) * 3)
  for (let v = 0; v * 2 < uv.length; v++) {
    places[v * 3] = uv[v * 2]!
    places[v * 3 + 1] = uv[v * 2 + 1]!
  }
  for (let k = 0; k < islands.length * 3; k++) places[indices[k]! * 3 + 2] = islands[Math.floor(k / 3)]!
  return pointIds(places).ids
}

const isPlace = (uv: Float32Array, vertex: number): boolean =>
  Number.isFinite(uv[vertex * 2]) && Number.isFinite(uv[vertex * 2 + 1])

function leastBetween(border: Border): number | null {
  if (border.island.every((island) => island === border.island[0])) return null
  for (const cells of GRIDS) {
    const least = leastInGrid(border, cells)
    // In neighbouring cells nothing that lies nearer than a cell is missed
    if (least <= 1 / cells) return least
  }
  return null
}

/** The least distance of borders of two islands that lie in one cell or in neighbouring ones. */
function leastInGrid({ ends, island }: Border, cells: number): number {
  const grid = new Map<number, number[]>()
  for (let n = 0; n < island.length; n++)
    for (const cell of cellsOf(ends, n, cells)) {
      const list = grid.get(cell)
      if (!list) grid.set(cell, [n])
      else if (list.at(-1) !== n) list.push(n)
    }
  let least = Infinity
  for (const [cell, own] of grid)
    for (const step of [0, 1, STRIDE - 1, STRIDE, STRIDE + 1]) {
      const others = grid.get(cell + step)
      if (!others) continue
      for (const a of own)
        for (const b of others) {
          if (island[a] === island[b]) continue
          least = Math.min(least, distance(ends, a * 4, b * 4))
          if (least === 0) return 0
        }
    }
  return least
}

/** Numbers of cells: a row is so long that the neighbours of one are never those of another row. */
const STRIDE = 1 << 20

/** Cells that an edge goes through, some more than once. */
function* cellsOf(ends: Float64Array, n: number, cells: number): Generator<number> {
  const [x0, y0, x1, y1] = [ends[n * 4]!, ends[n * 4 + 1]!, ends[n * 4 + 2]!, ends[n * 4 + 3]!]
  const steps = Math.min(cells * 4, Math.ceil(Math.hypot(x1 - x0, y1 - y0) * cells * 2)) || 1
  for (let s = 0; s <= steps; s++) {
    const x = Math.floor((x0 + ((x1 - x0) * s) / steps) * cells),
      y = Math.floor((y0 + ((y1 - y0) * s) / steps) * cells)
    yield y * STRIDE + x
  }
}

/** Distance of two edges; 0 where they cross. */
function distance(ends: Float64Array, a: number, b: number): number {
  const at = (k: number): [number, number] => [ends[k]!, ends[k + 1]!]
  const [p, q, r, s] = [at(a), at(a + 2), at(b), at(b + 2)]
  if (side(p, q, r) * side(p, q, s) < 0 && side(r, s, p) * side(r, s, q) < 0) return 0
  return Math.min(toEdge(p, r, s), toEdge(q, r, s), toEdge(r, p, q), toEdge(s, p, q))
}

type Point = readonly [number, number]
const side = (a: Point, b: Point, c: Point): number =>
  (b[0] - a[0]) * (c[1] - a[1]) - (b[1] - a[1]) * (c[0] - a[0])

function toEdge(p: Point, a: Point, b: Point): number {
  const dx = b[0] - a[0],
    dy = b[1] - a[1]
  const t = Math.max(0, Math.min(1, ((p[0] - a[0]) * dx + (p[1] - a[1]) * dy) / (dx * dx + dy * dy)))
  return Math.hypot(p[0] - a[0] - t * dx, p[1] - a[1] - t * dy)
}
