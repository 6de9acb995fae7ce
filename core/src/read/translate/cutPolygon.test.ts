import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { cutPolygon } from './cutPolygon'

type Point = [number, number, number]
const cut = (...corners: Point[]): Point[][] => {
  const numbers = cutPolygon(corners.flat())
  return Array.from({ length: numbers.length / 3 }, (_, t) =>
    [0, 1, 2].map((i) => corners[numbers[t * 3 + i]!]!),
  )
}
/** The triangles, whichever of them comes first and at whichever corner each begins. */
const shape = (triangles: Point[][]): string[] =>
  triangles.map((t) => t.map(String).sort().join(' | ')).sort()
const areaOf = ([a, b, c]: Point[]): number =>
  ((b![0] - a![0]) * (c![1] - a![1]) - (b![1] - a![1]) * (c![0] - a![0])) / 2
const turned = <T>(list: readonly T[], by: number): T[] => [...list.slice(by), ...list.slice(0, by)]

describe('a polygon as triangles', () => {
  it('a quad is cut along its shorter diagonal', () => {
    const kite: Point[] = [
      [0, 0, 0],
      [3, -1, 0],
      [6, 0, 0],
      [3, 1, 0],
    ]
    expect(cut(...kite)).toEqual([
      [kite[0], kite[1], kite[3]],
      [kite[1], kite[2], kite[3]],
    ])
  })
  it('a square along the diagonal with the corner that comes first, wherever it begins', () => {
    const square: Point[] = [
      [0, 0, 0],
      [1, 0, 0],
      [1, 1, 0],
      [0, 1, 0],
    ]
    const wanted = shape(cut(...square))
    expect(wanted).toEqual(['0,0,0 | 0,1,0 | 1,1,0', '0,0,0 | 1,0,0 | 1,1,0'])
    for (const by of [1, 2, 3]) expect(shape(cut(...turned(square, by)))).toEqual(wanted)
  })
  it('a quad with a dent along the diagonal that lies inside it', () => {
    const dart: Point[] = [
      [0, 0, 0],
      [4, 1, 0],
      [0, 2, 0],
      [1, 1, 0],
    ]
    for (const by of [0, 1, 2, 3]) {
      const triangles = cut(...turned(dart, by))
      expect(triangles.every((t) => areaOf(t) > 0)).toBe(true)
      expect(triangles.reduce((sum, t) => sum + areaOf(t), 0)).toBeCloseTo(3)
    }
  })
  it('an L of six corners covers its area once, none of it turned over', () => {
    const l: Point[] = [
      [0, 0, 5],
      [2, 0, 5],
      [2, 1, 5],
      [1, 1, 5],
      [1, 2, 5],
      [0, 2, 5],
    ]
    for (const by of [0, 1, 2, 3, 4, 5]) {
      const triangles = cut(...turned(l, by))
      expect(triangles).toHaveLength(4)
      expect(triangles.every((t) => areaOf(t) > 0)).toBe(true)
      expect(triangles.reduce((sum, t) => sum + areaOf(t), 0)).toBeCloseTo(3)
    }
  })
  it('has two triangles fewer than corners, and turns the way the polygon does, in any plane', () => {
    const angle = fc.double({ min: 0, max: 6.28, noNaN: true })
    fc.assert(
      fc.property(fc.integer({ min: 3, max: 9 }), angle, angle, fc.nat(8), (count, lean, spin, by) => {
        const corners = Array.from({ length: count }, (_, i): Point => {
          const a = (i / count) * Math.PI * 2 + spin
          const [x, y] = [Math.cos(a) * 2, Math.sin(a)]
          return [x, y * Math.cos(lean), y * Math.sin(lean)]
        })
        const triangles = cut(...corners)
        expect(triangles).toHaveLength(count - 2)
        const normal: Point = [0, -Math.sin(lean), Math.cos(lean)]
        for (const [a, b, c] of triangles as [Point, Point, Point][]) {
          const u = b.map((v, i) => v - a[i]!),
            v = c.map((w, i) => w - a[i]!)
          const cross = [
            u[1]! * v[2]! - u[2]! * v[1]!,
            u[2]! * v[0]! - u[0]! * v[2]!,
            u[0]! * v[1]! - u[1]! * v[0]!,
          ]
          expect(cross.reduce((sum, w, i) => sum + w * normal[i]!, 0)).toBeGreaterThan(-1e-9)
        }
        expect(shape(cut(...turned(corners, by % count)))).toEqual(shape(triangles))
      }),
    )
  })
  it('keeps what has no area or too few corners apart', () => {
    expect(cutPolygon([0, 0, 0, 1, 0, 0])).toEqual([])
    expect(cutPolygon([0, 0, 0, 1, 0, 0, 2, 0, 0, 3, 0, 0])).toHaveLength(6)
    expect(cutPolygon([0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0])).toHaveLength(9)
  })
})
