import * as engine from '@dimforge/rapier3d-compat'
import { beforeAll, describe, expect, it } from 'vitest'
import { boxOf } from '@stern-gate/core/fixtures'
import { dropBalls, meaningOf, type DropScene } from './dropBalls'

beforeAll(() => engine.init())

const block = (size: number) => {
  const { positions, indices } = boxOf(size, [0, 0, 0], 1)
  return { positions: Float32Array.from(positions), indices: Uint32Array.from(indices) }
}
const scene = (collision: number, convex = true, surface = 1): DropScene => ({
  collision: [{ ...block(collision), convex }],
  surface: [block(surface)],
  min: [-0.5, 0, -0.5].map((v) => v * Math.max(collision, surface)) as [number, number, number],
  max: [0.5, 1, 0.5].map((v) => v * Math.max(collision, surface)) as [number, number, number],
})
const resting = (s: DropScene) => {
  const result = dropBalls(engine, s)
  return { ...result, on: result.balls.filter((b) => b.where === 'rests') }
}

describe('balls that are dropped', () => {
  it('rest on a box that is as large as what is seen, as a hull and as triangles, without a gap', () => {
    for (const convex of [true, false]) {
      const { on, radius, balls } = resting(scene(1, convex))
      expect(balls).toHaveLength(49)
      expect(on.length).toBeGreaterThan(30)
      expect(on.every((b) => Math.abs(b.gap) < radius * 0.1 && meaningOf(b, radius) === 'fits')).toBe(true)
    }
  })
  it('float where the collision stands out of what is seen, by what it does', () => {
    const { on, radius } = resting(scene(1.2))
    expect(on.length).toBeGreaterThan(30)
    // Over the middle of the top 20 cm, further at its rim
    const middle = on.filter((b) => Math.hypot(b.at[0], b.at[2]) < 0.3)
    expect(middle.length).toBeGreaterThan(3)
    for (const ball of middle) expect(ball.gap).toBeCloseTo(0.2, 2)
    expect(on.every((b) => meaningOf(b, radius) === 'floats')).toBe(true)
  })
  it('fall to the ground where there is no collision, and the same twice from the same start', () => {
    const nothing = { ...scene(1), collision: [] }
    const first = dropBalls(engine, nothing)
    expect(first.balls.every((b) => b.where === 'ground')).toBe(true)
    expect(dropBalls(engine, scene(1)).frames.at(-1)).toEqual(dropBalls(engine, scene(1)).frames.at(-1))
  })
  it('rest on things of a centimetre and of a hundred metres alike', () => {
    for (const size of [0.01, 100]) {
      const { on, radius } = resting(scene(size, true, size))
      expect(on.length).toBeGreaterThan(30)
      expect(on.every((b) => Math.abs(b.gap) < radius * 0.15)).toBe(true)
    }
  })
})
