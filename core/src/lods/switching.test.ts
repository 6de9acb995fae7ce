import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { coverageOf, distanceOf, distanceOfCoverage, pixelsOf, planSwitches } from './switching'

/** tan(45°) = 1: a metre at a metre covers half of the height. */
const screen = { width: 1000, height: 1000, fovDegrees: 90 }

describe('what a length covers on a screen', () => {
  it('is H / (2 d tan(fov / 2)) pixels, and the distance is found from it again', () => {
    expect(pixelsOf(1, 1, screen)).toBeCloseTo(500, 9)
    expect(pixelsOf(0.01, 10, screen)).toBeCloseTo(0.5, 9)
    expect(distanceOf(0.01, 1, screen)).toBeCloseTo(5, 9)
  })
  it('of a ball is its radius by d tan(fov / 2), as a share of the height', () => {
    expect(coverageOf(1, 4, screen)).toBeCloseTo(0.25, 9)
    expect(distanceOfCoverage(1, 0.25, screen)).toBeCloseTo(4, 9)
    expect(distanceOfCoverage(1, 0, screen)).toBe(Infinity)
  })
})

describe('where levels are switched', () => {
  it('is from the distance on at which the error covers no more than a pixel', () => {
    const plan = planSwitches(
      [
        { level: 1, error: 0.01 },
        { level: 2, error: 0.04 },
      ],
      1,
      screen,
    )
    expect(plan.levels.map((l) => [l.level, l.distance, l.coverage])).toEqual([
      [1, expect.closeTo(5, 9), expect.closeTo(0.2, 9)],
      [2, expect.closeTo(20, 9), expect.closeTo(0.05, 9)],
    ])
    // Two metres are four pixels high at 2 · 500 / 4
    expect(plan.cull.distance).toBeCloseTo(250, 9)
  })
  it('never comes before the level before, nor nearer than where the thing fills the screen', () => {
    const plan = planSwitches(
      [
        { level: 1, error: 0.02 },
        { level: 2, error: 0 },
      ],
      3,
      screen,
    )
    expect(plan.levels.map((l) => l.distance)).toEqual([expect.closeTo(10, 9), expect.closeTo(10, 9)])
    expect(planSwitches([{ level: 1, error: 0 }], 3, screen).levels[0]!.distance).toBeCloseTo(3, 9)
    // Six metres are four pixels high at 6 · 500 / 4
    expect(planSwitches([], 3, screen).cull.distance).toBeCloseTo(750, 9)
  })
  it('shows no more than the allowed pixels at any switch, for any errors', () =>
    fc.assert(
      fc.property(
        fc.array(fc.double({ min: 0, max: 2, noNaN: true }), { minLength: 1, maxLength: 6 }),
        fc.double({ min: 0.25, max: 4, noNaN: true }),
        (errors, pixels) => {
          const plan = planSwitches(
            errors.map((error, i) => ({ level: i + 1, error })),
            1,
            screen,
            { pixels, smallest: 4 },
          )
          plan.levels.forEach(({ distance }, i) => {
            expect(pixelsOf(errors[i]!, distance, screen)).toBeLessThanOrEqual(pixels * 1.000001)
            if (i > 0) expect(distance).toBeGreaterThanOrEqual(plan.levels[i - 1]!.distance)
            expect(plan.cull.distance).toBeGreaterThanOrEqual(distance)
          })
        },
      ),
    ))
})
