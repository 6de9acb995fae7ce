import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pixelsOf } from '../fixtures/pngFixture'
import { byteSums } from './byteSums'
import { channelStatistics } from './channelStatistics'

describe('sums of bytes', () => {
  it('are those of adding one by one, for every number of channels and every length', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 4 }),
        fc.integer({ min: 1, max: 9000 }),
        fc.integer(),
        fc.integer({ min: 1, max: 255 }),
        (channels, texels, seed, most) => {
          const data = Uint8Array.from(
            { length: texels * channels },
            (_, k) => Math.abs(Math.imul(seed + k, 2654435761) >> 7) % (most + 1),
          )
          byteSums(data, channels).sums.forEach((found, c) => {
            const values = data.filter((_, k) => k % channels === c)
            expect(found).toEqual({
              least: values.reduce((a, b) => Math.min(a, b), 255),
              greatest: values.reduce((a, b) => Math.max(a, b), 0),
              sum: values.reduce((a, b) => a + b, 0),
              squares: values.reduce((a, b) => a + b * b, 0),
            })
          })
        },
      ),
      { numRuns: 60 },
    )
  })
  it('hold the greatest value everywhere', () => {
    expect(byteSums(new Uint8Array(200_000).fill(255), 1).sums).toEqual([
      { least: 255, greatest: 255, sum: 255 * 200_000, squares: 255 ** 2 * 200_000 },
    ])
  })
})

describe('channels of a large picture', () => {
  // 2304² texels: slopes, a fine pattern, and one texel that nothing else has
  const side = 2304
  const picture = pixelsOf(side, side, 3, (x, y) => [
    Math.floor((x / side) * 200) + 20,
    (x ^ y) & 255,
    x === 1111 && y === 777 ? 3 : y < side / 4 ? 40 : 90,
  ])
  const channels = channelStatistics(picture)
  const whole = [0, 1, 2].map((c) => {
    const histogram = new Array<number>(256).fill(0)
    for (let k = c; k < picture.data.length; k += 3) histogram[picture.data[k]!]!++
    return histogram
  })
  it('have exact extremes, means and deviations, to the one odd texel', () => {
    expect(channels.map((c) => [c.min * 255, c.max * 255])).toEqual([
      [20, 219],
      [0, 255],
      [3, 90],
    ])
    channels.forEach((c, i) => {
      const n = side * side,
        mean = whole[i]!.reduce((sum, count, v) => sum + count * v, 0) / n
      expect(c.mean * 255).toBeCloseTo(mean, 9)
      expect(c.deviation * 255).toBeCloseTo(
        Math.sqrt(whole[i]!.reduce((sum, count, v) => sum + count * (v - mean) ** 2, 0) / n),
        6,
      )
    })
  })
  it('have the histogram of a sixteenth, within its bound of the full count', () => {
    const runs = Math.floor((side * side) / (96 * 16)),
      bound = 3 * Math.sqrt(0.25 / runs)
    channels.forEach((c, i) => {
      const sampled = c.histogram.reduce((a, b) => a + b, 0)
      expect(sampled).toBe(runs * 96)
      for (const [from, to] of [
        [0, 50],
        [50, 128],
        [80, 256],
      ] as const) {
        const share = (h: readonly number[], total: number): number =>
          h.slice(from, to).reduce((a, b) => a + b, 0) / total
        expect(Math.abs(share(c.histogram, sampled) - share(whole[i]!, side * side))).toBeLessThan(bound)
      }
    })
    expect(channelStatistics(picture)).toEqual(channels)
  })
})
