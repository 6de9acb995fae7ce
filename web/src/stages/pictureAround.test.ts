import { DataUtils } from 'three'
import { describe, expect, it } from 'vitest'
import { lightOfPicture, type PictureAround } from './pictureAround'
import { directionOf, skyLight } from './skyLight'

/** Red is what it is told to be, by column and row from the top; green and blue are none. */
function pictureOf(
  width: number,
  height: number,
  red: (x: number, y: number) => number,
  fromFoot = false,
): PictureAround {
  const data = new Uint16Array(width * height * 4)
  for (let y = 0; y < height; y++)
    for (let x = 0; x < width; x++)
      data[((fromFoot ? height - 1 - y : y) * width + x) * 4] = DataUtils.toHalfFloat(red(x, y))
  return { data, width, height, fromFoot }
}
const redAt = (picture: PictureAround, way: readonly [number, number, number], most = 64): number => {
  const out = new Float64Array(3),
    long = Math.hypot(...way)
  lightOfPicture(picture, most)(way[0] / long, way[1] / long, way[2] / long, out)
  return out[0]!
}

describe('a picture that goes all around', () => {
  it('has its middle toward +X, its right half toward +Z, and its first row above', () => {
    const columns = pictureOf(64, 32, (x) => x),
      rows = pictureOf(64, 32, (_x, y) => y)
    expect(redAt(columns, [1, 0, 0])).toBeCloseTo(31.5, 5)
    expect(redAt(columns, [0, 0, 1])).toBeCloseTo(47.5, 5)
    expect(redAt(columns, [0, 0, -1])).toBeCloseTo(15.5, 5)
    expect(redAt(rows, [0, 1, 0])).toBeCloseTo(0, 5)
    expect(redAt(rows, [1, 0, 0])).toBeCloseTo(15.5, 5)
    expect(redAt(rows, [0, -1, 0])).toBeCloseTo(31, 5)
  })
  it('is the same where its rows come from the foot', () => {
    const rows = pictureOf(64, 32, (_x, y) => y, true)
    expect(redAt(rows, [0, 1, 0])).toBeCloseTo(0, 5)
    expect(redAt(rows, [0, -1, 0])).toBeCloseTo(31, 5)
  })
  it('joins at −X without a seam', () => {
    const ends = pictureOf(64, 32, (x) => (x === 0 ? 4 : x === 63 ? 8 : 0))
    expect(redAt(ends, [-1, 0, 1e-9])).toBeCloseTo(6, 4)
    expect(redAt(ends, [-1, 0, -1e-9])).toBeCloseTo(6, 4)
  })
  it('keeps the light of a small sun when it is brought to fewer texels', () => {
    const sun = pictureOf(256, 128, (x, y) => (x === 129 && y === 62 ? 160 : 0))
    // Four texels across and down become one: a sixteenth of the light in its place
    expect(redAt(sun, [Math.cos(0.049), 0.049, Math.sin(0.049)])).toBeGreaterThan(8)
    expect(redAt(sun, [0, 0, 1])).toBe(0)
  })
})

describe('surroundings of ours', () => {
  const seen = (name: Parameters<typeof skyLight>[0], way: readonly [number, number, number]): number[] => {
    const out = new Float64Array(3)
    skyLight(name)(...way, out)
    return [...out]
  }
  it('have lit panels where they are set up, as wide as they are said to be', () => {
    expect(seen('studio', directionOf(55, 40))).toEqual([9, 9, 9])
    expect(seen('studio', directionOf(55, 57))).toEqual([9, 9, 9])
    // 18° up from its middle it ends
    expect(seen('studio', directionOf(55, 59))[0]).toBeLessThan(1)
    expect(seen('studio', directionOf(-125, -40))[0]).toBeLessThan(1)
  })
  it('go from the horizon to the zenith, have a ground, and glow where the sun went down', () => {
    expect(seen('overcast', [0, 1, 0])).toEqual([1.5, 1.55, 1.62])
    expect(seen('overcast', [1, 0, 0])).toEqual([0.85, 0.9, 0.96])
    expect(seen('overcast', [0, -1, 0])).toEqual([0.16, 0.15, 0.14])
    expect(seen('dusk', directionOf(60, 4))[0]).toBeGreaterThan(7)
    expect(seen('dusk', directionOf(-120, 4))[0]).toBeLessThan(1)
  })
})
