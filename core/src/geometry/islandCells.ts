import { CELLS } from './cellMask'
import { visitTexels } from './sheetTexels'

/** Beyond so many sheets a number is no place on one. */
const FAR = 1e6

/**
 * Marks the cells of a sheet that triangles of a UV channel cover: those with a corner, and those whose middle lies
 * inside. Of a triangle that reaches over no more than two cells each way the corners are enough.
 */
export function markIslandCells(mask: Uint8Array, uv: Float32Array, indices: ArrayLike<number>): void {
  const count = uv.length >> 1
  const columns = new Int32Array(count),
    rows = new Int32Array(count),
    cells = new Int32Array(count)
  for (let v = 0; v < count; v++) {
    const x = uv[v * 2]!,
      y = uv[v * 2 + 1]!
    if (!(Math.abs(x) < FAR && Math.abs(y) < FAR)) {
      cells[v] = NOWHERE
      continue
    }
    columns[v] = Math.floor(x * CELLS)
    rows[v] = Math.floor(y * CELLS)
    // The far edge of the sheet belongs to its last cell; a side of 2⁸ cells comes round by its low bits
    const column = x === 1 ? CELLS - 1 : columns[v]! & (CELLS - 1),
      row = y === 1 ? CELLS - 1 : rows[v]! & (CELLS - 1)
    cells[v] = row * CELLS + column
  }
  const large: number[] = []
  for (let k = 0; k + 2 < indices.length; k += 3) {
    const a = indices[k]!,
      b = indices[k + 1]!,
      c = indices[k + 2]!
    if (a >= count || b >= count || c >= count) continue
    const cellA = cells[a]!,
      cellB = cells[b]!,
      cellC = cells[c]!
    if (cellA === NOWHERE || cellB === NOWHERE || cellC === NOWHERE) continue
    mask[cellA] = mask[cellB] = mask[cellC] = 1
    if (!isNear(columns, a, b, c) || !isNear(rows, a, b, c)) large.push(a, b, c)
  }
  const some = visitTexels(uv, large, [CELLS, CELLS], (cell) => void (mask[cell] = 1))
  if (!some) mask.fill(1)
}

const NOWHERE = -1

/** Whether three vertices lie no more than one cell apart, one way. */
function isNear(places: Int32Array, a: number, b: number, c: number): boolean {
  const x = places[a]!,
    y = places[b]!,
    z = places[c]!
  return x - y <= 1 && y - x <= 1 && y - z <= 1 && z - y <= 1 && x - z <= 1 && z - x <= 1
}
