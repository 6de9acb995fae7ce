import * as fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { boxOf } from '../fixtures/crateFixture'
import { claimedAir } from './claimedAir'
import { convexHull, outOfHull } from './convexHull'
import { cutHulls } from './cutHulls'

type Vec3 = [number, number, number]
interface Surface {
  positions: number[]
  indices: number[]
}
/** A box of these sides whose base stands at a place. */
function block(sides: Vec3, at: Vec3 = [0, 0, 0]): Surface {
  const { positions, indices } = boxOf(1, [0, 0, 0], 1)
  return { positions: positions.map((v, k) => v * sides[k % 3]! + at[k % 3]!), indices: [...indices] }
}
const joined = (...parts: Surface[]): Surface =>
  parts.reduce((sum, part) => ({
    positions: [...sum.positions, ...part.positions],
    indices: [...sum.indices, ...part.indices.map((i) => i + sum.positions.length / 3)],
  }))
/** An L of three cubes: a hull of it holds half a cube of air. */
const angle = joined(block([2, 1, 1], [0.5, 0, 0]), block([1, 1, 1], [0, 1, 0]))
const listOf = (s: Surface) => ({
  positions: Float32Array.from(s.positions),
  indices: Uint32Array.from(s.indices),
})
const limits = { hulls: 8, corners: 32, worth: 0.02 }
const volumes = (s: Surface, own = limits): number[] =>
  cutHulls([listOf(s)], own).map((h) => Number(h.volume.toFixed(4)))

describe('several hulls', () => {
  it('of a convex thing are one, of its volume', () => {
    expect(volumes(block([2, 1, 3]))).toEqual([6])
  })
  it('of an angle hold less air than one', () => {
    const one = volumes(angle, { ...limits, hulls: 1 }),
      more = volumes(angle)
    expect(one).toEqual([3.5])
    expect(more.length).toBeGreaterThan(1)
    expect(more.reduce((a, b) => a + b, 0)).toBeLessThan(3.25)
  })
  it('of two things apart are the two', () => {
    const apart = joined(block([1, 1, 1], [-3, 0, 0]), block([1, 2, 1], [3, 0, 0]))
    expect(volumes(apart).sort()).toEqual([1, 2])
  })
  it('of a ring leave its middle free, though halves alone would not', () => {
    // Four beams around a square hole: the hull is 4 × 1 × 4, the ring 12
    const ring = joined(
      block([4, 1, 1], [0, 0, -1.5]),
      block([4, 1, 1], [0, 0, 1.5]),
      block([1, 1, 2], [-1.5, 0, 0]),
      block([1, 1, 2], [1.5, 0, 0]),
    )
    const made = volumes(ring)
    expect(made.length).toBeGreaterThanOrEqual(4)
    expect(made.reduce((a, b) => a + b, 0)).toBeLessThan(13)
  })
  it('enclose every vertex, are no more than asked for, and never more volume than one', () =>
    fc.assert(
      fc.property(
        fc.array(
          fc.tuple(
            fc.tuple(
              fc.integer({ min: 1, max: 4 }),
              fc.integer({ min: 1, max: 4 }),
              fc.integer({ min: 1, max: 4 }),
            ),
            fc.tuple(
              fc.integer({ min: -4, max: 4 }),
              fc.integer({ min: -4, max: 4 }),
              fc.integer({ min: -4, max: 4 }),
            ),
          ),
          { minLength: 1, maxLength: 4 },
        ),
        fc.integer({ min: 1, max: 6 }),
        (blocks, hulls) => {
          const thing = joined(...blocks.map(([sides, at]) => block(sides, at)))
          const made = cutHulls([listOf(thing)], { hulls, corners: 256, worth: 0.01 })
          expect(made.length).toBeGreaterThan(0)
          expect(made.length).toBeLessThanOrEqual(hulls)
          const planes = made.map((m) => convexHull(m.positions)!)
          for (let k = 0; k < thing.positions.length; k += 3) {
            const [x, y, z] = thing.positions.slice(k, k + 3) as Vec3
            expect(Math.min(...planes.map((h) => outOfHull(h, x, y, z)))).toBeLessThan(1e-4)
          }
          const [one] = cutHulls([listOf(thing)], { hulls: 1, corners: 256, worth: 0 })
          expect(made.reduce((sum, m) => sum + m.volume, 0)).toBeLessThanOrEqual(one!.volume * 1.001)
        },
      ),
      { numRuns: 40 },
    ))
  it('are none of what is flat or holds no places', () => {
    expect(
      cutHulls([listOf({ positions: [0, 0, 0, 1, 0, 0, 0, 1, 0], indices: [0, 1, 2] })], limits),
    ).toEqual([])
    expect(
      cutHulls([listOf({ positions: [0, 0, NaN, 1, 0, 0, 0, 1, 0], indices: [0, 1, 2, 0, 1, 9] })], limits),
    ).toEqual([])
  })
})

describe('air that shapes claim', () => {
  const airOf = (s: Surface, shape: Surface): number | null => {
    const bounds = {
      min: [0, 1, 2].map((i) => Math.min(...s.positions.filter((_, k) => k % 3 === i))) as Vec3,
      max: [0, 1, 2].map((i) => Math.max(...s.positions.filter((_, k) => k % 3 === i))) as Vec3,
    }
    return claimedAir(
      [{ ...listOf(s), turned: false }],
      [convexHull(Float32Array.from(shape.positions))!],
      bounds,
    )
  }
  it('is none for a box in its own hull, and half of a cube of three and a half for an angle', () => {
    expect(airOf(block([1, 1, 1]), block([1, 1, 1]))).toBe(0)
    expect(airOf(angle, angle)!).toBeGreaterThan(0.5 / 3.5 - 0.04)
    expect(airOf(angle, angle)!).toBeLessThan(0.5 / 3.5 + 0.02)
  })
  it('counts the inside of a box without a lid, and neither that of a closed one nor of one without a floor', () => {
    const closed = block([1, 1, 1])
    const without = (height: number) => ({
      positions: closed.positions,
      indices: closed.indices.filter((_, k) => {
        const t = Math.floor(k / 3) * 3
        return !closed.indices.slice(t, t + 3).every((v) => closed.positions[v * 3 + 1] === height)
      }),
    })
    expect(without(1).indices.length).toBe(closed.indices.length - 6)
    expect(airOf(without(1), closed)!).toBeGreaterThan(0.85)
    expect(without(0).indices.length).toBe(closed.indices.length - 6)
    expect(airOf(without(0), closed)).toBe(0)
  })
  it('is not known where no cell lies in a shape', () => {
    expect(airOf(block([1, 1, 1]), block([1, 1, 1], [50, 0, 0]))).toBeNull()
  })
})
