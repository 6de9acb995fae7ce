import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { convexHull, outOfHull } from './convexHull'
import { boxMesh, hullMesh, type HullMesh } from './hullMesh'

/** Six times the volume, above 0 where all faces look outward. */
const sixVolumes = ({ positions: p, indices }: HullMesh): number => {
  let sum = 0
  for (let t = 0; t < indices.length; t += 3) {
    const [a, b, c] = [0, 1, 2].map((k) => indices[t + k]! * 3) as [number, number, number]
    sum +=
      p[a]! * (p[b + 1]! * p[c + 2]! - p[b + 2]! * p[c + 1]!) +
      p[a + 1]! * (p[b + 2]! * p[c]! - p[b]! * p[c + 2]!) +
      p[a + 2]! * (p[b]! * p[c + 1]! - p[b + 1]! * p[c]!)
  }
  return sum
}
const cube = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((n) => [n & 1, (n >> 1) & 1, (n >> 2) & 1])

describe('a hull as a mesh', () => {
  it('of a cube is the cube: 8 corners, 12 triangles that face outward, volume 1', () => {
    const hull = hullMesh([...cube, 0.5, 0.5, 0.5], 64)!
    expect([hull.positions.length / 3, hull.indices.length / 3]).toEqual([8, 12])
    expect(sixVolumes(hull)).toBeCloseTo(6, 6)
    expect(sixVolumes(boxMesh(cube)!)).toBeCloseTo(6, 6)
  })
  it('is none of what lies in a plane, on a line or at one point', () => {
    const flat = [0, 0, 0, 1, 0, 0, 1, 0, 1, 0, 0, 1, 0.4, 0, 0.2]
    expect(hullMesh(flat, 32)).toBeNull()
    expect(boxMesh(flat)).toBeNull()
    expect(hullMesh([0, 0, 0, 1, 1, 1, 2, 2, 2, 3, 3, 3, 4, 4, 4], 32)).toBeNull()
    expect(hullMesh(Array(30).fill(2), 32)).toBeNull()
    // Nearer to each other than the smallest number that is not 0 in half its digits
    const specks = [0, 7e-46, 0, 0, 2e-45, 0, 0, 0, 0, 0, 5.5e-41, 0, 1e-45, 0, 3e-45]
    expect(hullMesh(specks, 32)).toBeNull()
    expect(convexHull(Float32Array.from(specks))).toBeNull()
  })
  it('holds a point that nearly touches another, and what lies behind them', () => {
    const points = [
      ...[0, 0, 0, -0.00010000000111176632, 3.8550587892532353, 0],
      ...[0, -6.1060078891797325e-15, 0, 0.3112792819738388, 0, 0, 0, 0, -4.999999761581421],
    ]
    const whole = convexHull(Float32Array.from(points))!
    for (let k = 0; k < points.length; k += 3)
      expect(outOfHull(whole, points[k]!, points[k + 1]!, points[k + 2]!)).toBeLessThan(1e-6)
    expect(whole.volume).toBeCloseTo((0.31127928 * 3.85505879 * 5) / 6, 5)
    expect(whole.corners).toBe(4)
  })
  it('lies in the hull of all points, has no more corners than are asked for, and is closed', () => {
    const point = fc.tuple(...[0, 1, 2].map(() => fc.double({ min: -5, max: 5, noNaN: true })))
    fc.assert(
      fc.property(
        fc.array(point, { minLength: 8, maxLength: 60 }),
        fc.integer({ min: 8, max: 40 }),
        (all, most) => {
          const points = Float32Array.from(all.flat())
          const whole = convexHull(points),
            mesh = hullMesh(points, most)
          if (!whole || whole.volume < 1 || !mesh) return
          expect(mesh.positions.length / 3).toBeLessThanOrEqual(most)
          expect(sixVolumes(mesh) / 6).toBeLessThanOrEqual(whole.volume * (1 + 1e-5))
          for (let k = 0; k < mesh.positions.length; k += 3)
            expect(
              outOfHull(whole, mesh.positions[k]!, mesh.positions[k + 1]!, mesh.positions[k + 2]!),
            ).toBeLessThan(1e-4)
          const edges = new Map<string, number>()
          for (let t = 0; t < mesh.indices.length; t += 3)
            for (const [i, j] of [
              [0, 1],
              [1, 2],
              [2, 0],
            ] as const) {
              const [a, b] = [mesh.indices[t + i]!, mesh.indices[t + j]!]
              const key = a < b ? `${a} ${b}` : `${b} ${a}`
              edges.set(key, (edges.get(key) ?? 0) + (a < b ? 1 : -1))
            }
          expect([...edges.values()].every((n) => n === 0)).toBe(true)
        },
      ),
    )
  })
})
