import { crowdOf } from './crowd'
import { tableSize } from './hashBits'
import { inBlocks, inKernels } from '../kernels/inKernels'

/**
 * `rep` gives each point the kept one that it lies near to, or itself when it is kept; `near` counts those
 * that are not kept.
 */
export interface NearPoints {
  rep: Uint32Array
  near: number
}

/** Cells are this many distances wide, as in core/kernels/near.ts. */
const CELL_DISTANCES = 16

/**
 * Goes through points (x y z …) and keeps those that have no kept one within `distance`; the others go to the
 * nearest kept one, so that none goes further than the distance, however many lie in a row. Kept points are
 * in a grid of cells sixteen distances wide; beyond its own cell a point looks only over the borders that are
 * within reach. As kept points lie a distance apart a cell never holds many, whatever the points are. Points
 * that are no numbers stay by themselves. A distance of 0 or less finds nothing.
 */
export function nearPoints(points: Float32Array, distance: number): NearPoints {
  const count = Math.floor(points.length / 3)
  if (!(distance > 0)) return { rep: upTo(new Uint32Array(count)), near: 0 }
  const perCell = 1 / (distance * CELL_DISTANCES)
  return inKernels((room) => {
    const { run } = room
    const at = room.hold(points),
      { taken, crowded, mask } = crowdOf(room, count),
      list = room.space(count * 4)
    inBlocks(count, (from, to) => {
      run.markCells(at, from, to, perCell, taken, crowded, mask)
    })
    // Of a mesh whose points lie apart next to nothing is left to be searched
    let listed = 0
    inBlocks(count, (from, to) => {
      listed = run.listCrowded(at, from, to, perCell, taken, crowded, mask, list, listed)
    })
    const slots = tableSize(listed),
      table = room.filled(slots * 8),
      next = room.space(listed * 4),
      rep = room.space(count * 4)
    upTo(room.words(rep, count))
    let near = 0
    inBlocks(listed, (from, to) => {
      near += run.keepApart(at, list, from, to, perCell, distance * distance, table, slots - 1, next, rep)
    })
    return { rep: room.words(rep, count).slice(), near }
  })
}

/** 0, 1, 2 … */
function upTo(list: Uint32Array): Uint32Array {
  for (let i = 0; i < list.length; i++) list[i] = i
  return list
}
