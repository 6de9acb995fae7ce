import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Bounds } from '@stern-gate/contract'
import { comparedCuts, comparedSamples, hashOfLeast, placeHashes, quadSample, quadsAt } from './quadSample'
import { pointBounds } from './pointBounds'

const ALL = 0xffff_ffff

/** A floor of n × n quads in metres; those whose number is in `turned` are cut along the other diagonal. */
function floor(n: number, turned: ReadonlySet<number> = new Set(), { by = [0, 0, 0], scale = 1 } = {}) {
  const places: number[] = [],
    corners: number[] = []
  for (let a = 0; a <= n; a++)
    for (let b = 0; b <= n; b++)
      places.push(a * scale + by[0]!, Math.sin(a + 2 * b) * 0.1 * scale + by[1]!, b * scale + by[2]!)
  for (let q = 0; q < n * n; q++) {
    const v = Math.floor(q / n) * (n + 1) + (q % n),
      [p, r, s, t] = [v, v + n + 1, v + n + 2, v + 1]
    corners.push(...(turned.has(q) ? [p, r, t, r, s, t] : [p, r, s, p, s, t]))
  }
  return { places: new Float32Array(places), corners: new Uint32Array(corners) }
}
const boxOf = (surface: { places: Float32Array }): Bounds => pointBounds(surface.places)!
const hashed = (surface: ReturnType<typeof floor>, whole = boxOf(surface)) => ({
  hashes: placeHashes(surface.places, whole),
  corners: surface.corners,
})
const quadsOf = (surface: ReturnType<typeof floor>) => quadsAt([hashed(surface)], ALL)

describe('quads that two surfaces share', () => {
  it('of one quad are one, and its diagonal is told', () => {
    const one = quadsOf(floor(1)),
      other = quadsOf(floor(1, new Set([0])))
    expect([one.size, other.size]).toEqual([1, 1])
    expect(comparedCuts(one, one)).toEqual({ shared: 1, other: 0 })
    expect(comparedCuts(one, other)).toEqual({ shared: 1, other: 1 })
  })
  it('are as many as edges between two triangles: of 2 × 2 quads eight', () => {
    // Four diagonals and four edges between quads
    expect(quadsOf(floor(2)).size).toBe(8)
  })
  it('told apart: one turned quad of 25 is the one that differs', () => {
    const found = comparedCuts(quadsOf(floor(5)), quadsOf(floor(5, new Set([12]))))
    expect(found.other).toBe(1)
    // Around it four pairs over its edges have other corners now
    expect(found.shared).toBe(quadsOf(floor(5)).size - 4)
  })
  it('however the whole was moved and scaled', () => {
    fc.assert(
      fc.property(
        fc.tuple(
          fc.float({ min: -8, max: 8, noNaN: true }),
          fc.float({ min: -8, max: 8, noNaN: true }),
          fc.float({ min: -8, max: 8, noNaN: true }),
        ),
        fc.constantFrom(0.25, 0.5, 2, 4),
        fc.uniqueArray(fc.integer({ min: 0, max: 15 })),
        (by, scale, turned) => {
          const moved = floor(4, new Set(turned), { by, scale }),
            { shared, other } = comparedCuts(quadsOf(floor(4)), quadsOf(moved))
          // A place in thousands may fall on the other side of a step
          expect(other).toBeLessThanOrEqual(turned.length)
          expect(other).toBeGreaterThanOrEqual(turned.length - 2)
          if (turned.length === 0) expect(shared).toBeGreaterThan(quadsOf(floor(4)).size - 8)
        },
      ),
      { numRuns: 60 },
    )
  })
  it('leaves out edges of three triangles, corners that fall together, and corners that are not there', () => {
    const wing = floor(1)
    wing.corners = Uint32Array.from([...wing.corners, 0, 3, 1])
    expect(quadsOf(wing).size).toBeLessThanOrEqual(2)
    expect([...quadsOf(wing).values()]).not.toContain([...quadsOf(floor(1)).values()][0])
    const folded = floor(1)
    folded.places.copyWithin(3, 6, 9)
    expect(quadsOf(folded).size).toBe(0)
    const broken = floor(1)
    broken.corners[5] = 99
    expect(quadsOf(broken).size).toBe(0)
  })
  it('that are cut both ways in one surface say nothing', () => {
    const both = [floor(1), floor(1, new Set([0]))]
    expect(
      quadsAt(
        both.map((s) => hashed(s, boxOf(both[0]!))),
        ALL,
      ).size,
    ).toBe(0)
  })
})

describe('the sample of a surface', () => {
  it('chooses the same places in both, and few of many', () => {
    const a = quadSample([hashed(floor(60))]),
      b = quadSample([hashed(floor(60, new Set(Array.from({ length: 3600 }, (_, q) => q))))])
    expect(a.corners.length).toBeLessThan(400)
    expect(a.corners).toHaveLength(a.diagonals.length)
    expect(a.corners).toEqual([...a.corners].sort((x, y) => x - y))
    const { shared, other } = comparedSamples(a, b)
    expect(shared).toBeGreaterThan(20)
    expect(other).toBe(shared)
    expect(comparedSamples(a, a)).toEqual({ shared: a.corners.length, other: 0 })
  })
  it('of places that are no numbers has none of them', () => {
    const surface = floor(2)
    surface.places[0] = NaN
    expect(placeHashes(surface.places, boxOf(floor(2)))[0]).toBe(0)
    const least = (hashes: number[], wanted: number) =>
      hashOfLeast([{ hashes: new Uint32Array(hashes), corners: new Uint32Array() }], wanted)
    expect(least([0, 0, 0], 1)).toBe(ALL)
    expect(least([5, 70_000, 0], 1)).toBe(65_535)
    expect(least([5, 70_000, 0], 2)).toBe(131_071)
  })
})
