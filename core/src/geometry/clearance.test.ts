import { describe, expect, it } from 'vitest'
import { boxOf } from '../fixtures/crateFixture'
import { clearanceTo } from './clearance'

/** A box of one metre a side whose base centre is there. */
const box = (x: number, y: number, z: number, side = 1, grid = 4) => {
  const made = boxOf(side, [x, y, z], grid)
  return [
    { positions: new Float32Array(made.positions), indices: new Uint32Array(made.indices), turned: false },
  ]
}

describe('the clearance of one thing to another', () => {
  it('is the gap between two boxes, wherever their vertices lie', () => {
    const { least, deepest, inside, at } = clearanceTo(box(1.25, 0.3, 0.1, 1, 1), box(0, 0, 0, 1, 1))!
    expect(least).toBeCloseTo(0.25, 6)
    expect([deepest, inside]).toEqual([0, 0])
    expect(at[0]).toBeCloseTo(0.75, 6)
  })
  it('is told across a corner', () => {
    const { least } = clearanceTo(box(1.3, 1.4, 0), box(0, 0, 0))!
    expect(least).toBeCloseTo(Math.hypot(0.3, 0.4), 6)
  })
  it('is none where they cross, and the depth is that of the vertex that lies furthest in', () => {
    const found = clearanceTo(box(0.9, 0, 0.05), box(0, 0, 0, 1.0001))!
    expect(found.least).toBe(0)
    // One side reaches 0.1 over the border of the host; its vertices between the corners lie deepest
    expect(found.deepest).toBeCloseTo(0.1, 3)
    expect(found.inside).toBeGreaterThan(0)
    expect(found.deepestAt![0]).toBeCloseTo(0.4, 5)
  })
  it('of a thing that stands wholly inside is the depth of all of it', () => {
    const found = clearanceTo(box(0, 0.4, 0, 0.2), box(0, 0, 0))!
    expect(found.inside).toBe(1)
    expect(found.least).toBeCloseTo(0.4, 6)
    expect(found.deepest).toBeCloseTo(0.4, 6)
  })
  it('is not deep beside an open tray: one of three looks crosses its floor, most of them nothing', () => {
    const tray = box(0, 0, 0, 1, 1)
    // Of the six sides only the floor is left
    const bottom = [...tray[0]!.indices.keys()].filter((k) => {
      const t = Math.floor(k / 3) * 3
      return [0, 1, 2].every((i) => tray[0]!.positions[tray[0]!.indices[t + i]! * 3 + 1] === 0)
    })
    const open = [{ ...tray[0]!, indices: tray[0]!.indices.filter((_, k) => bottom.includes(k)) }]
    const found = clearanceTo(box(0, 0.1, 0, 0.2), open)!
    expect(found.least).toBeCloseTo(0.1, 6)
    expect([found.inside, found.deepest, found.deepestAt]).toEqual([0, 0, null])
  })
  it('is told for every vertex, below zero inside', () => {
    const own = box(0.9, 0, 0.05, 1, 1),
      { map } = clearanceTo(own, box(0, 0, 0, 1.0001))!
    const [near, far] = [
      own[0]!.positions.findIndex((v, k) => k % 3 === 0 && v < 0.5),
      own[0]!.positions.findIndex((v, k) => k % 3 === 0 && v > 1),
    ]
    expect(map).toHaveLength(own[0]!.positions.length / 3)
    // At x 0.4 and z −0.45, on the floor of both; at x 1.4
    expect(map![near / 3]!).toBeLessThanOrEqual(0.0001)
    expect(map![far / 3]!).toBeCloseTo(1.4 - 0.50005, 4)
    const unused = [{ ...own[0]!, indices: own[0]!.indices.slice(0, 3) }]
    expect([...clearanceTo(unused, box(0, 0, 0))!.map!].filter((d) => !Number.isNaN(d))).toHaveLength(3)
  })
  it('is null without a surface', () => {
    expect(clearanceTo([], box(0, 0, 0))).toBeNull()
    expect(clearanceTo(box(0, 0, 0), [])).toBeNull()
  })
})
