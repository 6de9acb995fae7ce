import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { sharedArea } from './triangleClip'
import { uvOverlap } from './uvOverlap'
import { coverageOf, extentOf, gridOf, laidTriangles } from './uvRaster'
import { uvSheet } from './uvSheet'

describe('sheets', () => {
  const square = {
    uv: new Float32Array([0, 1, 1, 1, 1, 0, 0, 0]),
    indices: new Uint32Array([0, 1, 2, 0, 2, 3]),
  }
  const sheet = (uv: Float32Array, mirrored: 'plain' | 'mirrored' = 'plain') =>
    uvSheet({
      uv,
      indices: square.indices,
      areas: new Float32Array([2, 2]),
      rep: new Uint32Array([0, 1, 2, 3]),
      mirrored,
    })
  it('of a square of 2 m: half a sheet a metre, one island, nothing mirrored', () => {
    const s = sheet(square.uv)
    expect([s.islands, s.uvArea, s.mirrored.length, s.degenerate.length, s.outside, s.tiles]).toEqual([
      1,
      1,
      0,
      0,
      0,
      [1001],
    ])
    expect(s.density!.middle).toBeCloseTo(0.5, 2)
  })
  it('turned over is mirrored, and so is one under a mirrored node; both together are not', () => {
    const over = square.uv.map((v, k) => (k % 2 === 0 ? 1 - v : v))
    expect([
      sheet(over).mirrored.length,
      sheet(square.uv, 'mirrored').mirrored.length,
      sheet(over, 'mirrored').mirrored.length,
    ]).toEqual([2, 2, 0])
  })
  it('scaled by s has s times the density, and leaves its tile', () => {
    const s = sheet(square.uv.map((v) => v * 3))
    expect(s.density!.middle).toBeCloseTo(1.5, 1)
    expect(s.outside).toBe(2)
  })
  it('that is a line has no area', () =>
    expect(sheet(square.uv.map((v, k) => (k % 2 ? 0.5 : v))).degenerate.length).toBe(2))
})

