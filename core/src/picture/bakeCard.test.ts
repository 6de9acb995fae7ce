import { describe, expect, it } from 'vitest'
import { pixelsOf } from '../fixtures/pngFixture'
import { bakeCard, cardAxes, type CardPiece, type CardView } from './bakeCard'

const SIDE = 8
const view: CardView = { left: -1, right: 1, bottom: 0, top: 2, middle: [0, 0], azimuth: 0 }
/** A square of 2 × 2 m that looks to +z, at a depth; u goes right, v down. */
const square = (z: number, factor: CardPiece['factor'], more: Partial<CardPiece> = {}): CardPiece => ({
  positions: Float32Array.from([-1, 2, z, -1, 0, z, 1, 0, z, 1, 2, z]),
  normals: null,
  uvs: Float32Array.from([0, 0, 0, 1, 1, 1, 1, 0]),
  indices: Uint32Array.from([0, 1, 2, 0, 2, 3]),
  factor,
  picture: null,
  cutoff: 0,
  ...more,
})
const RED = [1, 0, 0, 1] as const,
  GREEN = [0, 1, 0, 1] as const
const texel = (data: Uint8Array, size: number, x: number, y: number): number[] => [
  ...data.subarray((y * SIDE + x) * size, (y * SIDE + x) * size + size),
]

describe('what a card shows', () => {
  it('is what lies nearest to the viewer, with its normal in the space of the card', () => {
    const { colour, normal } = bakeCard([square(0, GREEN), square(0.5, RED)], view, SIDE, SIDE)
    for (let t = 0; t < SIDE * SIDE; t++)
      expect([...colour.subarray(t * 4, t * 4 + 4)]).toEqual([255, 0, 0, 255])
    expect(texel(normal, 3, 3, 3)).toEqual([128, 128, 255])
  })
  it('is seen from both sides: a face that looks away has its normal turned', () => {
    const { right } = cardAxes(Math.PI)
    expect(right[0]).toBeCloseTo(-1, 12)
    const { colour, normal } = bakeCard([square(0, RED)], { ...view, azimuth: Math.PI }, SIDE, SIDE)
    expect([texel(colour, 4, 2, 2), texel(normal, 3, 2, 2)]).toEqual([
      [255, 0, 0, 255],
      [128, 128, 255],
    ])
  })
  it('leans by its normals: up is green, right is red', () => {
    const up = Float32Array.from([0, 1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0]),
      right = Float32Array.from([1, 0, 0, 1, 0, 0, 1, 0, 0, 1, 0, 0])
    const normalOf = (normals: Float32Array) =>
      texel(bakeCard([square(0, RED, { normals })], view, SIDE, SIDE).normal, 3, 1, 1)
    expect(normalOf(up)).toEqual([128, 255, 128])
    expect(normalOf(right)).toEqual([255, 128, 128])
  })
  it('covers half where a triangle does, and goes on under what is clear', () => {
    const { colour } = bakeCard([square(0, RED, { indices: Uint32Array.from([0, 1, 2]) })], view, SIDE, SIDE)
    const alphas = Array.from({ length: SIDE * SIDE }, (_, t) => colour[t * 4 + 3]!)
    expect(alphas.reduce((a, b) => a + b) / 255 / alphas.length).toBeCloseTo(0.5, 1)
    expect(texel(colour, 4, 7, 0)).toEqual([255, 0, 0, 0])
    expect(texel(colour, 4, 0, 7)).toEqual([255, 0, 0, 255])
  })
  it('takes the picture where it is not cut out, times its factor in linear light', () => {
    const picture = pixelsOf(2, 2, 4, (x, y) => [200, 100, 50, x === 0 && y === 0 ? 255 : 0])
    const { colour } = bakeCard([square(0, [1, 1, 1, 1], { picture, cutoff: 0.5 })], view, SIDE, SIDE)
    expect(texel(colour, 4, 1, 1)).toEqual([200, 100, 50, 255])
    expect(texel(colour, 4, 6, 6)[3]).toBe(0)
    const half = bakeCard([square(0, [0.5, 0.5, 0.5, 1], { picture })], view, SIDE, SIDE)
    // sRGB 200 is 0.5776 in linear light; half of it is sRGB 146
    expect(texel(half.colour, 4, 6, 6)[0]).toBe(146)
  })
})
