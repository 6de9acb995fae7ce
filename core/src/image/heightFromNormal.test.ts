import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { transformOf } from './fourier'
import { heightFromNormal } from './heightFromNormal'
import { normalFromHeight } from './normalPixels'
import type { Pixels } from './pixels'

describe('a Fourier transform', () => {
  it('is the sum that it stands for, at any length, and is taken back', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 40 }), fc.integer({ min: 1, max: 1e6 }), (n, seed) => {
        const values = Array.from({ length: n }, (_, k) => Math.sin(seed * (k + 1)))
        const other = Array.from({ length: n }, (_, k) => Math.cos(seed * (k + 2)))
        const re = Float64Array.from(values),
          im = Float64Array.from(other)
        const { forward, back } = transformOf(n)
        forward(re, im)
        for (let f = 0; f < n; f++) {
          let a = 0,
            b = 0
          for (let k = 0; k < n; k++) {
            const angle = (-2 * Math.PI * f * k) / n
            a += values[k]! * Math.cos(angle) - other[k]! * Math.sin(angle)
            b += values[k]! * Math.sin(angle) + other[k]! * Math.cos(angle)
          }
          expect(re[f]).toBeCloseTo(a, 8)
          expect(im[f]).toBeCloseTo(b, 8)
        }
        back(re, im)
        for (let k = 0; k < n; k++) expect(re[k]).toBeCloseTo(values[k]!, 10)
      }),
    )
  })
})

/** A height map of 16 bits. */
function heightMap(width: number, height: number, at: (x: number, y: number) => number): Pixels {
  const data = new Uint16Array(width * height)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++) data[y * width + x] = Math.round(at(x, y) * 65_535)
  return { width, height, channels: 1, depth: 16, data }
}
/** Greatest difference of two heights, of the whole relief. */
function apart(found: Pixels, wanted: Pixels): number {
  const [low, high] = [Math.min(...wanted.data), Math.max(...wanted.data)]
  return [...wanted.data].reduce(
    (most, v, k) => Math.max(most, Math.abs((v - low) / (high - low) - found.data[k]! / 65_535)),
    0,
  )
}
const turn = 2 * Math.PI

describe('the height of a normal map', () => {
  it('is the one that the map was made of, as deep as it was, whichever way green points', () => {
    // Waves that go on at the other side; 96 is no power of two
    const wanted = heightMap(
      96,
      64,
      (x, y) =>
        0.5 + 0.3 * Math.sin((turn * 2 * x) / 96 + (turn * y) / 64) + 0.1 * Math.cos((turn * 3 * y) / 64),
    )
    const relief = (Math.max(...wanted.data) - Math.min(...wanted.data)) / 65_535
    for (const green of ['up', 'down'] as const) {
      const map = normalFromHeight(wanted, { strength: 6, edge: 'wrap', green })
      const found = heightFromNormal(map, { edge: 'wrap', green })
      expect(apart(found.pixels, wanted)).toBeLessThan(0.02)
      expect(found.relief / (relief * 6)).toBeGreaterThan(0.98)
      expect(found.relief / (relief * 6)).toBeLessThan(1.02)
    }
  })
  it('ends where the map does, where that is asked for', () => {
    // A ramp with a wave: at the other side it would not go on
    const wanted = heightMap(64, 48, (x, y) => 0.1 + (0.6 * x) / 64 + 0.1 * Math.cos((turn * y) / 48))
    const map = normalFromHeight(wanted, { strength: 5, edge: 'clamp', green: 'up' })
    expect(apart(heightFromNormal(map, { edge: 'mirror', green: 'up' }).pixels, wanted)).toBeLessThan(0.03)
    // Wrapped, the whole ramp is lost
    expect(apart(heightFromNormal(map, { edge: 'wrap', green: 'up' }).pixels, wanted)).toBeGreaterThan(0.2)
  })
  it('is level where the map is flat', () => {
    const flat: Pixels = {
      width: 8,
      height: 8,
      channels: 3,
      depth: 8,
      data: new Uint8Array(192).map((_, k) => (k % 3 === 2 ? 255 : 128)),
    }
    const { pixels, relief } = heightFromNormal(flat, { edge: 'mirror', green: 'up' })
    // 128 of 255 leans by half a step: eight texels of it, both ways
    expect(relief).toBeLessThan((8 + 8) / 255)
    expect(pixels).toMatchObject({ width: 8, height: 8, channels: 1, depth: 16 })
  })
})
