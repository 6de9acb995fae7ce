import { describe, expect, it } from 'vitest'
import { seededNumbers } from '../geometry/surfaceSamples'
import { CELL_WORDS, CELLS } from '../geometry/cellMask'
import type { Pixels } from './pixels'
import { normalMapEvidence } from './normalMapEvidence'
import { measureUsedTexels } from './usedTexels'

/** Bits of the cells for which `isOn` says so. */
function cellsWhere(isOn: (row: number, column: number) => boolean): Uint32Array {
  const bits = new Uint32Array(CELL_WORDS)
  for (let row = 0; row < CELLS; row++)
    for (let column = 0; column < CELLS; column++)
      if (isOn(row, column)) bits[(row * CELLS + column) >>> 5]! |= 1 << (column & 31)
  return bits
}
const leftHalf = cellsWhere((_, column) => column < CELLS / 2)
function picture(
  side: number,
  channels: number,
  at: (x: number, y: number) => readonly number[],
  depth: 8 | 16 = 8,
): Pixels {
  const data = depth === 8 ? new Uint8Array(side * side * channels) : new Uint16Array(side * side * channels)
  for (let y = 0; y < side; y++) for (let x = 0; x < side; x++) data.set(at(x, y), (y * side + x) * channels)
  return { width: side, height: side, channels, depth, data } as Pixels
}
/** A height field of two waves that cross as a normal map with green up. */
function relief(x: number, y: number): number[] {
  const [a, b] = [Math.cos(x / 5 + y / 7), Math.cos(x / 6 - y / 9 + 1)]
  const p = 0.8 * (a / 5 + b / 6),
    q = 0.8 * (a / 7 - b / 9)
  const length = Math.hypot(p, q, 1)
  return [-p, q, 1].map((v) => Math.round(((v / length + 1) / 2) * 255))
}

describe('the figures of a texture over what islands use', () => {
  it('are exact for channels, whatever stands beside', () => {
    const values = picture(512, 1, (x) => [x < 256 ? 100 + (x % 2) * 20 : 255])
    const used = measureUsedTexels(values, leftHalf, false)!
    expect(used.share).toBe(0.5)
    expect(used.channels[0]).toMatchObject({ min: 100 / 255, max: 120 / 255, mean: 110 / 255 })
    expect(used.channels[0]!.deviation).toBeCloseTo(10 / 255, 6)
    expect(used.channels[0]!.histogram[100]).toBe(128 * 512)
    expect(used.channels[0]!.histogram[255]).toBe(0)
    expect(used.range!.bright).toBe(0)
  })
  it('count texels by the cells that they lie on, in pictures of more texels and of fewer', () => {
    const shares = [64, 300, 1024].map(
      (side) =>
        measureUsedTexels(
          picture(side, 1, (x) => [x % 256]),
          leftHalf,
          false,
        )!.share,
    )
    shares.forEach((share) => expect(share).toBeCloseTo(0.5, 2))
    const quarter = cellsWhere((row, column) => row < CELLS / 2 && column < CELLS / 2)
    const deep = picture(128, 1, (x, y) => [x < 64 && y < 64 ? 30_000 : 65_535], 16)
    expect(measureUsedTexels(deep, quarter, false)!.channels[0]).toMatchObject({
      min: 30_000 / 65_535,
      max: 30_000 / 65_535,
    })
  })
  it('tell a normal map and its green where noise fills the rest, also in windows of a large picture', () => {
    for (const side of [512, 2048]) {
      const random = seededNumbers(3)
      const noise = (): number => Math.floor(random() * 256)
      const map = picture(side, 3, (x, y) => (x < side / 2 ? relief(x, y) : [noise(), noise(), noise()]))
      expect(normalMapEvidence(map)!.isNormalMap).toBeLessThan(0.5)
      const { normal, content, share } = measureUsedTexels(map, leftHalf, false)!
      expect(normal!.isNormalMap).toBeGreaterThan(0.95)
      expect(normal!.green.direction).toBe('up')
      expect(normal!.meanLength).toBeCloseTo(1, 2)
      expect(share).toBeCloseTo(0.5, 2)
      expect(content.used).toBeCloseTo(0.5, 1)
    }
  })
  it('leave a flat ground between the islands out, too', () => {
    const third = cellsWhere((_, column) => column < 96)
    const map = picture(512, 3, (x, y) => (x < 128 ? relief(x, y) : [0, 0, 0]))
    const { normal, content } = measureUsedTexels(map, third, false)!
    expect(normal!.shareFacingAway).toBe(0)
    // A quarter of the picture, without the border that lossy packing mixes
    expect(content.used).toBeGreaterThan(0.22)
    expect(content.used).toBeLessThan(0.26)
  })
  it('are none where hardly anything is used', () => {
    const flat = picture(512, 1, () => [7])
    expect(measureUsedTexels(flat, new Uint32Array(CELL_WORDS), false)).toBeNull()
    expect(
      measureUsedTexels(
        flat,
        cellsWhere((r, c) => r === 0 && c < 4),
        false,
      ),
    ).toBeNull()
  })
  it('read two channels as vectors where they are a pair', () => {
    const pair = picture(256, 2, (x, y) => relief(x, y).slice(0, 2))
    const used = measureUsedTexels(pair, leftHalf, true)!
    expect(used.channels.map((c) => c.name)).toEqual(['R', 'G'])
    expect(used.normal!.isNormalMap).toBeGreaterThan(0.9)
    expect(measureUsedTexels(pair, leftHalf, false)!.channels.map((c) => c.name)).toEqual(['grey', 'A'])
  })
})
