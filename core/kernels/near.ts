import { isSet, markHash } from './crowd'
import { hashBits, pointAt, putU32, u32At } from './numbers'

/**
 * Cells are this many distances wide: wide enough that few points look over a border, narrow enough that few
 * share a cell.
 */
const CELL_DISTANCES: f64 = 16
/**
 * A point this near to a cell's border, in cells, looks over it: a distance, and a little for the rounding.
 */
const REACH: f64 = 1.001 / CELL_DISTANCES
/** Added to a whole number, whatever its sign, it leaves the number's lowest 32 bits lowest: 1.5 × 2^52. */
const SHIFT: f64 = 6755399441055744

/**
 * Number of a cell along an axis, from the whole number below the place on the grid; so far out that cells
 * cannot be counted some of its bits.
 */
function cellOf(below: f64): i32 {
  return <i32>reinterpret<i64>(below + SHIFT)
}

/**
 * −1 or 1 when the neighbour cell on that side is within a distance, by the place within the cell, 0 to 1;
 * else 0.
 */
function side(inside: f64): i32 {
  return abs(inside - 0.5) < 0.5 - REACH ? 0 : inside < 0.5 ? -1 : 1
}

/** The next of the sets of axes that are within reach; after the last one 0, the cell itself. */
function nextCorner(corner: i32, reach: i32): i32 {
  return (corner - reach) & reach
}

function cellHash(cx: i32, cy: i32, cz: i32, corner: i32, sx: i32, sy: i32, sz: i32): u32 {
  return hashBits(cx + (corner & 1 ? sx : 0), cy + (corner & 2 ? sy : 0), cz + (corner & 4 ? sz : 0))
}

/** Marks the cells of points from … to. */
export function markCells(
  points: usize,
  from: u32,
  to: u32,
  perCell: f64,
  taken: usize,
  crowded: usize,
  mask: u32,
): void {
  for (let p = from; p < to; p++) {
    const place = pointAt(points, p)
    const gx = <f64>load<f32>(place) * perCell,
      gy = <f64>load<f32>(place, 4) * perCell,
      gz = <f64>load<f32>(place, 8) * perCell
    if (isFinite(gx + gy + gz))
      markHash(taken, crowded, mask, hashBits(cellOf(floor(gx)), cellOf(floor(gy)), cellOf(floor(gz))))
  }
}

/**
 * Lists those of the points from … to in whose cell, or in a cell within reach, there is another one, or
 * seems to be; gives how many are in the list now.
 */
export function listCrowded(
  points: usize,
  from: u32,
  to: u32,
  perCell: f64,
  taken: usize,
  crowded: usize,
  mask: u32,
  list: usize,
  listed: u32,
): u32 {
  let size = listed
  for (let p = from; p < to; p++) {
    const place = pointAt(points, p)
    const gx = <f64>load<f32>(place) * perCell,
      gy = <f64>load<f32>(place, 4) * perCell,
      gz = <f64>load<f32>(place, 8) * perCell
    if (!isFinite(gx + gy + gz)) continue
    const bx = floor(gx),
      by = floor(gy),
      bz = floor(gz),
      cx = cellOf(bx),
      cy = cellOf(by),
      cz = cellOf(bz)
    let seen = isSet(crowded, mask, hashBits(cx, cy, cz))
    const sx = side(gx - bx),
      sy = side(gy - by),
      sz = side(gz - bz),
      reach = (sx & 1) | ((sy & 1) << 1) | ((sz & 1) << 2)
    for (let corner = nextCorner(0, reach); !seen && corner !== 0; corner = nextCorner(corner, reach))
      seen = isSet(taken, mask, cellHash(cx, cy, cz, corner, sx, sy, sz))
    if (seen) putU32(list, size++, p)
  }
  return size
}

/**
 * Goes through the listed points from … to: one with a kept point within the distance goes to the nearest,
 * any other is kept. The table holds two numbers a slot: what a cell's place mixes to, and its latest kept
 * entry plus one; `next` chains the entries. Gives how many were not kept.
 */
export function keepApart(
  points: usize,
  list: usize,
  from: u32,
  to: u32,
  perCell: f64,
  limit: f64,
  table: usize,
  mask: u32,
  next: usize,
  rep: usize,
): u32 {
  let near: u32 = 0
  for (let at = from; at < to; at++) {
    const p = u32At(list, at),
      place = pointAt(points, p)
    const x = <f64>load<f32>(place),
      y = <f64>load<f32>(place, 4),
      z = <f64>load<f32>(place, 8)
    const gx = x * perCell,
      gy = y * perCell,
      gz = z * perCell
    const bx = floor(gx),
      by = floor(gy),
      bz = floor(gz),
      cx = cellOf(bx),
      cy = cellOf(by),
      cz = cellOf(bz)
    const sx = side(gx - bx),
      sy = side(gy - by),
      sz = side(gz - bz),
      reach = (sx & 1) | ((sy & 1) << 1) | ((sz & 1) << 2)
    let own: u32 = 0xffffffff,
      best: u32 = 0xffffffff,
      bestDistance = limit,
      corner: i32 = 0
    do {
      const mixed = cellHash(cx, cy, cz, corner, sx, sy, sz)
      let slot = mixed & mask
      while (u32At(table, slot * 2 + 1) !== 0 && u32At(table, slot * 2) !== mixed) slot = (slot + 1) & mask
      if (own === 0xffffffff) {
        own = slot
        putU32(table, slot * 2, mixed)
      }
      for (let kept = u32At(table, slot * 2 + 1); kept !== 0; kept = u32At(next, kept - 1)) {
        const other = u32At(list, kept - 1),
          there = pointAt(points, other)
        const dx = x - <f64>load<f32>(there),
          dy = y - <f64>load<f32>(there, 4),
          dz = z - <f64>load<f32>(there, 8)
        const d = dx * dx + dy * dy + dz * dz
        if (d < bestDistance || (d === bestDistance && best === 0xffffffff)) {
          best = other
          bestDistance = d
        }
      }
      corner = nextCorner(corner, reach)
    } while (corner !== 0)
    if (best !== 0xffffffff) {
      putU32(rep, p, best)
      near++
      continue
    }
    putU32(next, at, u32At(table, own * 2 + 1))
    putU32(table, own * 2 + 1, at + 1)
  }
  return near
}
