import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { BANDS, levelAt, scatterCopies, scatterCost } from './scatter'

const switches = { levels: [10, 30], cull: 100 }

describe('copies on a ground', () => {
  it('stand one in each cell around the origin, the same for the same seed, fewer as the first of more', () => {
    const nine = scatterCopies(9, 2, 0),
      more = scatterCopies(400, 2, 0)
    expect([...more.x.subarray(0, 9)]).toEqual([...nine.x])
    const cells = new Set(
      Array.from({ length: 9 }, (_, n) => `${Math.round(nine.x[n]! / 2)} ${Math.round(nine.z[n]! / 2)}`),
    )
    expect(cells.size).toBe(9)
    expect([...cells].every((c) => c.split(' ').every((v) => Math.abs(Number(v)) <= 1))).toBe(true)
    expect(nine.side).toBe(6)
    expect([...scatterCopies(9, 2, 0, 2).x]).not.toEqual([...nine.x])
  })
  it('never share a cell, and keep to the sizes that are allowed', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 3000 }),
        fc.double({ min: 0, max: 0.5, noNaN: true }),
        (count, vary) => {
          const copies = scatterCopies(count, 1, vary)
          const cells = new Set(
            Array.from(
              { length: count },
              (_, n) => `${Math.floor(copies.x[n]! + 0.5)} ${Math.floor(copies.z[n]! + 0.5)}`,
            ),
          )
          expect(cells.size).toBe(count)
          for (const s of copies.size) expect(Math.abs(s - 1)).toBeLessThanOrEqual(vary + 1e-6)
          for (const v of [...copies.x, ...copies.z])
            expect(Math.abs(v)).toBeLessThanOrEqual(copies.side / 2 + 1)
        },
      ),
      { numRuns: 30 },
    )
  })
})

describe('the level of a copy', () => {
  it('goes by distance, and ends where nothing is drawn any more', () => {
    expect([0, 9.9, 10, 29, 30, 99, 100].map((d) => levelAt(d, switches))).toEqual([0, 0, 1, 1, 2, 2, null])
    expect(levelAt(1e9, { levels: [], cull: Infinity })).toBe(0)
  })
})

describe('what copies cost', () => {
  it('is the triangles of each at its level, in bands of distance', () => {
    const copies = {
      count: 4,
      x: Float32Array.from([0, 12, 50, 150]),
      z: new Float32Array(4),
      turn: new Float32Array(4),
      size: new Float32Array(4).fill(1),
      side: 300,
    }
    const cost = scatterCost(copies, [0, 0, 0], switches, [1000, 100, 10])
    expect(cost).toMatchObject({ copies: [1, 1, 1], culled: 1, triangles: 1110, withoutLevels: 4000 })
    const all = cost.bands.triangles.flat().reduce((a, b) => a + b)
    expect(all).toBe(1110)
    expect(cost.bands.triangles).toHaveLength(BANDS)
    expect(cost.bands.band * BANDS).toBeCloseTo(Math.hypot(150, 150), 6)
    expect(cost.bands.triangles[0]).toEqual([1000, 100, 0])
  })
  it('switches a larger copy later', () => {
    const copies = {
      count: 2,
      x: Float32Array.from([15, 15]),
      z: new Float32Array(2),
      turn: new Float32Array(2),
      size: Float32Array.from([1, 2]),
      side: 40,
    }
    expect(scatterCost(copies, [0, 0, 0], switches, [1000, 100, 10]).copies).toEqual([1, 1, 0])
  })
})
