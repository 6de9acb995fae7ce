import { describe, expect, it } from 'vitest'
import { pixelsOf } from '../fixtures'
import { CELLS, CELL_WORDS } from '../geometry/cellMask'
import { comparePixels } from './comparePixels'
import { rowsOfWindow, usedRows } from './usedRows'

const noise = (shift: number) =>
  pixelsOf(16, 16, 3, (x, y) => [x * 9 + shift, y * 9, ((x * 7 + y * 13) % 50) + 90])

describe('how far a picture is from its source', () => {
  it('is nothing for the same picture', () => {
    expect(comparePixels(noise(0), noise(0), [0, 1, 2])).toEqual({
      psnr: [null, null, null],
      psnrAll: null,
      ssim: 1,
      angle: null,
      share: 1,
    })
  })
  it('is 20 log10 of 255 over the difference, by channel and over all', () => {
    const { psnr, psnrAll, ssim } = comparePixels(noise(0), noise(5), [0, 1, 2])
    expect(psnr[0]).toBeCloseTo(20 * Math.log10(255 / 5), 6)
    expect(psnr.slice(1)).toEqual([null, null])
    expect(psnrAll).toBeCloseTo(20 * Math.log10(255 / 5) + 10 * Math.log10(3), 6)
    expect(ssim).toBeLessThan(1)
  })
  it('looks at the channels that count, and at 16 bit on the same scale', () => {
    const deep = pixelsOf(4, 4, 1, () => [25_700], 16),
      plain = pixelsOf(4, 4, 1, () => [100])
    expect(comparePixels(deep, plain, [0]).psnrAll).toBeNull()
    expect(comparePixels(noise(0), noise(5), [1, 2]).psnrAll).toBeNull()
  })
  it('says angles of vectors, and finds the third of two', () => {
    const up = pixelsOf(10, 10, 3, () => [128, 128, 255])
    // One in ten leans by 30°
    const s = Math.round((Math.sin(Math.PI / 6) / 2 + 0.5) * 255),
      c = Math.round((Math.cos(Math.PI / 6) / 2 + 0.5) * 255)
    const leans = pixelsOf(10, 10, 3, (x) => (x === 0 ? [s, 128, c] : [128, 128, 255]))
    const angle = comparePixels(up, leans, [0, 1, 2], { vectors: true }).angle!
    expect(angle.most).toBeCloseTo(30, 0)
    expect(angle.mean).toBeCloseTo(3, 0)
    expect(angle.p95).toBeCloseTo(angle.most, 6)
    const two = pixelsOf(10, 10, 2, (x) => (x === 0 ? [s, 128] : [128, 128]))
    expect(comparePixels(leans, two, [0, 1], { vectors: true }).angle!.most).toBeLessThan(0.6)
  })
  it('counts where cells are used, and nowhere else', () => {
    // The left quarter is used; it differs by 2 there and by 100 elsewhere
    const cells = new Uint32Array(CELL_WORDS)
    for (let row = 0; row < CELLS; row++)
      for (let column = 0; column < CELLS / 4; column++)
        cells[(row * CELLS + column) >>> 5]! |= 1 << (column & 31)
    const ground = pixelsOf(32, 32, 1, (x, y) => [100 + ((x * 5 + y * 3) % 20)]),
      other = pixelsOf(32, 32, 1, (x, y) => [100 + ((x * 5 + y * 3) % 20) + (x < 8 ? 2 : 100)])
    const all = comparePixels(ground, other, [0]),
      used = comparePixels(ground, other, [0], { rows: usedRows(ground, cells) })
    expect(used.share).toBe(0.25)
    expect(used.psnrAll).toBeCloseTo(20 * Math.log10(255 / 2), 6)
    expect(all.psnrAll).toBeCloseTo(-10 * Math.log10((0.25 * 2 ** 2 + 0.75 * 100 ** 2) / 255 ** 2), 6)
    expect(used.ssim).toBeGreaterThan(all.ssim)
    // Nothing used: all of it is compared, and said to be
    const none = usedRows(ground, new Uint32Array(CELL_WORDS))
    expect(comparePixels(ground, other, [0], { rows: none })).toEqual(all)
  })
  it('has a likeness of structure even where islands are narrower than the steps between windows', () => {
    // One column of cells: no window of eight texels has its middle there
    const cells = new Uint32Array(CELL_WORDS)
    for (let row = 0; row < CELLS; row++) cells[(row * CELLS) >>> 5]! |= 1
    const picture = noise(0),
      worse = noise(40)
    const { ssim, share } = comparePixels(picture, worse, [0, 1, 2], { rows: usedRows(picture, cells) })
    expect(share).toBe(1 / 16)
    expect(ssim).toBe(comparePixels(picture, worse, [0, 1, 2]).ssim)
    expect(ssim).toBeLessThan(1)
  })
  it('counts in a window cut out of a picture what counts there in the whole', () => {
    const cells = new Uint32Array(CELL_WORDS)
    for (let row = 0; row < CELLS; row++)
      for (let column = 0; column < CELLS / 2; column++)
        cells[(row * CELLS + column) >>> 5]! |= 1 << (column & 31)
    const rows = rowsOfWindow(usedRows({ width: 32, height: 32 }, cells), { x: 12, y: 4, width: 8 })
    expect([...rows(0).columns]).toEqual([1, 1, 1, 1, 0, 0, 0, 0])
    expect(rows(0).runs).toEqual([[0, 4]])
  })
})
