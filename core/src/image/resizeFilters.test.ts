import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pixelsOf } from '../fixtures/pngFixture'
import { resizeFilters, resizePixels } from './resizePixels'

const line = (...values: number[]) => pixelsOf(values.length, 1, 1, (x) => [values[x]!])
const row = (
  picture: ReturnType<typeof line>,
  width: number,
  filter: (typeof resizeFilters)[number],
): number[] => [...resizePixels(picture, width, 1, 'linear', filter).data]

describe('the filters of a resize', () => {
  it('mean: each texel is the mean of what it covers, by shares where sides do not go into each other', () => {
    expect(row(line(0, 100, 200, 40), 2, 'mean')).toEqual([50, 120])
    // Three of four: the first covers one texel and a third of the next
    expect(row(line(0, 120, 240, 60), 3, 'mean')).toEqual([30, 180, 105])
    expect(row(line(10, 250), 4, 'mean')).toEqual([10, 10, 250, 250])
  })
  it('nearest: no value that was not there', () => {
    expect(row(line(1, 2, 3, 4), 2, 'nearest')).toEqual([2, 4])
    expect(row(line(7, 9), 4, 'nearest')).toEqual([7, 7, 9, 9])
    const ids = pixelsOf(8, 8, 3, (x, y) => [x * 30, y * 30, 255])
    const { data } = resizePixels(ids, 3, 5, 'srgb', 'nearest')
    for (let k = 0; k < data.length; k += 3)
      expect([data[k]! % 30, data[k + 1]! % 30, data[k + 2]]).toEqual([0, 0, 255])
  })
  it('mitchell weighs by hand: a step enlarged twice stays between its values but for a trace', () => {
    // At a quarter texel: k(¼), k(¾), k(5/4), k(7/4) of B = C = ⅓
    const k = (x: number): number =>
      x < 1
        ? (7 * x ** 3 - 12 * x ** 2 + 16 / 3) / 6
        : ((-7 / 3) * x ** 3 + 12 * x ** 2 - 20 * x + 32 / 3) / 6
    const weights = [k(1.75), k(0.75), k(0.25), k(1.25)]
    const sum = weights.reduce((a, b) => a + b, 0)
    expect(sum).toBeCloseTo(1, 10)
    const values = [0, 0, 240, 240]
    const wanted = weights.reduce((all, w, i) => all + w * values[i]!, 0) / sum
    // The fifth of eight texels lies a quarter of a texel before the third of four
    expect(row(line(0, 0, 240, 240), 8, 'mitchell')[4]).toBe(Math.round(wanted))
  })
  it('all leave one flat value as it is', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 0, max: 255 }),
        fc.integer({ min: 1, max: 9 }),
        fc.integer({ min: 1, max: 20 }),
        fc.constantFrom(...resizeFilters),
        (value, from, to, filter) => {
          const flat = pixelsOf(from, from, 3, () => [value, value, value])
          expect([...new Set(resizePixels(flat, to, to, 'srgb', filter).data)]).toEqual([value])
        },
      ),
    )
  })
})