describe('overlap', () => {
  const quads = (...at: [number, number, number][]) => ({
    uv: new Float32Array(at.flatMap(([u, v, s]) => [u, v, u + s, v, u + s, v + s, u, v + s])),
    indices: Uint32Array.from(at.flatMap((_, i) => [0, 1, 2, 0, 2, 3].map((k) => i * 4 + k))),
    islands: Uint32Array.from(at.flatMap((_, i) => [i, i])),
  })
  const measure = (...at: [number, number, number][]) => {
    const q = quads(...at)
    return uvOverlap(q.uv, q.indices, q.islands)
  }
  it('of two triangles is the area of their cut: a quarter square here', () => {
    expect(sharedArea(new Float32Array([0, 0, 1, 0, 0, 1, 0, 0, 0.5, 0, 0.5, 0.5]), 0, 6)).toBeCloseTo(
      0.125,
      12,
    )
    expect(sharedArea(new Float32Array([0, 0, 1, 0, 0, 1, 1, 0, 2, 0, 1, 1]), 0, 6)).toBe(0)
  })
  it('of neighbours that share an edge is none', () =>
    expect(measure([0, 0, 0.25], [0.25, 0, 0.25])).toMatchObject({
      overlapped: 0,
      triangles: new Uint32Array(0),
    }))
  it('of squares that cover a quarter of each other is a quarter, and covered is what is left', () => {
    const found = measure([0, 0, 0.5], [0.25, 0.25, 0.5])
    expect([found.overlapped, found.covered, found.within]).toEqual([
      expect.closeTo(0.0625, 6),
      expect.closeTo(0.4375, 6),
      0,
    ])
  })
  it('of equal squares is found as a stack', () => {
    const found = measure([0, 0, 0.5], [0, 0, 0.5], [0, 0, 0.5])
    expect([found.stacked, found.overlapped, found.covered]).toEqual([
      4,
      expect.closeTo(0.25, 9),
      expect.closeTo(0.25, 9),
    ])
  })
  it('agrees with counting on a fine grid, for any squares', () => {
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.integer({ min: 0, max: 12 }),
            fc.integer({ min: 0, max: 12 }),
            fc.integer({ min: 1, max: 6 }),
          ),
          { minLength: 1, maxLength: 7 },
        ),
        (list) => {
          const cells = new Map<string, number>()
          for (const [u, v, s] of list)
            for (let x = u; x < u + s; x++)
              for (let y = v; y < v + s; y++) cells.set(`${x} ${y}`, (cells.get(`${x} ${y}`) ?? 0) + 1)
          const found = measure(
            ...list.map(([u, v, s]) => [u / 32, v / 32, s / 32] as [number, number, number]),
          )
          const deepest = Math.max(...cells.values()),
            twice = [...cells.values()].filter((n) => n > 1).length / 1024
          // Up to two deep it is exact; deeper it comes from the raster's share
          expect(Math.abs(found.overlapped - twice)).toBeLessThan(deepest <= 2 ? 1e-6 : 0.02)
          expect(Math.abs(found.covered - cells.size / 1024)).toBeLessThan(deepest <= 2 ? 1e-6 : 0.02)
          expect(found.covered).toBeGreaterThanOrEqual(found.overlapped - 1e-9)
        },
      ),
      { numRuns: 100 },
    )
  })
  it('of many layers is counted on a raster, quickly, and says what lies within an island', () => {
    // Forty layers of 50 × 50 squares, each shifted a little; layers 0 to 19 are one island
    const side = 50,
      layers = 40,
      at = Array.from({ length: layers * side * side }, (_, k) => {
        const layer = Math.floor(k / (side * side)),
          cell = k % (side * side)
        return [
          ((cell % side) + layer * 0.013) / 64,
          (Math.floor(cell / side) + layer * 0.017) / 64,
          1 / 64,
        ] as [number, number, number]
      })
    const q = quads(...at)
    const found = uvOverlap(
      q.uv,
      q.indices,
      q.islands.map((square) => (square < 20 * side * side ? 0 : 1 + Math.floor(square / side / side))),
    )
    const width = (n: number) => [(side + n * 0.013) / 64, (side + n * 0.017) / 64] as const
    // Two shifted squares of layers cut a corner off each other: what all layers together cover is the box
    // less two steps of corners
    const union = (n: number) =>
      width(n)[0] * width(n)[1] - (2 * (((n * 0.013) / 64) * ((n * 0.017) / 64))) / 2
    expect(found).toMatchObject({
      exact: false,
      triangles: expect.objectContaining({ length: expect.any(Number) }),
    })
    expect(Math.abs(found.covered - union(layers - 1))).toBeLessThan(0.003)
    expect(Math.abs(found.within - found.overlapped)).toBeLessThan(0.05)
    expect(found.within).toBeLessThan(found.overlapped)
    expect(found.triangles.length).toBeGreaterThan(layers * side * side * 1.9)
  })
  it('counted on a raster tells what one island covers twice from what two cover', () => {
    // Two squares of one island share a quarter; a third one, of another, lies over the far half of the
    // second
    const { uv, indices } = quads([0, 0, 0.5], [0.25, 0.25, 0.5], [0.5, 0.25, 0.5]),
      laid = laidTriangles(Float32Array.from([...indices].flatMap((v) => [uv[v * 2]!, uv[v * 2 + 1]!])))
    const found = coverageOf(
      laid,
      Uint32Array.of(0, 0, 0, 0, 9, 9),
      [0, 1, 2, 3, 4, 5],
      gridOf(extentOf(laid), laid.count, 512)!,
    )
    expect([found.covered, found.overlapped, found.within].map((v) => Number(v.toFixed(2)))).toEqual([
      0.56, 0.19, 0.06,
    ])
  })
  it('over a stack does not count an area twice', () => {
    const found = measure([0, 0, 0.5], [0, 0, 0.5], [0.25, 0, 0.5])
    expect([found.overlapped, found.covered]).toEqual([expect.closeTo(0.25, 2), expect.closeTo(0.375, 2)])
    expect(found.exact).toBe(false)
  })
})
