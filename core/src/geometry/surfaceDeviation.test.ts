import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { outlineDifference } from './outlines'
import { surfaceDeviation, type LevelSurface } from './surfaceDeviation'
import { triangleSurvey } from './triangleSurvey'

const surface = (positions: number[], indices: number[], uvs: number[] | null = null): LevelSurface => {
  const p = new Float32Array(positions),
    i = new Uint32Array(indices)
  return {
    parts: [
      {
        positions: p,
        indices: i,
        areas: triangleSurvey(p, i, 0).areas,
        turned: false,
        uvs: uvs && new Float32Array(uvs),
      },
    ],
  }
}
/** A box around the origin. */
function box(x: number, y = x, z = x): LevelSurface {
  const corners = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((c) => [
    (c & 1 ? x : -x) / 2,
    (c & 2 ? y : -y) / 2,
    (c & 4 ? z : -z) / 2,
  ])
  const faces = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ]
  return surface(
    corners,
    faces.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]),
  )
}
/** A ball of rings and sectors. */
function ball(radius: number, rings: number, sectors: number): LevelSurface {
  const positions: number[] = [],
    indices: number[] = []
  for (let r = 0; r <= rings; r++)
    for (let s = 0; s <= sectors; s++) {
      const a = (r / rings) * Math.PI,
        b = (s / sectors) * 2 * Math.PI
      positions.push(
        radius * Math.sin(a) * Math.cos(b),
        radius * Math.cos(a),
        radius * Math.sin(a) * Math.sin(b),
      )
    }
  for (let r = 0; r < rings; r++)
    for (let s = 0; s < sectors; s++) {
      const k = r * (sectors + 1) + s
      indices.push(k, k + sectors + 1, k + 1, k + 1, k + sectors + 1, k + sectors + 2)
    }
  return surface(positions, indices)
}

describe('the deviation of one surface from another', () => {
  it('is nothing between a surface and itself', () => {
    const d = surfaceDeviation(ball(1, 12, 24), ball(1, 12, 24), 500)!
    expect(d.most).toBeLessThan(1e-6)
    expect([d.normals < 0.1, d.samples]).toEqual([true, 500])
  })
  it('of a box from one that is larger is half the difference at the faces, √3 times that at the corners', () => {
    const d = surfaceDeviation(box(1), box(1.2), 4000)!
    expect(d.most).toBeCloseTo(0.1 * Math.sqrt(3), 5)
    // Over the faces of the larger one it is 0.1 but for its rim, which stands out beyond the smaller
    expect(d.within99).toBeGreaterThan(0.1)
    expect(d.within99).toBeLessThan(0.1 * Math.sqrt(3))
  })
  it('of a fine ball from a coarse one is that of the chord: r (1 − cos(π/n)) for both angles', () => {
    const coarse = ball(2, 8, 16),
      d = surfaceDeviation(ball(2, 128, 256), coarse, 4000)!
    // Middle of a face at the equator: half steps of π/16 along both
    const middle = 2 * (1 - Math.cos(Math.PI / 16) * Math.cos(Math.PI / 16))
    expect(d.most).toBeGreaterThan(middle * 0.9)
    expect(d.most).toBeLessThan(middle * 1.1)
    expect(d.within99).toBeLessThanOrEqual(d.most)
    expect(d.normals).toBeGreaterThan(2)
    expect(d.normals).toBeLessThan(360 / 16)
  })
  it('grows with the size of both, and does not care for their order, but for normals', () =>
    fc.assert(
      fc.property(
        fc.double({ min: 0.5, max: 2, noNaN: true }),
        fc.double({ min: 0.01, max: 100, noNaN: true }),
        (stretch, scale) => {
          const one = surfaceDeviation(box(1), box(stretch, 1, 1), 300)!,
            scaled = surfaceDeviation(box(scale), box(stretch * scale, scale, scale), 300)!,
            other = surfaceDeviation(box(stretch, 1, 1), box(1), 300)!
          expect(scaled.most / scale).toBeCloseTo(one.most, 4)
          expect(other.most).toBeCloseTo(one.most, 6)
          expect(one.most).toBeCloseTo(Math.abs(stretch - 1) / 2, 5)
        },
      ),
      { numRuns: 25 },
    ))
  it('tells how far UVs moved on a sheet that repeats, and nothing where one has none', () => {
    const square = [0, 0, 0, 1, 0, 0, 1, 1, 0, 0, 1, 0],
      corners = [0, 1, 2, 0, 2, 3],
      uvs = [0, 0, 1, 0, 1, 1, 0, 1]
    const moved = (by: number) =>
      surface(
        square,
        corners,
        uvs.map((v) => v + by),
      )
    expect(surfaceDeviation(surface(square, corners, uvs), moved(0.25), 200)!.uv).toBeCloseTo(
      0.25 * Math.SQRT2,
      5,
    )
    expect(surfaceDeviation(surface(square, corners, uvs), moved(2), 200)!.uv).toBeCloseTo(0, 5)
    expect(surfaceDeviation(surface(square, corners, uvs), surface(square, corners), 200)!.uv).toBeNull()
  })
  it('is none without a surface', () => {
    expect(surfaceDeviation(box(1), surface([], []), 100)).toBeNull()
    expect(surfaceDeviation(surface([0, 0, 0, NaN, 0, 0, 0, 1, 0], [0, 1, 2]), box(1), 100)).toBeNull()
  })
})

describe('the difference of outlines', () => {
  const bounds = {
    min: [-0.5, -0.5, -0.5] as [number, number, number],
    max: [0.5, 0.5, 0.5] as [number, number, number],
  }
  it('is nothing for the same, and the share of the outline that is gone for a smaller one', () => {
    expect(outlineDifference(box(1).parts, box(1).parts, bounds)).toBe(0)
    // A box of half the size covers a quarter of the outline
    expect(outlineDifference(box(1).parts, box(0.5).parts, bounds)).toBeCloseTo(0.75, 1)
  })
  it('is all of it where nothing is left, and none where nothing was', () => {
    expect(outlineDifference(box(1).parts, [], bounds)).toBe(1)
    expect(outlineDifference([], box(1).parts, bounds)).toBeNull()
  })
})
