import { isSet, markHash } from './crowd'
import { hashBits, pointAt, putU32, u32At } from './numbers'

/** Mixes the three numbers of a place, bit by bit; −0 as 0. */
function hashPlace(place: usize): u32 {
  const x = load<i32>(place),
    y = load<i32>(place, 4),
    z = load<i32>(place, 8)
  return hashBits(x << 1 === 0 ? 0 : x, y << 1 === 0 ? 0 : y, z << 1 === 0 ? 0 : z)
}

/** Marks the places of vertices from … to; gives how many came again, or seem to. */
export function markPlaces(
  positions: usize,
  from: u32,
  to: u32,
  taken: usize,
  crowded: usize,
  mask: u32,
): u32 {
  let again: u32 = 0
  for (let v = from; v < to; v++) again += markHash(taken, crowded, mask, hashPlace(pointAt(positions, v)))
  return again
}

/**
 * Gives vertices from … to the number of their place; `first` has each place's first vertex. The table holds
 * two numbers a slot: what a place mixes to, and its number plus one. Gives how many places there are now.
 */
export function numberPlaces(
  positions: usize,
  from: u32,
  to: u32,
  crowded: usize,
  crowdMask: u32,
  table: usize,
  mask: u32,
  ids: usize,
  first: usize,
  known: u32,
): u32 {
  let count = known
  for (let v = from; v < to; v++) {
    const place = pointAt(positions, v),
      mixed = hashPlace(place)
    if (!isSet(crowded, crowdMask, mixed)) {
      putU32(first, count, v)
      putU32(ids, v, count++)
      continue
    }
    const x = load<f32>(place),
      y = load<f32>(place, 4),
      z = load<f32>(place, 8)
    // What is no number takes no slot, for it is never found again
    const number = x === x && y === y && z === z
    let slot = mixed & mask,
      found: u32 = 0xffffffff
    for (; number && u32At(table, slot * 2 + 1) !== 0; slot = (slot + 1) & mask) {
      if (u32At(table, slot * 2) !== mixed) continue
      const other = pointAt(positions, u32At(first, u32At(table, slot * 2 + 1) - 1))
      if (load<f32>(other) !== x || load<f32>(other, 4) !== y || load<f32>(other, 8) !== z) continue
      found = u32At(table, slot * 2 + 1) - 1
      break
    }
    if (found === 0xffffffff) {
      found = count++
      putU32(first, found, v)
      if (number) {
        putU32(table, slot * 2, mixed)
        putU32(table, slot * 2 + 1, found + 1)
      }
    }
    putU32(ids, v, found)
  }
  return count
}

/** The numbers of points for a list of vertices; one that is not there gets a number that no point has. */
export function lookUp(vertices: usize, count: u32, ids: usize, known: u32, out: usize): void {
  for (let k: u32 = 0; k < count; k++) {
    const v = u32At(vertices, k)
    putU32(out, k, v < known ? u32At(ids, v) : 0xffffffff)
  }
}

/**
 * Chains of a point's vertices: `heads` by point, `next` by vertex, 0xffffffff at the end. Attributes stand
 * as four words each: where, numbers a vertex, and the tolerance in 64 bits. Gives how many vertices of from
 * … to equal an earlier one.
 */
export function mergeVertices(
  points: usize,
  from: u32,
  to: u32,
  attributes: usize,
  count: u32,
  heads: usize,
  next: usize,
  rep: usize,
  most: u32,
): u32 {
  let merged: u32 = 0
  for (let v = from; v < to; v++) {
    const point = u32At(points, v)
    let other = u32At(heads, point),
      looked: u32 = 0
    for (; other !== 0xffffffff && looked < most; other = u32At(next, other), looked++)
      if (agree(attributes, count, v, other)) break
    if (other !== 0xffffffff && looked < most) {
      putU32(rep, v, other)
      merged++
    } else {
      putU32(rep, v, v)
      putU32(next, v, u32At(heads, point))
      putU32(heads, point, v)
    }
  }
  return merged
}

function agree(attributes: usize, count: u32, a: u32, b: u32): boolean {
  for (let n: u32 = 0; n < count; n++) {
    const own = attributes + <usize>n * 16
    const values = <usize>load<u32>(own),
      size = load<u32>(own, 4),
      tolerance = load<f64>(own, 8)
    for (let i: u32 = 0; i < size; i++) {
      const p = <f64>load<f32>(values + ((<usize>(a * size + i)) << 2)),
        q = <f64>load<f32>(values + ((<usize>(b * size + i)) << 2))
      if (!(abs(p - q) <= tolerance)) return false
    }
  }
  return true
}

/** How far points from … to reach along 13 lines and against them: 26 numbers of 64 bits in `most`. */
export function reach(points: usize, from: u32, to: u32, most: usize): void {
  for (let p = from; p < to; p++) {
    const place = pointAt(points, p)
    const x = <f64>load<f32>(place),
      y = <f64>load<f32>(place, 4),
      z = <f64>load<f32>(place, 8)
    const a = x + y,
      b = x - y
    raise(most, 0, x)
    raise(most, 1, y)
    raise(most, 2, z)
    raise(most, 3, a)
    raise(most, 4, b)
    raise(most, 5, x + z)
    raise(most, 6, x - z)
    raise(most, 7, y + z)
    raise(most, 8, y - z)
    raise(most, 9, a + z)
    raise(most, 10, a - z)
    raise(most, 11, b + z)
    raise(most, 12, b - z)
  }
}

function raise(most: usize, line: u32, value: f64): void {
  const along = most + ((<usize>line) << 3),
    against = along + 104
  if (value > load<f64>(along)) store<f64>(along, value)
  if (-value > load<f64>(against)) store<f64>(against, -value)
}
