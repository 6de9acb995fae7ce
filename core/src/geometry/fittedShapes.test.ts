import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { outOfHull, convexHull } from './convexHull'
import { cylinderMesh, turnedBoxMesh } from './fittedShapes'

/** The corners of a box of 4 × 1 × 2 m, turned about an axis. */
function turned(axis: 0 | 1 | 2, angle: number): Float32Array {
  const [i, j] = [(axis + 1) % 3, (axis + 2) % 3] as const
  return Float32Array.from(
    [0, 1, 2, 3, 4, 5, 6, 7].flatMap((n) => {
      const p = [n & 1 ? 2 : -2, n & 2 ? 0.5 : -0.5, n & 4 ? 1 : -1]
      const [u, v] = [p[i]!, p[j]!]
      p[i] = Math.cos(angle) * u - Math.sin(angle) * v
      p[j] = Math.sin(angle) * u + Math.cos(angle) * v
      return p
    }),
  )
}
const axes = [0, 1, 2] as const

describe('a turned box', () => {
  it.each(axes)('is the box itself, however it is turned about axis %i', (axis) => {
    // By little, boxes about the other axes are nearly as small
    for (const angle of [0, 0.03, 0.3, 0.77, 1.2]) {
      const mesh = turnedBoxMesh(turned(axis, angle))!
      expect(mesh.volume).toBeCloseTo(8, 2)
      expect(mesh.positions).toHaveLength(24)
    }
  })
  it('is not turned where that saves nothing, and not there without a volume', () => {
    const { positions } = turnedBoxMesh(turned(1, 0))!
    for (const v of positions) expect([0.5, 1, 2].some((w) => Math.abs(Math.abs(v) - w) < 1e-6)).toBe(true)
    expect(turnedBoxMesh([0, 0, 0, 1, 0, 0, 0, 0, 1, 1, 0, 1])).toBeNull()
  })
  it('holds every point', () => {
    const coordinate = fc.double({ min: -5, max: 5, noNaN: true })
    fc.assert(
      fc.property(fc.array(coordinate, { minLength: 30, maxLength: 120 }), (numbers) => {
        const points = Float32Array.from(numbers.slice(0, numbers.length - (numbers.length % 3)))
        for (const make of [turnedBoxMesh, cylinderMesh]) {
          const mesh = make(points)
          const hull = mesh && convexHull(mesh.positions)
          if (!hull) continue
          for (let k = 0; k < points.length; k += 3)
            expect(outOfHull(hull, points[k]!, points[k + 1]!, points[k + 2]!)).toBeLessThan(1e-3)
        }
      }),
      { numRuns: 40 },
    )
  })
})

describe('a cylinder', () => {
  it('touches the circle with its sides: a prism of twelve sides around it', () => {
    const ring = Array.from({ length: 360 }, (_, i) => (i / 360) * 2 * Math.PI).flatMap((a) => [
      ...[Math.cos(a), 0, Math.sin(a)],
      ...[Math.cos(a), 3, Math.sin(a)],
    ])
    const mesh = cylinderMesh(ring)!
    // A regular polygon of n sides around a circle of radius 1 has a surface of n · tan(π / n)
    expect(mesh.volume).toBeCloseTo(3 * 12 * Math.tan(Math.PI / 12), 2)
    expect(mesh.positions).toHaveLength(24 * 3)
    expect(cylinderMesh([0, 0, 0, 1, 0, 0])).toBeNull()
  })
})
