import { CELLS } from '../geometry/cellMask'
import type { Pixels } from './pixels'

/** Which columns of a row of texels are used, and where runs of them begin and end. */
export interface UsedRow {
  columns: Uint8Array
  runs: readonly (readonly [from: number, end: number])[]
}
/** Rows of texels on the same cells are told once. */
export type UsedRows = (y: number) => UsedRow

/** Which texels of a picture lie on cells that are used: bits of CELLS × CELLS, row by row from the top. */
export function usedRows({ width, height }: Pick<Pixels, 'width' | 'height'>, cells: Uint32Array): UsedRows {
  const known = new Map<number, UsedRow>()
  return (y) => {
    const [top, foot] = cellsOf(y, height),
      there = known.get(top * CELLS + foot)
    if (there) return there
    const row = rowOf(width, (column) => {
      for (let row = top; row <= foot; row++)
        if ((cells[(row * CELLS + column) >>> 5]! >>> (column & 31)) & 1) return true
      return false
    })
    known.set(top * CELLS + foot, row)
    return row
  }
}

/** The same for a part of the picture that is cut out at x and y. */
export const rowsOfWindow =
  (rows: UsedRows, { x, y, width }: { x: number; y: number; width: number }): UsedRows =>
  (row) => {
    const { columns, runs } = rows(y + row)
    return {
      columns: columns.subarray(x, x + width),
      runs: runs
        .map(([from, end]) => [Math.max(0, from - x), Math.min(width, end - x)] as const)
        .filter(([from, end]) => end > from),
    }
  }

/** A row of texels on cells of which `isOn` says which are used. */
function rowOf(width: number, isOn: (column: number) => boolean): UsedRow {
  const columns = new Uint8Array(width),
    runs: [number, number][] = []
  for (let column = 0; column < CELLS; column++) {
    if (!isOn(column)) continue
    const from = Math.floor((column * width) / CELLS),
      end = Math.ceil(((column + 1) * width) / CELLS),
      before = runs.at(-1)
    columns.fill(1, from, end)
    if (before && from <= before[1]) before[1] = end
    else runs.push([from, end])
  }
  return { columns, runs }
}

/** First and last cell that a texel lies on. */
function cellsOf(at: number, length: number): readonly [number, number] {
  const first = Math.floor((at * CELLS) / length)
  return [first, Math.min(CELLS - 1, Math.max(first, Math.ceil(((at + 1) * CELLS) / length) - 1))]
}

/** The used texels of the whole picture, one after the other. */
export function ownTexels(pixels: Pixels, used: UsedRows): Pixels {
  const { width, height, channels, data } = pixels
  let count = 0
  for (let y = 0; y < height; y++) for (const [from, end] of used(y).runs) count += end - from
  const own =
    data instanceof Uint16Array ? new Uint16Array(count * channels) : new Uint8Array(count * channels)
  let to = 0
  for (let y = 0; y < height; y++)
    for (const [from, end] of used(y).runs) {
      own.set(data.subarray((y * width + from) * channels, (y * width + end) * channels), to)
      to += (end - from) * channels
    }
  return { ...pixels, width: Math.max(1, count), height: 1, data: own } as Pixels
}
