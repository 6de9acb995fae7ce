/** Copies of an asset on a ground. */
export interface ScatteredCopies {
  count: number
  x: Float32Array
  z: Float32Array
  /** Radians about the vertical. */
  turn: Float32Array
  /** 1: as it is. */
  size: Float32Array
  /** Metres of a side of the square that they stand on, around the origin. */
  side: number
}

/** A number of 0 to 1 that looks like chance and is the same for the same three numbers (a hash of 32 bits). */
function chance(seed: number, copy: number, use: number): number {
  let h = (seed * 0x9e3779b1 + copy * 0x85ebca6b + use * 0xc2b2ae35) | 0
  h = Math.imul(h ^ (h >>> 16), 0x7feb352d)
  h = Math.imul(h ^ (h >>> 15), 0x846ca68b)
  return ((h ^ (h >>> 16)) >>> 0) / 2 ** 32
}

/**
 * Copies on a square, one in each cell of a grid of `spacing` metres, anywhere in it; turned by chance, and larger or
 * smaller by up to a share of their size. The same seed gives the same copies, and fewer are the first of more.
 */
export function scatterCopies(count: number, spacing: number, vary: number, seed = 1): ScatteredCopies {
  const copies: ScatteredCopies = {
    count,
    x: new Float32Array(count),
    z: new Float32Array(count),
    turn: new Float32Array(count),
    size: new Float32Array(count),
    side: Math.ceil(Math.sqrt(count)) * spacing,
  }
  for (let n = 0; n < count; n++) {
    const [column, row] = cellOf(n)
    copies.x[n] = (column + chance(seed, n, 0) - 0.5) * spacing
    copies.z[n] = (row + chance(seed, n, 1) - 0.5) * spacing
    copies.turn[n] = chance(seed, n, 2) * 2 * Math.PI
    copies.size[n] = 1 + (chance(seed, n, 3) * 2 - 1) * vary
  }
  return copies
}

/** The cell of a number on a square spiral around the origin: 0 in the middle, then 1 to 8, 9 to 24 … */
function cellOf(n: number): [number, number] {
  if (n === 0) return [0, 0]
  const ring = Math.ceil((Math.sqrt(n + 1) - 1) / 2),
    side = 2 * ring,
    step = n - (2 * ring - 1) ** 2
  const along = step % side,
    edge = Math.floor(step / side)
  if (edge === 0) return [ring, along - ring + 1]
  if (edge === 1) return [ring - 1 - along, ring]
  if (edge === 2) return [-ring, ring - 1 - along]
  return [along - ring + 1, -ring]
}

/** The level that is drawn at a distance, by the distances from which on coarser ones are; null: none any more. */
export function levelAt(
  distance: number,
  { levels, cull }: { levels: readonly number[]; cull: number },
): number | null {
  if (distance >= cull) return null
  let level = 0
  while (level < levels.length && distance >= levels[level]!) level++
  return level
}

/** What copies cost to draw from one place. */
export interface ScatterCost {
  /** Copies that are drawn, by level. */
  copies: number[]
  culled: number
  triangles: number
  /** As many as there are with the finest level everywhere and nothing left out. */
  withoutLevels: number
  /** Triangles by level in each band of distance; bands are as wide as `band` metres. */
  bands: { band: number; triangles: number[][] }
}

/** Bands of the chart. */
export const BANDS = 16

/**
 * Counts what copies around an eye are drawn with: `trianglesOf` has those of one copy at each level. Larger copies
 * are switched later, as they cover as much further away. Copies outside of the view are counted, too.
 */
export function scatterCost(
  copies: ScatteredCopies,
  eye: readonly [x: number, y: number, z: number],
  switches: { levels: readonly number[]; cull: number },
  trianglesOf: readonly number[],
): ScatterCost {
  const reach = Math.hypot(copies.side / 2 + Math.abs(eye[0]), copies.side / 2 + Math.abs(eye[2])) || 1,
    band = reach / BANDS
  const cost: ScatterCost = {
    copies: trianglesOf.map(() => 0),
    culled: 0,
    triangles: 0,
    withoutLevels: copies.count * (trianglesOf[0] ?? 0),
    bands: {
      band,
      triangles: Array.from({ length: BANDS }, () => trianglesOf.map(() => 0)),
    },
  }
  for (let n = 0; n < copies.count; n++) {
    const distance = distanceTo(copies, n, eye),
      level = levelAt(distance / copies.size[n]!, switches)
    if (level === null) {
      cost.culled++
      continue
    }
    const own = Math.min(level, trianglesOf.length - 1)
    cost.copies[own]!++
    cost.triangles += trianglesOf[own]!
    cost.bands.triangles[Math.min(BANDS - 1, Math.floor(distance / band))]![own]! += trianglesOf[own]!
  }
  return cost
}

/** Metres from an eye to where a copy stands. */
export const distanceTo = (
  { x, z }: ScatteredCopies,
  n: number,
  eye: readonly [number, number, number],
): number => Math.hypot(x[n]! - eye[0], eye[1], z[n]! - eye[2])
