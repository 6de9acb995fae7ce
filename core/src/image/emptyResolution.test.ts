import { describe, expect, it } from 'vitest'
import { pixelsOf } from '../fixtures'
import { seededNumbers } from '../geometry/surfaceSamples'
import { emptyResolution } from './emptyResolution'
import { resizePixels } from './resizePixels'

const noise = (side: number) => {
  const random = seededNumbers(5)
  return pixelsOf(side, side, 3, () => [random() * 255, random() * 255, random() * 255].map(Math.round))
}
/** Detail that a picture of this size just carries. */
const soft = (side: number) => resizePixels(noise(side / 2), side, side, 'linear')
/** One cosine of so many half waves over 32 texels, with an amplitude of values. */
const wave = (halves: number, amplitude: number) =>
  pixelsOf(64, 64, 1, (x) => [
    Math.round(128 + amplitude * Math.cos((Math.PI * (2 * (x % 32) + 1) * halves) / 64)),
  ])

describe('resolution that carries nothing', () => {
  it('is none where texels differ from their neighbours', () => {
    expect(emptyResolution(noise(64))).toEqual({ times: 1, psnr: null, worst: null })
    expect(emptyResolution(soft(128)).times).toBe(1)
  })
  it('is found where a picture was blown up, and how far', () => {
    const soft2 = emptyResolution(resizePixels(soft(64), 256, 256, 'linear'))
    expect(soft2.times).toBe(2)
    expect(soft2.psnr).toBeGreaterThan(45)
    expect(soft2.worst!).toBeLessThanOrEqual(soft2.psnr!)
    expect(emptyResolution(resizePixels(soft(64), 1024, 1024, 'linear')).times).toBeGreaterThanOrEqual(4)
  })
  it('is by the waves that a smaller picture has room for: 15 of 32 halves fit into half of it, 17 do not', () => {
    expect(emptyResolution(wave(15, 60)).times).toBe(2)
    expect(emptyResolution(wave(17, 60)).times).toBe(1)
    expect(emptyResolution(wave(7, 60)).times).toBe(4)
  })
  it('is told in dB of what is lost: a wave of height a loses 10 log of its half squared', () => {
    // Two halves fit into an eighth; 17 do not fit into half, and are 0.3 % of the whole
    const both = pixelsOf(64, 64, 1, (x) => {
      const at = (halves: number): number => Math.cos((Math.PI * (2 * (x % 32) + 1) * halves) / 64)
      return [Math.round(128 + 100 * at(2) + 1.5 * at(17))]
    })
    const { times, psnr } = emptyResolution(both)
    expect(times).toBe(8)
    // Rounding to whole values adds some noise of its own
    expect(psnr!).toBeLessThan(-10 * Math.log10((1.5 / 255) ** 2 / 2))
    expect(psnr!).toBeGreaterThan(-10 * Math.log10((1.5 / 255) ** 2 / 2) - 1)
  })
  it('is not said of a map of low contrast, whose detail is all that it has', () => {
    const random = seededNumbers(9)
    expect(emptyResolution(pixelsOf(64, 64, 1, () => [128 + Math.round(random())])).times).toBe(1)
  })
  it('is not said where one small thing would be lost, on a large picture either', () => {
    const blown = resizePixels(soft(64), 256, 256, 'linear')
    for (let y = 100; y < 108; y++)
      for (let x = 40; x < 48; x++) blown.data[(y * 256 + x) * 3] = (x + y) % 2 ? 255 : 0
    expect(emptyResolution(blown).times).toBe(1)
    const large = pixelsOf(1536, 1024, 1, (x, y) => [Math.round(100 + x / 20 + y / 20)])
    expect(emptyResolution(large).times).toBe(8)
    for (let k = 0; k < 12; k++) large.data[700 * 1536 + 801 + k * 2] = 255
    expect(emptyResolution(large).times).toBe(1)
  })
  it('is the same for 16 bit, and not looked for in what is smaller than a window', () => {
    const deep = pixelsOf(
      64,
      64,
      1,
      (x) => [Math.round(30_000 + 9000 * Math.cos((Math.PI * (2 * (x % 32) + 1) * 15) / 64))],
      16,
    )
    expect(emptyResolution(deep).times).toBe(2)
    expect(emptyResolution(pixelsOf(31, 200, 1, () => [7])).times).toBe(1)
  })
})
