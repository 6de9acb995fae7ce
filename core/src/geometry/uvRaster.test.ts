import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { coverageOf, depthOf, laidTriangles, meetingTriangles, type Grid } from './uvRaster'

const grid: Grid = { u0: -0.0021, v0: -0.0013, step: 1 / 61, width: 62, height: 40 }
const corner = fc.integer({ min: -12, max: 40 }).map((n) => n / 32)
const triangles = fc.array(fc.tuple(corner, corner, corner, corner, corner, corner), {
  minLength: 1,
  maxLength: 12,
})

/** Counted the slow way: every texel is asked of every triangle; no middle lies on an edge of these. */
function slowCounts(list: number[][]): number[] {
  return Array.from({ length: grid.width * grid.height }, (_, i) => {
    const x = grid.u0 + ((i % grid.width) + 0.5) * grid.step,
      y = grid.v0 + (Math.floor(i / grid.width) + 0.5) * grid.step
    return list.filter(([au, av, bu, bv, cu, cv]) => {
      const side = (px: number, py: number, qx: number, qy: number) =>
        Math.sign((qx - px) * (y - py) - (qy - py) * (x - px))
      const sides = [side(au!, av!, bu!, bv!), side(bu!, bv!, cu!, cv!), side(cu!, cv!, au!, av!)]
      return sides.every((s) => s > 0) || sides.every((s) => s < 0)
    }).length
  })
}

describe('texels under triangles', () => {
  it('are counted as one by one, in rows of any length', () => {
    fc.assert(
      fc.property(triangles, (list) => {
        const laid = laidTriangles(Float32Array.from(list.flat())),
          slow = slowCounts(list)
        const { once, excess, pairs, deepest } = depthOf(laid, grid),
          doubled = slow.filter((n) => n > 1),
          sum = (of: (n: number) => number) => doubled.reduce((all, n) => all + of(n), 0)
        expect({ pairs, deepest }).toEqual({
          pairs: sum((n) => (n * (n - 1)) / 2),
          deepest: Math.max(0, ...doubled),
        })
        expect([once * pairs, excess * pairs].map(Math.round)).toEqual([doubled.length, sum((n) => n - 1)])
        const met = meetingTriangles(laid, grid)
        expect(met).toEqual(
          list.flatMap((t, i) => (slowCounts([t]).some((n, at) => n > 0 && slow[at]! > 1) ? [i] : [])),
        )
      }),
      { numRuns: 60, seed: 11 },
    )
  })
  it('of islands are those covered, covered twice, and twice by one', () => {
    fc.assert(
      fc.property(triangles, fc.integer({ min: 1, max: 3 }), (list, islands) => {
        const laid = laidTriangles(Float32Array.from(list.flat())),
          texel = grid.step ** 2,
          slow = slowCounts(list)
        const own = Array.from({ length: islands }, (_, island) =>
          slowCounts(list.filter((_, i) => i % islands === island)),
        )
        const found = coverageOf(
          laid,
          Uint32Array.from(list, (_, i) => i % islands),
          list.map((_, i) => i),
          grid,
        )
        const texels = [found.covered, found.overlapped, found.within].map((area) => Math.round(area / texel))
        expect(texels).toEqual([
          slow.filter((n) => n > 0).length,
          slow.filter((n) => n > 1).length,
          slow.filter((_, at) => own.some((counts) => counts[at]! > 1)).length,
        ])
      }),
      { numRuns: 40, seed: 12 },
    )
  })
  it('are no more than 255 deep, in long rows and short ones', () => {
    for (const corners of [
      [0, 0, 1, 0, 0, 0.6],
      [0.9, 0, 0.95, 0, 0.9, 0.6],
    ]) {
      const laid = laidTriangles(Float32Array.from(Array.from({ length: 300 }, () => corners).flat())),
        { once, pairs, deepest } = depthOf(laid, grid)
      expect([deepest, Math.round(once * pairs)]).toEqual([
        255,
        slowCounts([corners]).filter((n) => n > 0).length,
      ])
    }
  })
})
