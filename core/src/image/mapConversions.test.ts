import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pixelsOf, rollingNormal } from '../fixtures'
import { toEightBits, withAlphaOf, withDetail, withRange, withStrength, withThird } from './mapConversions'

const stored = (v: number): number => Math.round((v + 1) * 127.5)
const one = (x: number, y: number, z: number) => pixelsOf(1, 1, 3, () => [stored(x), stored(y), stored(z)])
const slopeOf = ({ data }: { data: ArrayLike<number> }): number =>
  (data[0]! / 127.5 - 1) / (data[2]! / 127.5 - 1)
const biggest = (a: ArrayLike<number>, b: ArrayLike<number>): number =>
  Math.max(...Array.from(a, (v, k) => Math.abs(v - b[k]!)))

describe('values in another range', () => {
  it('lie between least and most, in one channel or in all but alpha', () => {
    const row = pixelsOf(3, 1, 4, (x) => [[0, 100, 255][x]!, 10, 20, 77])
    expect([...withRange(row, 0, 0.2, 0.6).data]).toEqual([51, 10, 20, 77, 91, 10, 20, 77, 153, 10, 20, 77])
    expect([...withRange(row, null, 0.5, 0.5).data]).toEqual(Array(3).fill([128, 128, 128, 77]).flat())
  })
  it('are turned round where least is above most, and back again', () => {
    const row = pixelsOf(16, 1, 1, (x) => [x * 17])
    expect([...withRange(withRange(row, null, 1, 0), null, 1, 0).data]).toEqual([...row.data])
  })
})

describe('strength of a normal map', () => {
  it('multiplies slopes: 30° twice as steep are atan(2 tan 30°)', () => {
    const lean = one(0.5, 0, Math.sqrt(0.75))
    expect(slopeOf(withStrength(lean, 2))).toBeCloseTo(2 * Math.tan(Math.PI / 6), 1)
    expect([...withStrength(lean, 0).data]).toEqual([128, 128, 255])
  })
  it('of 1 changes nothing but rounding', () => {
    const map = rollingNormal(32, 'up')
    expect(biggest(withStrength(map, 1).data, map.data)).toBeLessThanOrEqual(1)
  })
})

describe('the third channel of a normal map', () => {
  it('is what the first two leave', () => {
    const map = rollingNormal(32, 'up')
    const two = pixelsOf(32, 32, 2, (x, y) => [map.data[(y * 32 + x) * 3]!, map.data[(y * 32 + x) * 3 + 1]!])
    expect(biggest(withThird(two).data, map.data)).toBeLessThanOrEqual(2)
    expect([...withThird(pixelsOf(1, 1, 2, () => [255, 255])).data]).toEqual([255, 255, 128])
  })
})

describe('a detail over a base', () => {
  const flat = pixelsOf(8, 8, 3, () => [128, 128, 255])
  it('is the base where the detail is flat, and the detail where the base is', () => {
    const map = rollingNormal(8, 'up')
    expect(biggest(withDetail(map, flat, 1, 1).data, map.data)).toBeLessThanOrEqual(2)
    expect(biggest(withDetail(flat, map, 1, 1).data, map.data)).toBeLessThanOrEqual(2)
  })
  it('adds angles about one axis: 20° over 30° lean by 50°', () => {
    const at = (degrees: number) => {
      const a = (degrees * Math.PI) / 180
      return one(Math.sin(a), 0, Math.cos(a))
    }
    const { data } = withDetail(at(30), at(20), 1, 1)
    expect((Math.atan2(data[0]! / 127.5 - 1, data[2]! / 127.5 - 1) * 180) / Math.PI).toBeCloseTo(50, 0)
  })
  it('repeats, and counts as much as its strength', () => {
    const half = pixelsOf(2, 1, 3, (x) => (x ? [200, 128, 230] : [128, 128, 255]))
    const wide = pixelsOf(8, 1, 3, () => [128, 128, 255])
    const red = [...withDetail(wide, half, 2, 1).data].filter((_, k) => k % 3 === 0)
    expect(red.map((v) => v > 150)).toEqual([false, false, true, true, false, false, true, true])
    expect(biggest(withDetail(wide, half, 2, 0).data, wide.data)).toBeLessThanOrEqual(1)
  })
})

describe('alpha of the picture itself', () => {
  it('is the grey as the eye takes it, or one channel; inverted where that is asked', () => {
    const red = pixelsOf(1, 1, 3, () => [255, 0, 0])
    // 0.2126 of the light is sRGB 0.4984
    expect([...withAlphaOf(red, 'grey', false).data]).toEqual([255, 0, 0, 127])
    expect([...withAlphaOf(red, 0, true).data]).toEqual([255, 0, 0, 0])
    expect([
      ...withAlphaOf(
        pixelsOf(1, 1, 1, () => [90]),
        'grey',
        false,
      ).data,
    ]).toEqual([90, 90])
  })
})

describe('16 bits as 8', () => {
  it('keep the mean of a soft slope, where plain rounding makes steps', () => {
    const slope = pixelsOf(256, 64, 1, (x) => [Math.round(100 * 257 + (x / 256) * 257)], 16)
    const { data, depth } = toEightBits(slope)
    expect(depth).toBe(8)
    const mean = (from: number, to: number): number => {
      let sum = 0
      for (let y = 0; y < 64; y++) for (let x = from; x < to; x++) sum += data[y * 256 + x]!
      return sum / (64 * (to - from))
    }
    expect(mean(0, 64)).toBeCloseTo(100.125, 1)
    expect(mean(192, 256)).toBeCloseTo(100.875, 1)
  })
  it('keep nothing and full, give the same each time, and leave 8 bits alone', () => {
    fc.assert(
      fc.property(fc.integer({ min: 0, max: 65535 }), (v) => {
        const deep = pixelsOf(4, 4, 1, () => [v], 16)
        const a = toEightBits(deep).data
        expect([...toEightBits(deep).data]).toEqual([...a])
        for (const w of a) expect(Math.abs(w - v / 257)).toBeLessThanOrEqual(1.5)
        if (v === 0 || v === 65535) expect([...new Set(a)]).toEqual([v / 257])
      }),
    )
    const plain = pixelsOf(2, 2, 1, () => [3])
    expect(toEightBits(plain)).toBe(plain)
  })
})
