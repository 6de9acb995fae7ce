import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pixelsOf, rollingNormal } from '../fixtures/pngFixture'
import { averageColour } from './averageColour'
import { isAlphaFull } from './channelPixels'
import { channelStatistics } from './channelStatistics'
import { flipChannel } from './flipChannel'
import { normalMapEvidence } from './normalMapEvidence'

const anyPixels = fc
  .record({
    width: fc.integer({ min: 1, max: 12 }),
    height: fc.integer({ min: 1, max: 12 }),
    channels: fc.constantFrom(1, 2, 3, 4) as fc.Arbitrary<1 | 2 | 3 | 4>,
    depth: fc.constantFrom(8, 16) as fc.Arbitrary<8 | 16>,
    seed: fc.integer(),
  })
  .map(({ width, height, channels, depth, seed }) =>
    pixelsOf(
      width,
      height,
      channels,
      (x, y) =>
        Array.from(
          { length: channels },
          (_, c) =>
            Math.abs(Math.imul(seed + x * 31 + y * 17 + c * 7, 2654435761)) % (depth === 16 ? 65536 : 256),
        ),
      depth,
    ),
  )

describe('channel statistics', () => {
  it('by hand: two blacks, one white, one half', () => {
    const [grey] = channelStatistics(pixelsOf(4, 1, 1, (x) => [[0, 0, 255, 128][x]!]))
    expect(grey).toMatchObject({ name: 'grey', min: 0, max: 1 })
    expect(grey!.mean).toBeCloseTo(383 / 4 / 255, 12)
    expect(grey!.deviation).toBeCloseTo(Math.sqrt((2 * 95.75 ** 2 + 159.25 ** 2 + 32.25 ** 2) / 4) / 255, 12)
    expect([grey!.histogram[0], grey!.histogram[128], grey!.histogram[255]]).toEqual([2, 1, 1])
  })
  it('histograms count every texel, in 8 and 16 bits', () => {
    fc.assert(
      fc.property(anyPixels, (pixels) => {
        for (const channel of channelStatistics(pixels)) {
          expect(channel.histogram.reduce((a, b) => a + b, 0)).toBe(pixels.width * pixels.height)
          expect(channel.min).toBeLessThanOrEqual(channel.mean + 1e-12)
          expect(channel.mean).toBeLessThanOrEqual(channel.max + 1e-12)
        }
      }),
    )
  })
  it('takes 16 bits whole: 32768 of 65535 is a little over a half', () => {
    expect(channelStatistics(pixelsOf(1, 1, 1, () => [32768], 16))[0]!.mean).toBeCloseTo(32768 / 65535, 12)
  })
})

describe('turning a channel', () => {
  it('twice gives the same, once mirrors its mean, others stay', () => {
    fc.assert(
      fc.property(anyPixels, (pixels) => {
        const channel = pixels.channels - 1
        const once = flipChannel(pixels, channel)
        expect(flipChannel(once, channel).data).toEqual(pixels.data)
        const before = channelStatistics(pixels),
          after = channelStatistics(once)
        expect(after[channel]!.mean).toBeCloseTo(1 - before[channel]!.mean, 9)
        for (let c = 0; c < channel; c++) expect(after[c]).toEqual(before[c])
      }),
    )
  })
})

