import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { uvGap } from './uvGap'

/** Squares as islands of two triangles each, by their lower corner and side. */
function squares(...of: [number, number, number][]) {
  const uv: number[] = [],
    indices: number[] = [],
    islands: number[] = []
  of.forEach(([x, y, side], n) => {
    const v = uv.length / 2
    uv.push(x, y, x + side, y, x + side, y + side, x, y + side)
    indices.push(v, v + 1, v + 2, v, v + 2, v + 3)
    islands.push(n, n)
  })
  return [new Float32Array(uv), new Uint32Array(indices), new Uint32Array(islands)] as const
}

describe('the gap between islands', () => {
  it('is that of their borders, and of the nearest border to the edge', () => {
    const gap = uvGap(...squares([0.125, 0.25, 0.25], [0.390625, 0.25, 0.25]))!
    expect(gap.between).toBeCloseTo(0.015625, 6)
    expect(gap.edge).toBeCloseTo(0.125, 6)
  })
  it('is told across a corner, too', () => {
    const gap = uvGap(...squares([0.1, 0.1, 0.2], [0.303, 0.304, 0.2]))!
    expect(gap.between).toBeCloseTo(0.005, 4)
  })
  it('is nothing where islands touch or cross', () => {
    expect(uvGap(...squares([0.25, 0.25, 0.25], [0.5, 0.25, 0.25]))!.between).toBe(0)
    expect(uvGap(...squares([0.1, 0.1, 0.3], [0.2, 0.2, 0.3]))!.between).toBe(0)
  })
  it('is null for one island, and for islands that stand far apart', () => {
    expect(uvGap(...squares([0.25, 0.25, 0.25]))!.between).toBeNull()
    expect(uvGap(...squares([0.1, 0.1, 0.2], [0.6, 0.6, 0.2]))!.between).toBeNull()
    expect(uvGap(new Float32Array(0), [], new Uint32Array(0))).toBeNull()
  })
  it('counts a seam of split corners inside an island for nothing', () => {
    // The diagonal of the square has corners of its own for each triangle
    const uv = new Float32Array([0.2, 0.2, 0.4, 0.2, 0.4, 0.4, 0.2, 0.2, 0.4, 0.4, 0.2, 0.4])
    expect(uvGap(uv, [0, 1, 2, 3, 4, 5], new Uint32Array([7, 7]))).toMatchObject({ between: null })
  })
  it('counts edges inside an island for nothing, whichever way its triangles turn', () => {
    // Nine points over a square of half the sheet, eight triangles, every second one turned round
    const grid = (x: number) =>
      [0, 1, 2].flatMap((j) => [0, 1, 2].flatMap((i) => [x + i * 0.1, 0.2 + j * 0.1]))
    const quads = [0, 1, 3, 4].flatMap((v) => [v, v + 1, v + 4, v, v + 3, v + 4])
    const uv = new Float32Array([...grid(0.2), ...grid(0.41)]),
      indices = [...quads, ...quads.map((v) => v + 9)]
    const islands = new Uint32Array(16).map((_, t) => (t < 8 ? 0 : 9))
    const found = uvGap(uv, indices, islands)!
    expect(found.between).toBeCloseTo(0.01, 5)
    expect(found.edge).toBeCloseTo(0.2, 5)
    // The crack between the halves of the first one is none: only its outline counts
    expect(uvGap(uv, quads, new Uint32Array(8))!.between).toBeNull()
  })
  it('is below 0 to the edge where an island leaves the sheet', () => {
    expect(uvGap(...squares([0.9, 0.2, 0.25]))!.edge).toBeCloseTo(-0.15, 5)
  })
  it('is that of every pair, whatever the grid finds first', () => {
    const place = fc.tuple(fc.integer({ min: 0, max: 60 }), fc.integer({ min: 0, max: 60 }))
    fc.assert(
      fc.property(fc.uniqueArray(place, { minLength: 2, maxLength: 12, selector: String }), (places) => {
        // Squares on a lattice of 1/64, a little smaller than its cells, so that they never touch
        const side = 1 / 64 - 1 / 300
        const at = places.map(([x, y]): [number, number, number] => [x / 64, y / 64, side])
        let least = Infinity
        for (const [i, a] of at.entries())
          for (const b of at.slice(i + 1)) {
            const between = (p: number, q: number): number => Math.max(0, Math.abs(p - q) - side)
            least = Math.min(least, Math.hypot(between(a[0], b[0]), between(a[1], b[1])))
          }
        const found = uvGap(...squares(...at))!.between
        if (least <= 1 / 32) expect(found).toBeCloseTo(least, 5)
        else expect(found).toBeNull()
      }),
    )
  })
})
