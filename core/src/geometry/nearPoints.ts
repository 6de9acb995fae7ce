import { crowdBits, isCrowded, isTaken, markHash } from './crowdBits'
import { hashBits, tableSize } from './hashBits'

/** `rep` gives each point the kept one that it lies near to, or itself when it is kept; `near` counts those that are not kept. */
export interface NearPoints { rep: Uint32Array; near: number }

/** Cells are this many distances wide: wide enough that few points look over a border, narrow enough that few share a cell. */
const CELL_DISTANCES = 16
/** A point this near to a cell's border, in cells, looks over it: a distance, and a little for the rounding. */
const REACH = 1.001 / CELL_DISTANCES

/**
 * Goes through points (x y z …) and keeps those that have no kept one within `distance`; the others go to the nearest kept one, so that none goes further than the distance, however many lie in a row. Kept points
 * are in a grid of cells sixteen distances wide; beyond its own cell a point looks only over the borders that are within reach. As kept points lie a distance apart a cell never holds many, whatever the points are.
 * Points that are no numbers stay by themselves. A distance of 0 or less finds nothing.
 */
export function nearPoints(points: Float32Array, distance: number): NearPoints {
  const count = Math.floor(points.length / 3)
  const rep = new Uint32Array(count)
  for (let i = 0; i < count; i++) rep[i] = i
  if (!(distance > 0)) return { rep, near: 0 }
  const perCell = 1 / (distance * CELL_DISTANCES), limit = distance * distance
  const looked = crowdedPoints(points, perCell)
  const mask = tableSize(looked.length) - 1
  // Two numbers a slot: what a cell's place mixes to, and its latest kept point plus one
  const table = new Int32Array((mask + 1) * 2), next = new Int32Array(looked.length)
  let near = 0
  for (let at = 0; at < looked.length; at++) {
    const i = looked[at]!
    const x = points[i * 3]!, y = points[i * 3 + 1]!, z = points[i * 3 + 2]!
    const cx = Math.floor(x * perCell), cy = Math.floor(y * perCell), cz = Math.floor(z * perCell)
    const sx = side(x * perCell - cx), sy = side(y * perCell - cy), sz = side(z * perCell - cz)
    const reach = reachOf(sx, sy, sz)
    let own = -1, best = -1, bestDistance = limit, corner = 0
    do {
      const mixed = hashBits(cx + (corner & 1 ? sx : 0), cy + (corner & 2 ? sy : 0), cz + (corner & 4 ? sz : 0)) | 0
      let slot = mixed & mask
      while (table[slot * 2 + 1] !== 0 && table[slot * 2] !== mixed) slot = (slot + 1) & mask
      if (own === -1) {
        own = slot
        table[slot * 2] = mixed
      }
      for (let kept = table[slot * 2 + 1]! - 1; kept !== -1; kept = next[kept]! - 1) {
        const other = looked[kept]!
        const dx = x - points[other * 3]!, dy = y - points[other * 3 + 1]!, dz = z - points[other * 3 + 2]!
        const d = dx * dx + dy * dy + dz * dz
        if (d < bestDistance || (d === bestDistance && best === -1)) {
          best = other
          bestDistance = d
        }
      }
      corner = nextCorner(corner, reach)
    } while (corner !== 0)
    if (best !== -1) {
      rep[i] = best
      near++
      continue
    }
    next[at] = table[own * 2 + 1]!
    table[own * 2 + 1] = at + 1
  }
  return { rep, near }
}

/**
 * The points in whose cell, or in a cell within reach, there is another one, or seems to be, for cells are only bits here: of a mesh whose points lie apart next to nothing is left to be searched.
 */
function crowdedPoints(points: Float32Array, perCell: number): Uint32Array {
  const count = Math.floor(points.length / 3)
  const crowd = crowdBits(count)
  for (let i = 0; i < count; i++) {
    const gx = points[i * 3]! * perCell, gy = points[i * 3 + 1]! * perCell, gz = points[i * 3 + 2]! * perCell
    if (Number.isFinite(gx + gy + gz)) markHash(crowd, hashBits(Math.floor(gx), Math.floor(gy), Math.floor(gz)))
  }
  const found = new Uint32Array(count)
  let size = 0
  for (let i = 0; i < count; i++) {
    const gx = points[i * 3]! * perCell, gy = points[i * 3 + 1]! * perCell, gz = points[i * 3 + 2]! * perCell
    if (!Number.isFinite(gx + gy + gz)) continue
    const cx = Math.floor(gx), cy = Math.floor(gy), cz = Math.floor(gz)
    let seen = isCrowded(crowd, hashBits(cx, cy, cz))
    const sx = side(gx - cx), sy = side(gy - cy), sz = side(gz - cz), reach = reachOf(sx, sy, sz)
    for (let corner = nextCorner(0, reach); !seen && corner !== 0; corner = nextCorner(corner, reach))
      seen = isTaken(crowd, hashBits(cx + (corner & 1 ? sx : 0), cy + (corner & 2 ? sy : 0), cz + (corner & 4 ? sz : 0)))
    if (seen) found[size++] = i
  }
  return found.subarray(0, size)
}

/** −1 or 1 when the neighbour cell on that side is within a distance; else 0. `inside` is the place within the cell, 0 to 1. */
const side = (inside: number): -1 | 0 | 1 => (Math.abs(inside - 0.5) < 0.5 - REACH ? 0 : inside < 0.5 ? -1 : 1)

/** Bit for each axis on which a neighbour cell is within reach. */
const reachOf = (sx: number, sy: number, sz: number): number => (sx & 1) | ((sy & 1) << 1) | ((sz & 1) << 2)

/** The next of the sets of axes that are within reach; after the last one 0, the cell itself. */
const nextCorner = (corner: number, reach: number): number => (corner - reach) & reach
