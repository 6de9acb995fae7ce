import { describe, expect, it } from 'vitest'
import { pixelsOf } from '../fixtures/pngFixture'
import { CELLS, countCells, cellBytes, unpackCells } from '../geometry/cellMask'
import { groundCells } from './groundCells'

const black = { kind: 'black' as const, share: 0.5, value: [0, 0, 0], cells: null }

describe('cells that are ground', () => {
  it('are those of which more than half of the texels are', () => {
    // Two by two texels a cell: the column of cells 100 has two of four that are black, 101 three, 102 all
    const pixels = pixelsOf(CELLS * 2, CELLS * 2, 3, (x, y) =>
      x === 201 || x === 203 || (x === 202 && y % 2 === 0) || x >= 204 ? [2, 0, 3] : [90, 80, 70],
    )
    const bits = unpackCells(groundCells(pixels, black)!)
    expect([...cellBytes(bits).subarray(0, CELLS)].indexOf(1)).toBe(101)
    expect(countCells(bits)).toBe((CELLS - 101) * CELLS)
  })
  it('are not told of what is too small, nor where what is clear is the ground', () => {
    const small = pixelsOf(CELLS * 2 - 1, CELLS * 2, 3, () => [0, 0, 0])
    expect(groundCells(small, black)).toBeNull()
    const clear = pixelsOf(CELLS * 2, CELLS * 2, 4, () => [0, 0, 0, 0])
    expect(groundCells(clear, { ...black, kind: 'transparent', value: [] })).toBeNull()
  })
})
