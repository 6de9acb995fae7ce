import { hashBits, tableSize } from './pointIds'

/** `rep` gives each point the earlier one that it lies near to, or itself; `near` counts those that lie near an earlier one. */
export interface NearPoints { rep: Uint32Array; near: number }

/** Cells are this many distances wide: wide enough that few points look over a border, narrow enough that few share a cell. */
const CELL_DISTANCES = 8

/**
 * Finds points (x y z …) that lie within `distance` of an earlier one, the nearest of those. A grid of cells eight distances wide; beyond its own cell a point looks only over the borders that are within
 * reach. Points that are no numbers stay by themselves. A distance of 0 or less finds nothing.
 */
export function nearPoints(points: Float32Array, distance: number): NearPoints {
  const count = Math.floor(points.length / 3)
  const rep = new Uint32Array(count)
  for (let i = 0; i < count; i++) rep[i] = i
  if (!(distance > 0)) return { rep, near: 0 }
  const size = tableSize(count), mask = size - 1
  const heads = new Int32Array(size).fill(-1), next = new Int32Array(count)
  const perCell = 1 / (distance * CELL_DISTANCES), limit = distance * distance
  let near = 0
  for (let i = 0; i < count; i++) {
    const x = points[i * 3]!, y = points[i * 3 + 1]!, z = points[i * 3 + 2]!
    const gx = x * perCell, gy = y * perCell, gz = z * perCell
    if (!Number.isFinite(gx + gy + gz)) continue
    const cx = Math.floor(gx), cy = Math.floor(gy), cz = Math.floor(gz)
    const sx = overBorder(gx - cx), sy = overBorder(gy - cy), sz = overBorder(gz - cz)
    const own = hashBits(cx, cy, cz) & mask
    let best = -1, bestDistance = limit
    // Up to eight cells: its own and those over the borders in reach
    for (let corner = 0; corner < 8; corner++) {
      if ((corner & 1 && !sx) || (corner & 2 && !sy) || (corner & 4 && !sz)) continue
      const slot = corner === 0 ? own : hashBits(cx + (corner & 1 ? sx : 0), cy + (corner & 2 ? sy : 0), cz + (corner & 4 ? sz : 0)) & mask
      for (let other = heads[slot]!; other !== -1; other = next[other]!) {
        const dx = x - points[other * 3]!, dy = y - points[other * 3 + 1]!, dz = z - points[other * 3 + 2]!
        const d = dx * dx + dy * dy + dz * dz
        if (d < bestDistance || (d === bestDistance && best === -1)) {
          best = other
          bestDistance = d
        }
      }
    }
    if (best !== -1) {
      rep[i] = rep[best]!
      near++
    }
    next[i] = heads[own]!
    heads[own] = i
  }
  return { rep, near }
}

/** −1 or 1 when the neighbour cell on that side is within a distance; else 0. */
const overBorder = (inside: number): -1 | 0 | 1 => (inside <= 1 / CELL_DISTANCES ? -1 : inside >= 1 - 1 / CELL_DISTANCES ? 1 : 0)
