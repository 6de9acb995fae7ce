import type { AssetState } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { layLevels, switchesByError, switchesOfFile } from './levelsLayout'
import { differenceOf } from './levelsStage'

/** tan(45°) = 1: a metre at a metre covers 500 of 1000 pixels. */
const screen = { title: 'Desk', width: 1000, height: 1000, fovDegrees: 90 }
const error = (level: number, within99: number) => ({
  level,
  most: within99 * 3,
  within99,
  normals: 1,
  uv: null,
  outline: 0,
  samples: 10,
})
const state = (coverages: number[] | null, errors = [error(1, 0.01), error(2, 0.04)]): AssetState =>
  ({
    screen,
    levels: [0, 1, 2].map((level) => ({ level, nodes: [`n${level}`], triangles: 100 >> level })),
    mesh: {
      nodes: [{ path: 'n0', bounds: { min: [-0.5, 0, -0.5], max: [0.5, 2, 0.5] } }],
      chain: errors.length > 0 ? { errors, radius: 1, coverages } : null,
    },
  }) as unknown as AssetState

describe('switches of levels', () => {
  it('stand where 99 % of a level are a pixel off, where the file says nothing', () => {
    expect(switchesOfFile(state(null))).toBeNull()
    const { levels, cull } = switchesByError(state(null))
    expect(levels).toEqual([expect.closeTo(5, 9), expect.closeTo(20, 9)])
    expect(cull).toBeCloseTo(250, 9)
  })
  it('are those of the file by their coverages, with an end where it says one', () => {
    expect(switchesOfFile(state([0.25, 0.1, 0.02]))).toEqual({
      levels: [expect.closeTo(4, 9), expect.closeTo(10, 9)],
      cull: expect.closeTo(50, 9) as number,
    })
    expect(switchesOfFile(state([0.25, 0.1]))!.cull).toBe(Infinity)
    expect(switchesOfFile(state([0.25]))).toBeNull()
  })
  it('are at distances by size where nothing could be measured', () => {
    const { levels } = switchesByError(state(null, []))
    expect(levels).toHaveLength(2)
    expect(levels[1]! / levels[0]!).toBeCloseTo(2.5, 9)
  })
})

describe('levels in a row', () => {
  it('are as large as on the screen where there is room: H · size / (2 d tan(fov / 2))', () => {
    const { columns, scale } = layLevels(state(null), { levels: [10, 40], cull: Infinity }, [2000, 900])
    expect(scale).toBe(1)
    expect(columns.map((c) => [c.distance, c.height])).toEqual([
      [5, expect.closeTo(200, 6)],
      [10, expect.closeTo(100, 6)],
      [40, expect.closeTo(25, 6)],
    ])
  })
  it('are shrunk by the same where there is none, and never lie over one another', () => {
    const { columns, scale } = layLevels(state(null), { levels: [3, 12], cull: 60 }, [480, 160])
    expect(scale).toBeLessThan(1)
    columns.slice(1).forEach((c, i) => {
      expect(c.x - c.width / 2).toBeGreaterThanOrEqual(columns[i]!.x + columns[i]!.width / 2 - 1e-6)
      expect(c.height / columns[0]!.height).toBeCloseTo(columns[0]!.distance / c.distance, 6)
    })
    expect(columns.at(-1)!.x + columns.at(-1)!.width / 2).toBeLessThanOrEqual(480)
    // Words that have no room do not shrink the pictures
    const narrow = layLevels(state(null), { levels: [10, 40], cull: 60 }, [330, 900])
    expect(narrow.scale).toBeGreaterThan(0.5)
  })
})

it('pixels that differ are counted among those that either picture draws', () => {
  const first = Uint8Array.from([10, 10, 10, 255, 0, 0, 0, 0, 90, 90, 90, 255, 0, 0, 0, 0]),
    second = Uint8Array.from([15, 10, 10, 255, 0, 0, 0, 0, 90, 120, 90, 255, 50, 50, 50, 255])
  expect(differenceOf(first, second)).toEqual({ drawn: 3, differing: 2 })
})
