import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { layTiles } from './treemap'

describe('a treemap', () => {
  it('lays four alike as four squares, and the published example in its first row', () => {
    expect(layTiles([1, 1, 1, 1], (v) => v, 20, 20).map((t) => [t.width, t.height])).toEqual(
      Array(4).fill([10, 10]),
    )
    // Bruls, Huizing, van Wijk 2000: 6 6 4 3 2 2 1 on 6 × 4; the first two stand in a column of 3 × 2 each
    const [a, b] = layTiles([6, 6, 4, 3, 2, 2, 1], (v) => v, 6, 4)
    expect([a!.width, a!.height, b!.width, b!.height]).toEqual([3, 2, 3, 2])
  })
  it('fills the area by the values and never lays one over another', () =>
    fc.assert(
      fc.property(fc.array(fc.integer({ min: 0, max: 1000 }), { maxLength: 30 }), (values) => {
        const tiles = layTiles(values, (v) => v, 300, 120)
        expect(tiles).toHaveLength(values.filter((v) => v > 0).length)
        const total = values.reduce((a, b) => a + b, 0)
        for (const t of tiles) {
          expect(t.width * t.height).toBeCloseTo((t.thing / total) * 36000, 4)
          expect(t.x).toBeGreaterThanOrEqual(-1e-6)
          expect(t.x + t.width).toBeLessThanOrEqual(300.001)
          expect(t.y + t.height).toBeLessThanOrEqual(120.001)
        }
        tiles.forEach((a, i) =>
          tiles.slice(i + 1).forEach((b) => {
            const across = Math.min(a.x + a.width, b.x + b.width) - Math.max(a.x, b.x),
              down = Math.min(a.y + a.height, b.y + b.height) - Math.max(a.y, b.y)
            expect(Math.min(across, down)).toBeLessThan(1e-6)
          }),
        )
      }),
    ))
})
