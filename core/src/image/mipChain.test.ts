import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pixelsOf } from '../fixtures'
import { seededNumbers } from '../geometry/surfaceSamples'
import { coverage, mipChain } from './mipChain'
import { linearToSrgb } from './transferCurves'

const sizes = (width: number, height: number) =>
  mipChain(
    pixelsOf(width, height, 1, () => [7]),
    'linear',
  ).map((l) => [l.width, l.height])

describe('a chain of mips', () => {
  it('goes down to one texel, each side halved and rounded down', () => {
    expect(sizes(8, 2)).toEqual([
      [8, 2],
      [4, 1],
      [2, 1],
      [1, 1],
    ])
    expect(sizes(5, 3)).toEqual([
      [5, 3],
      [2, 1],
      [1, 1],
    ])
    expect(sizes(1, 1)).toEqual([[1, 1]])
  })
  it('mixes colour in linear light: half black, half white is sRGB 188', () => {
    const board = pixelsOf(2, 2, 3, (x, y) => ((x + y) % 2 ? [255, 255, 255] : [0, 0, 0]))
    expect([...mipChain(board, 'srgb')[1]!.data]).toEqual([188, 188, 188])
    expect(Math.round(linearToSrgb(0.5) * 255)).toBe(188)
    expect([...mipChain(board, 'linear')[1]!.data]).toEqual([128, 128, 128])
  })
  it('lets no colour in from where alpha is nothing', () => {
    const edge = pixelsOf(2, 1, 4, (x) => (x ? [255, 0, 0, 255] : [0, 255, 0, 0]))
    expect([...mipChain(edge, 'srgb')[1]!.data]).toEqual([255, 0, 0, 128])
  })
  it('keeps vectors unit long: two that lean 45° apart make one straight up', () => {
    const lean = Math.round((Math.SQRT1_2 / 2 + 0.5) * 255),
      back = 255 - lean
    const vectors = pixelsOf(2, 1, 3, (x) => [x ? lean : back, 128, lean])
    const [x, y, z] = mipChain(vectors, 'vectors')[1]!.data
    expect(x).toBeGreaterThanOrEqual(127)
    expect(x).toBeLessThanOrEqual(128)
    expect(y).toBe(128)
    expect(z).toBe(255)
  })
  it('of an odd side takes each texel by its share: 0 30 90 of three is their mean', () => {
    const row = pixelsOf(3, 1, 1, (x) => [[0, 30, 90][x]!])
    expect([...mipChain(row, 'linear')[1]!.data]).toEqual([40])
    // Of five: (2a + 2b + c) / 5 and (c + 2d + 2e) / 5
    const five = pixelsOf(5, 1, 1, (x) => [[10, 20, 60, 100, 200][x]!])
    expect([...mipChain(five, 'linear')[1]!.data]).toEqual([24, 132])
  })
  it('keeps what one flat value is, at any size and depth', () => {
    fc.assert(
      fc.property(fc.integer({ min: 1, max: 9 }), fc.integer({ min: 1, max: 9 }), fc.nat(255), (w, h, v) => {
        for (const meaning of ['srgb', 'linear'] as const)
          for (const level of mipChain(
            pixelsOf(w, h, 3, () => [v, v, v]),
            meaning,
          ))
            expect([...new Set(level.data)]).toEqual([v])
      }),
    )
  })
  it('keeps what a cutout draws, where a plain mean thins it out', () => {
    // Thin leaves: three texels in ten, spread by chance
    const random = seededNumbers(11)
    const leaves = pixelsOf(64, 64, 4, () => [80, 120, 40, random() < 0.3 ? 255 : 0])
    const share = coverage(leaves, 0.5)
    const plain = mipChain(leaves, 'srgb'),
      kept = mipChain(leaves, 'srgb', 0.5)
    expect(coverage(plain[2]!, 0.5)).toBeLessThan(share / 2)
    for (const level of kept.slice(0, 5)) expect(Math.abs(coverage(level, 0.5) - share)).toBeLessThan(0.08)
  })
})
