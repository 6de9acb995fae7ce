import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { isPowerOfTwo } from '../image/powerOfTwo'
import { sizeThatFits } from './targetSizes'

const fits = (
  width: number,
  height: number,
  more: Partial<Parameters<typeof sizeThatFits>[1]> = {},
): [number, number] => {
  const size = sizeThatFits({ width, height }, { size: 'multiple-of-four', limit: 2048, block: 4, ...more })
  return [size.width, size.height]
}

describe('the size that a target takes', () => {
  it('is its own where that fits', () => {
    expect(fits(2048, 512)).toEqual([2048, 512])
    expect(fits(2048, 512, { size: 'power-of-two' })).toEqual([2048, 512])
  })
  it('is scaled alike on both sides where one is too large', () => {
    expect(fits(4096, 1024)).toEqual([2048, 512])
    expect(fits(3000, 1500)).toEqual([2048, 1024])
  })
  it('is the nearest power of two, and never one above the limit', () => {
    expect(fits(300, 500, { size: 'power-of-two' })).toEqual([256, 512])
    // Twice the square root of two lies between 2 and 4 times: it is nearer to 4 above 362
    expect(fits(362, 363, { size: 'power-of-two' })).toEqual([256, 512])
    expect(fits(1900, 1900, { size: 'power-of-two', limit: 1900 })).toEqual([1024, 1024])
  })
  it('is of whole blocks where they are of 4 × 4, and as it is where not', () => {
    expect(fits(301, 2)).toEqual([300, 4])
    expect(fits(301, 2, { block: 6 })).toEqual([301, 2])
    expect(fits(2, 1, { block: 6, size: 'power-of-two' })).toEqual([2, 1])
    expect(fits(2, 64, { size: 'power-of-two' })).toEqual([4, 64])
  })
  it('fits, whatever it is; and fits again as it is', () => {
    const side = fc.integer({ min: 1, max: 20_000 })
    fc.assert(
      fc.property(side, side, fc.integer({ min: 64, max: 8192 }), fc.boolean(), (w, h, limit, power) => {
        const more = { limit, size: power ? ('power-of-two' as const) : ('multiple-of-four' as const) }
        const [width, height] = fits(w, h, more)
        expect(Math.max(width, height)).toBeLessThanOrEqual(limit)
        if (power) expect(isPowerOfTwo(width) && isPowerOfTwo(height)).toBe(true)
        else expect([width % 4, height % 4]).toEqual([0, 0])
        expect(fits(width, height, { ...more, limit: Math.max(limit, width, height) })).toEqual([
          width,
          height,
        ])
      }),
    )
  })
})
