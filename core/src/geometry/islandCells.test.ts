import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { CELLS, cellBytes, cellsBeside, countCells, packCells, unpackCells } from './cellMask'
import { markIslandCells } from './islandCells'
import { visitTexels } from './sheetTexels'

const touched = (uv: number[], indices: number[], width: number, height: number): number[] => {
  const found = new Set<number>()
  visitTexels(Float32Array.from(uv), indices, [width, height], (t) => found.add(t))
  return [...found].sort((a, b) => a - b)
}
/** A rectangle of two triangles. */
const rectangle = (u0: number, v0: number, u1: number, v1: number): [number[], number[]] => [
  [u0, v0, u1, v0, u1, v1, u0, v1],
  [0, 1, 2, 0, 2, 3],
]

describe('the texels that a UV channel touches', () => {
  it('are those of a rectangle, rows from v = 0', () => {
    // Columns 1 and 2 of row 1, of four by three texels; the corner at 0.75, 2/3 is that of a texel further on
    expect(touched(...rectangle(0.25, 1 / 3, 0.74, 0.66), 4, 3)).toEqual([5, 6])
    expect(touched(...rectangle(0, 0, 1, 1), 4, 3)).toEqual([0, 1, 2, 3, 4, 5, 6, 7, 8, 9, 10, 11])
  })
  it('come round again beyond the sheet, and are not lost where a triangle meets no middle', () => {
    expect(touched(...rectangle(1.25, -0.66, 1.74, -0.34), 4, 3)).toEqual([5, 6])
    expect(touched([0.1, 0.1, 0.11, 0.1, 0.1, 0.11], [0, 1, 2], 4, 4)).toEqual([0])
  })
  it('are all of them where a triangle covers many sheets; bad numbers count for nothing', () => {
    const mask = new Uint8Array(CELLS * CELLS)
    expect(visitTexels(Float32Array.from([0, 0, 9, 0, 0, 9]), [0, 1, 2], [8, 8], () => undefined)).toBe(false)
    markIslandCells(mask, Float32Array.from([0, 0, Number.NaN, 0, 0, 1]), [0, 1, 2, 0, 1, 7])
    expect(mask.includes(1)).toBe(false)
    markIslandCells(mask, Float32Array.from([0, 0, 9, 0, 0, 9]), [0, 1, 2])
    expect(mask.every((c) => c === 1)).toBe(true)
  })
  it('are not gone over without end where triangles lie over one another', () => {
    const [uv, indices] = rectangle(0, 0, 1, 1)
    let visits = 0
    const many = Array.from({ length: 1000 }, () => indices).flat()
    expect(visitTexels(Float32Array.from(uv), many, [64, 64], () => void visits++)).toBe(false)
    expect(visits).toBeLessThan(64 * 64 * 12)
  })
  it('share about the surface of the triangles', () => {
    const unit = fc.double({ min: 0, max: 1, noNaN: true })
    fc.assert(
      fc.property(fc.array(unit, { minLength: 6, maxLength: 6 }), (uv) => {
        const [ax, ay, bx, by, cx, cy] = uv as [number, number, number, number, number, number]
        const surface = Math.abs((bx - ax) * (cy - ay) - (cx - ax) * (by - ay)) / 2
        const found = touched(uv, [0, 1, 2], 200, 200).length / 40_000
        // Off by at most the texels along its borders, fewer than three times the side twice over
        expect(Math.abs(found - surface)).toBeLessThan(0.03)
      }),
    )
  })
})

describe('cells as a text', () => {
  it('come back as they were', () => {
    fc.assert(
      fc.property(fc.array(fc.tuple(fc.nat(CELLS * CELLS - 1), fc.nat(3000)), { maxLength: 30 }), (runs) => {
        const mask = new Uint8Array(CELLS * CELLS)
        for (const [from, length] of runs) mask.fill(1, from, from + length)
        const bits = unpackCells(packCells(mask)),
          back = cellBytes(bits)
        expect(countCells(bits)).toBe(mask.reduce((sum, on) => sum + on, 0))
        expect(back.length === mask.length && back.every((on, cell) => on === mask[cell])).toBe(true)
      }),
    )
    expect(packCells(new Uint8Array(CELLS * CELLS)).length).toBeLessThan(8)
  })
  it('have cells beside them, none beyond the sheet and none on the other side of it', () => {
    const beside = (...cells: number[]): number[] => {
      const mask = new Uint8Array(CELLS * CELLS)
      for (const cell of cells) mask[cell] = 1
      return [...cellBytes(cellsBeside(unpackCells(packCells(mask))))].flatMap((on, cell) =>
        on ? [cell] : [],
      )
    }
    expect(beside(0)).toEqual([1, 256])
    expect(beside(256 + 255)).toEqual([255, 510, 767])
    // At the border of two words
    expect(beside(512 + 31)).toEqual([256 + 31, 512 + 30, 512 + 32, 768 + 31])
    expect(beside(512 + 32)).toEqual([256 + 32, 512 + 31, 512 + 33, 768 + 32])
    expect(beside(65_535)).toEqual([65_279, 65_534])
    expect(beside(700, 701)).toEqual([444, 445, 699, 700, 701, 702, 956, 957])
  })
})