describe('normal map evidence', () => {
  it('tells up from down, and turns when green is turned', () => {
    const up = normalMapEvidence(rollingNormal(64, 'up'))!
    expect(up.green.direction).toBe('up')
    expect(up.green.confidence).toBeGreaterThan(0.9)
    expect(up.isNormalMap).toBeGreaterThan(0.95)
    const down = normalMapEvidence(flipChannel(rollingNormal(64, 'up'), 1))!
    expect(down.green.direction).toBe('down')
    expect(down.green.energyUp).toBeCloseTo(up.green.energyDown, 3)
  })
  it('does not depend on shift by whole texels or on turning by half a turn', () => {
    const map = rollingNormal(64, 'up')
    const turned = { ...map, data: map.data.slice() }
    for (let t = 0; t < 64 * 64; t++) {
      const from = (64 * 64 - 1 - t) * 3
      turned.data.set([255 - map.data[from]!, 255 - map.data[from + 1]!, map.data[from + 2]!], t * 3)
    }
    expect(normalMapEvidence(turned)!.green.direction).toBe('up')
  })
  it('does not decide on a flat map, on stripes, or on noise', () => {
    expect(normalMapEvidence(pixelsOf(64, 64, 3, () => [128, 128, 255]))!.green).toMatchObject({
      direction: 'undecided',
      texels: 0,
    })
    const stripes = pixelsOf(64, 64, 3, (x) => {
      const s = Math.sin(x / 3) * 0.4
      return [(s + 1) * 127.5, 127.5, (Math.sqrt(1 - s * s) + 1) * 127.5].map(Math.round)
    })
    expect(normalMapEvidence(stripes)!.green.direction).toBe('undecided')
    let state = 7
    const random = () => (state = (Math.imul(state, 1664525) + 1013904223) >>> 0) / 2 ** 32
    const noise = pixelsOf(128, 128, 3, () => {
      const x = random() * 0.4 - 0.2,
        y = random() * 0.4 - 0.2
      return [x, y, Math.sqrt(1 - x * x - y * y)].map((v) => Math.round((v + 1) * 127.5))
    })
    expect(normalMapEvidence(noise)!.green.direction).toBe('undecided')
  })
  it('knows a map whose vectors were shortened, by lossy packing or blending, but is never as sure of it', () => {
    const long = rollingNormal(64, 'up')
    const shortened = { ...long, data: long.data.map((v) => Math.round(127.5 + (v - 127.5) * 0.8)) }
    const found = normalMapEvidence(shortened)!
    expect([found.shareUnitLength, found.sharePlausible, found.green.direction]).toEqual([0, 1, 'up'])
    expect(found.isNormalMap).toBeGreaterThan(0.7)
    expect(found.isNormalMap).toBeLessThan(0.9)
  })
  it('correlates red with green as by hand: 1 when equal, −1 when mirrored, 0 when one is flat', () => {
    const of = (g: (x: number) => number) =>
      normalMapEvidence(pixelsOf(32, 1, 3, (x) => [100 + x, g(x), 240]))!.correlation
    expect([of((x) => 100 + x), of((x) => 155 - x), of(() => 128)]).toEqual([
      expect.closeTo(1, 9),
      expect.closeTo(-1, 9),
      0,
    ])
  })
  it('takes short vectors whose red goes with green for a map where the mean points straight out, else for a bluish picture', () => {
    const bluish = (offset: number) =>
      normalMapEvidence(
        pixelsOf(64, 64, 3, (x, y) => {
          const s = 30 * Math.sin((x + y) / 5)
          return [127.5 + offset + s, 127.5 + offset + s, 225].map(Math.round)
        }),
      )!
    expect(bluish(0)).toMatchObject({
      correlation: expect.closeTo(1, 2) as number,
      isNormalMap: expect.closeTo(0.85, 2) as number,
    })
    expect(bluish(-12).isNormalMap).toBeLessThan(0.3)
  })
  it('knows a colour picture for none', () => {
    expect(
      normalMapEvidence(pixelsOf(32, 32, 3, (x, y) => [200 - x, 120 + y, 60]))!.isNormalMap,
    ).toBeLessThan(0.2)
    expect(normalMapEvidence(pixelsOf(4, 4, 1, () => [128]))).toBeNull()
  })
})

it('average colour of half red, half blue', () => {
  expect(averageColour(pixelsOf(2, 1, 3, (x) => (x === 0 ? [255, 0, 0] : [0, 0, 255])))).toEqual([
    0.5, 0, 0.5,
  ])
})

it('an alpha counts as full only where every texel is opaque, at either depth', () => {
  const picture = (channels: number, depth: 8 | 16, data: number[]) => ({
    width: 2,
    height: 1,
    channels,
    depth,
    data: depth === 16 ? new Uint16Array(data) : new Uint8Array(data),
  })
  expect(isAlphaFull(picture(4, 8, [1, 2, 3, 255, 4, 5, 6, 255]))).toBe(true)
  expect(isAlphaFull(picture(4, 8, [1, 2, 3, 255, 4, 5, 6, 254]))).toBe(false)
  expect(isAlphaFull(picture(2, 16, [1, 65535, 2, 65535]))).toBe(true)
  expect(isAlphaFull(picture(2, 16, [1, 65535, 2, 255]))).toBe(false)
  expect(isAlphaFull(picture(3, 8, [1, 2, 3, 4, 5, 6]))).toBe(true)
})
