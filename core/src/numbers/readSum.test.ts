import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readSum } from './readSum'

describe('what is typed into a field of numbers', () => {
  it.each([
    ['0.5', 0.5],
    ['0,5', 0.5],
    ['.5', 0.5],
    ['2*0.3', 0.6],
    ['1 + 2 * 3', 7],
    ['(1 + 2) * 3', 9],
    ['10 - 4 - 3', 3],
    ['16 / 4 / 2', 2],
    ['-2 − -3', 1],
    ['50 %', 0.5],
    ['12 mm + 4 cm', 0.052],
    ['1.5e-3', 0.0015],
    ['45°', 45],
    ['3 × 2', 6],
  ])('%s is %d', (text, value) => expect(readSum(text)).toBeCloseTo(value, 12))

  it.each(['', ' ', 'two', '1 +', '(1', '1)', '1 2', '1 / 0', '2 ** 3', 'alert(1)', '1;2', '5 miles'])(
    '%s is no sum',
    (text) => expect(readSum(text)).toBeNull(),
  )
  it('gives a written number back, and never throws', () => {
    fc.assert(
      fc.property(fc.double({ noNaN: true, noDefaultInfinity: true, min: -1e15, max: 1e15 }), (n) => {
        expect(readSum(String(n))).toBe(n === 0 ? 0 : n)
      }),
    )
    fc.assert(
      fc.property(fc.string(), (text) => {
        const value = readSum(text)
        return value === null || Number.isFinite(value)
      }),
    )
  })
})
