import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { directionOfTexel, prefilterLight, roughnessOfLevel, type LightFrom } from './prefilterLight'

/** Calls back for every texel of a level with its direction and red. */
function eachRed(level: Float32Array, visit: (red: number, x: number, y: number, z: number) => void): void {
  const edge = Math.sqrt(level.length / 18),
    way = new Float64Array(3)
  for (let i = 0; i < level.length / 3; i++) {
    const face = Math.floor(i / (edge * edge)),
      row = Math.floor(i / edge) % edge,
      column = i % edge
    directionOfTexel(face, ((column + 0.5) * 2) / edge - 1, ((row + 0.5) * 2) / edge - 1, way)
    const long = Math.hypot(...way)
    visit(level[i * 3]!, way[0]! / long, way[1]! / long, way[2]! / long)
  }
}
/** The farthest that red is from what it should be. */
function worst(level: Float32Array, wanted: (x: number, y: number, z: number) => number): number {
  let most = 0
  eachRed(level, (red, x, y, z) => (most = Math.max(most, Math.abs(red - wanted(x, y, z)))))
  return most
}
const upward: LightFrom = (_x, y, _z, out) => void out.fill(2 + y)

describe('directions of a cube', () => {
  it('are those of the open standard: s to the right and t downward on every face', () => {
    const way = new Float64Array(3)
    const through = [0, 1, 2, 3, 4, 5].map((face) => {
      directionOfTexel(face, 0.25, 0.5, way)
      return [...way].map((v) => v + 0)
    })
    expect(through).toEqual([
      [1, -0.5, -0.25],
      [-1, -0.5, 0.25],
      [0.25, 1, 0.5],
      [0.25, -1, -0.5],
      [0.25, -0.5, 1],
      [-0.25, -0.5, -1],
    ])
  })
})

describe('light prefiltered by roughness', () => {
  it('has levels down to faces of eight texels, from a mirror to roughness 1', () => {
    const { levels } = prefilterLight(upward, 64)
    expect(levels.map((l) => Math.sqrt(l.length / 18))).toEqual([64, 32, 16, 8])
    expect([0, 1, 2, 3].map((l) => roughnessOfLevel(l, 3))).toEqual([
      0,
      1 - Math.sqrt(2 / 3),
      expect.closeTo(1 - Math.sqrt(1 / 3), 12),
      1,
    ])
  })
  it('stays what it is where it is the same from everywhere', () => {
    fc.assert(
      fc.property(fc.double({ min: 0.01, max: 50, noNaN: true }), (light) => {
        for (const level of prefilterLight((_x, _y, _z, out) => void out.fill(light), 32).levels)
          expect(worst(level, () => light) / light).toBeLessThan(1e-5)
      }),
      { numRuns: 4 },
    )
  })
  it('at the first level is what is seen in each direction', () => {
    expect(worst(prefilterLight(upward, 32).levels[0]!, (_x, y) => 2 + y)).toBeLessThan(0.001)
  })
  it('at roughness 1 is the mean weighed by the cosine: 2/3 of what grows with the height', () => {
    // ∫ cos²θ dω / ∫ cosθ dω over the half sphere = (2π/3) / π
    const last = prefilterLight(upward, 32).levels.at(-1)!
    expect(worst(last, (_x, y) => 2 + (y * 2) / 3)).toBeLessThan(0.005)
  })
  it('at a level between is the mean over the lobe of its roughness, in every direction', () => {
    // For light that grows with the height: y × the mean of N·L, weighed by N·L × D, summed numerically
    const { levels } = prefilterLight(upward, 128)
    for (const level of [1, 2, 3]) {
      const square = roughnessOfLevel(level, 4) ** 4
      let along = 0,
        weight = 0
      for (let i = 0; i < 20_000; i++) {
        const cosine = (i + 0.5) / 20_000,
          w = cosine / (1 + square + (square - 1) * cosine) ** 2
        along += cosine * w
        weight += w
      }
      const mean = along / weight
      expect(worst(levels[level]!, (_x, y) => 2 + y * mean)).toBeLessThan(0.01)
    }
  })
  it('spreads a small bright lamp wider the rougher the level, and keeps where it is brightest', () => {
    const lamp: LightFrom = (x, _y, z, out) => void out.fill(x > 0.98 ? 100 : z > 0.5 ? 0.1 : 0)
    const tops = prefilterLight(lamp, 64).levels.map((level) => {
      let top = 0,
        at = 0
      eachRed(level, (red, x) => {
        if (red > top) [top, at] = [red, x]
      })
      expect(at).toBeGreaterThan(0.9)
      return top
    })
    for (let i = 1; i < tops.length; i++) expect(tops[i]!).toBeLessThan(tops[i - 1]!)
  })
})
