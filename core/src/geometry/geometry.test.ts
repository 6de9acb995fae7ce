import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { identityMatrix, linearDeterminant, multiplyMatrices, transformPoints } from './matrix'
import { nearestPivot, pivotPoints } from './pivotPoints'
import { boundsSize, joinBounds, longestSide, pointBounds } from './pointBounds'
import { notFinitePoints, triangleSurvey } from './triangleSurvey'

const coordinate = fc.double({ min: -1000, max: 1000, noNaN: true })
const points = fc
  .array(fc.tuple(coordinate, coordinate, coordinate), { minLength: 1, maxLength: 30 })
  .map((p) => new Float32Array(p.flat()))

describe('matrices', () => {
  it('moves and scales points', () => {
    const m = [2, 0, 0, 0, 0, 3, 0, 0, 0, 0, 4, 0, 10, 20, 30, 1]
    expect([...transformPoints(new Float32Array([1, 1, 1]), m)]).toEqual([12, 23, 34])
    expect(linearDeterminant(m)).toBe(24)
    expect(linearDeterminant([-1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1])).toBe(-1)
  })
  it('identity changes nothing, on either side', () => {
    fc.assert(
      fc.property(fc.array(coordinate, { minLength: 16, maxLength: 16 }), (m) => {
        expect([...multiplyMatrices(m, identityMatrix as number[])]).toEqual(m.map((v) => v + 0))
        expect([...multiplyMatrices(identityMatrix as number[], m)]).toEqual(m.map((v) => v + 0))
      }),
    )
  })
})

describe('bounds', () => {
  it('of nothing and of points that are no numbers are null', () => {
    expect(pointBounds(new Float32Array(0))).toBeNull()
    expect(pointBounds(new Float32Array([NaN, 0, 0, Infinity, 1, 1]))).toBeNull()
    expect(joinBounds([null, null])).toBeNull()
  })
  it('hold every point, and move with them', () => {
    fc.assert(
      fc.property(points, fc.integer({ min: -100, max: 100 }), (p, by) => {
        const box = pointBounds(p)!
        for (let k = 0; k < p.length; k++) {
          expect(p[k]!).toBeGreaterThanOrEqual(box.min[k % 3]!)
          expect(p[k]!).toBeLessThanOrEqual(box.max[k % 3]!)
        }
        expect(boundsSize(pointBounds(p.map((v) => v))!)).toEqual(boundsSize(box))
        expect(longestSide(pointBounds(new Float32Array(Array.from(p, (v) => v + by)))!)).toBeCloseTo(
          longestSide(box),
          2,
        )
      }),
    )
  })
})

describe('triangles', () => {
  const square = new Float32Array([0, 0, 0, 2, 0, 0, 2, 2, 0, 0, 2, 0])
  it('adds up areas: two halves of a square of 2 m are 4 m²', () => {
    expect(triangleSurvey(square, new Uint32Array([0, 1, 2, 0, 2, 3]), 0).area).toBe(4)
  })
  it('finds slivers and indices that lead nowhere', () => {
    const found = triangleSurvey(square, new Uint32Array([0, 1, 2, 0, 1, 0, 0, 1, 4]), 1e-12)
    expect([...found.degenerate]).toEqual([1])
    expect([...found.badIndices]).toEqual([2])
    expect(found.area).toBe(2)
  })
  it('does not count what is no number', () => {
    const broken = new Float32Array([0, 0, 0, 1, 0, 0, NaN, 1, 0])
    expect(triangleSurvey(broken, new Uint32Array([0, 1, 2]), 0)).toMatchObject({ area: 0 })
    expect(notFinitePoints(broken)).toBe(1)
  })
  it('area grows with the square of the scale, whatever the winding', () => {
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: -10, max: 10, noNaN: true }), { minLength: 9, maxLength: 9 }),
        fc.double({ min: 0.1, max: 10, noNaN: true }),
        (p, s) => {
          const once = triangleSurvey(new Float32Array(p), new Uint32Array([0, 1, 2]), 0).area
          expect(
            triangleSurvey(new Float32Array(p.map((v) => v * s)), new Uint32Array([2, 1, 0]), 0).area,
          ).toBeCloseTo(once * s * s, 1)
        },
      ),
    )
  })
})

describe('pivots', () => {
  const box = { min: [-1, 2, -3] as [number, number, number], max: [1, 6, 5] as [number, number, number] }
  it('stand where they should', () => {
    expect(pivotPoints(box, 'base-centre')).toEqual([[0, 2, 1]])
    expect(pivotPoints(box, 'centre')).toEqual([[0, 4, 1]])
    expect(pivotPoints(box, 'corner')).toHaveLength(4)
  })
  it('measure the way from the origin', () => {
    expect(nearestPivot(box, 'base-centre').distance).toBeCloseTo(Math.hypot(2, 1), 12)
    expect(nearestPivot(box, 'corner').point).toEqual([-1, 2, -3])
    expect(nearestPivot(box, 'origin-inside').distance).toBe(2)
    expect(nearestPivot(box, 'any').distance).toBe(0)
  })
})
