import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pixelsOf, rollingNormal } from '../fixtures/pngFixture'
import { constantPixels, dropAlphaChannel, invertPixels } from './channelPixels'
import { channelStatistics } from './channelStatistics'
import { colourRange } from './colourRange'
import { normalFromHeight, renormalisePixels } from './normalPixels'
import { normalMapEvidence } from './normalMapEvidence'
import type { Pixels } from './pixels'
import { resizePixels } from './resizePixels'
import { sampleWindows, windowTexels } from './sampleWindows'
import { linearToSrgb, srgbToLinear } from './transferCurves'

const channelCounts = fc.constantFrom(1, 2, 3, 4) as fc.Arbitrary<1 | 2 | 3 | 4>
const anyPixels = fc
  .record({
    width: fc.integer({ min: 1, max: 9 }),
    height: fc.integer({ min: 1, max: 9 }),
    channels: channelCounts,
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

/** Part of a picture, small enough to be looked at whole. */
function cropOf({ data, width, channels, ...rest }: Pixels, x: number, y: number, side: number): Pixels {
  const out = new Uint8Array(side * side * channels)
  for (let row = 0; row < side; row++)
    out.set(
      data.subarray(
        ((y + row) * width + x) * channels,
        ((y + row) * width + x + side) * channels,
      ) as Uint8Array,
      row * side * channels,
    )
  return { ...rest, channels, width: side, height: side, data: out }
}

describe('samples', () => {
  it('are seeded, spread evenly, and never outside', () => {
    fc.assert(
      fc.property(fc.integer({ min: 16, max: 9000 }), fc.integer({ min: 16, max: 9000 }), (width, height) => {
        const windows = sampleWindows(width, height)
        expect(windows).toEqual(sampleWindows(width, height))
        for (const w of windows)
          expect(w.x >= 0 && w.y >= 0 && w.x + w.width <= width && w.y + w.height <= height).toBe(true)
        expect(windowTexels(windows)).toBeLessThanOrEqual(1024 * 1024)
      }),
    )
  })
  it('keep to the stated error against the full count', () => {
    // Dark below a wavy shore, 37 % of it; normals of odd length in a quarter
    const side = 2048,
      half = 1024
    const shore = pixelsOf(side, side, 3, (x, y) =>
      y > side * 0.63 + 60 * Math.sin(x / 90) ? [12, 14, 10] : [140, 150, 160],
    )
    const vectors = pixelsOf(side, side, 3, (x, y) =>
      x * 1.7 + y < side * 0.92 ? [128, 128, 128] : [128, 128, 255],
    )
    const quarters = (pixels: Pixels): Pixels[] =>
      [
        [0, 0],
        [half, 0],
        [0, half],
        [half, half],
      ].map(([x, y]) => cropOf(pixels, x!, y!, half))
    const mean = (values: number[]): number => values.reduce((a, b) => a + b, 0) / values.length
    // Three deviations of 256 windows at most
    expect(
      Math.abs(colourRange(shore).dark - mean(quarters(shore).map((q) => colourRange(q).dark))),
    ).toBeLessThan(3 * 0.032)
    const unit = normalMapEvidence(vectors)!
    expect(unit.sampled).toBe(256 * 32 * 32)
    expect(
      Math.abs(
        unit.shareUnitLength - mean(quarters(vectors).map((q) => normalMapEvidence(q)!.shareUnitLength)),
      ),
    ).toBeLessThan(3 * 0.032)
  })
  it('of a large map tell its green like the whole of a small one', () => {
    const large = rollingNormal(2048, 'down')
    expect(normalMapEvidence(large)!.green.direction).toBe('down')
  })
})

describe('counting', () => {
  it('by pairs of bytes gives what counting one by one gives', () => {
    fc.assert(
      fc.property(anyPixels, (pixels) => {
        const full = pixels.depth === 16 ? 65535 : 255
        channelStatistics(pixels).forEach((channel, c) => {
          const values = Array.from(
            { length: pixels.width * pixels.height },
            (_, t) => pixels.data[t * pixels.channels + c]!,
          )
          expect([channel.min, channel.max]).toEqual([Math.min(...values) / full, Math.max(...values) / full])
          expect(channel.mean).toBeCloseTo(values.reduce((a, b) => a + b, 0) / values.length / full, 9)
        })
      }),
    )
  })
})

describe('resizing', () => {
  it('keeps one flat value exactly, up and down, whatever it stands for', () => {
    fc.assert(
      fc.property(
        channelCounts,
        fc.integer({ min: 1, max: 254 }),
        fc.integer({ min: 1, max: 20 }),
        fc.constantFrom('srgb' as const, 'linear' as const),
        (channels, value, side, meaning) => {
          const flat = pixelsOf(8, 6, channels, () =>
            Array.from({ length: channels }, (_, c) =>
              channels % 2 === 0 && c === channels - 1 ? 255 : value,
            ),
          )
          const resized = resizePixels(flat, side, side, meaning)
          for (let k = 0; k < resized.data.length; k++) expect(resized.data[k]).toBe(flat.data[k % channels])
        },
      ),
    )
  })
  it('mixes colour in linear light: half black, half white is 188, not 128', () => {
    const stripes = pixelsOf(64, 64, 1, (x) => [x % 2 ? 255 : 0])
    // sRGB of 0.5: 1.055 · 0.5^(1/2.4) − 0.055 = 0.7354
    expect(Math.abs(resizePixels(stripes, 8, 8, 'srgb').data[27]! - 188)).toBeLessThanOrEqual(2)
    expect(Math.abs(resizePixels(stripes, 8, 8, 'linear').data[27]! - 128)).toBeLessThanOrEqual(2)
  })
  it('does not let the colour of clear texels bleed in', () => {
    const cut = pixelsOf(16, 16, 4, (x) => (x < 8 ? [200, 100, 50, 255] : [0, 255, 0, 0]))
    const small = resizePixels(cut, 4, 4, 'srgb').data
    for (const t of [0, 1]) expect(Math.abs(small[t * 4]! - 200)).toBeLessThanOrEqual(2)
  })
  it('leaves vectors unit long', () => {
    const small = normalMapEvidence(resizePixels(rollingNormal(64, 'up'), 24, 24, 'vectors'))!
    expect(small.meanLength).toBeCloseTo(1, 2)
    expect(small.shareUnitLength).toBe(1)
    expect(small.green.direction).toBe('up')
  })
})

describe('normal maps', () => {
  it('of halved vectors are unit long again', () => {
    const halved = { ...rollingNormal(64, 'up') }
    halved.data = halved.data.map((v) => Math.round(127.5 + (v - 127.5) * 0.7)) as Uint8Array
    expect(normalMapEvidence(halved)!.shareUnitLength).toBe(0)
    expect(normalMapEvidence(renormalisePixels(halved))!.shareUnitLength).toBe(1)
  })
  it('of a slope by hand: 10 of 255 a texel at strength 25.5 leans by 45°', () => {
    const slope = normalFromHeight(
      pixelsOf(8, 8, 1, (x) => [x * 10]),
      { strength: 25.5, edge: 'clamp', green: 'up' },
    )
    // −1/√2 · 127.5 + 127.5 = 37.3; z the same upward
    expect([...slope.data.slice((3 * 8 + 3) * 3, (3 * 8 + 3) * 3 + 3)]).toEqual([37, 128, 218])
  })
  it('of heights have the asked green', () => {
    const heights = pixelsOf(64, 64, 1, (x, y) => [
      Math.round(128 + 50 * Math.sin((x / 64) * Math.PI * 4) * Math.cos((y / 64) * Math.PI * 2)),
    ])
    for (const green of ['up', 'down'] as const)
      expect(
        normalMapEvidence(normalFromHeight(heights, { strength: 4, edge: 'wrap', green }))!.green.direction,
      ).toBe(green)
  })
})

describe('channels', () => {
  it('inverted twice are as before, alpha never changes', () => {
    fc.assert(
      fc.property(anyPixels, (pixels) => {
        expect(invertPixels(invertPixels(pixels)).data).toEqual(pixels.data)
        if (pixels.channels % 2 === 0)
          expect(channelStatistics(invertPixels(pixels)).at(-1)).toEqual(channelStatistics(pixels).at(-1))
      }),
    )
  })
  it('without alpha are the same otherwise', () => {
    fc.assert(
      fc.property(anyPixels, (pixels) => {
        const colours = pixels.channels % 2 === 0 ? pixels.channels - 1 : pixels.channels
        expect(channelStatistics(dropAlphaChannel(pixels))).toEqual(
          channelStatistics(pixels).slice(0, colours),
        )
      }),
    )
  })
  it('shrunk to a constant keep their value', () => {
    const small = constantPixels(
      pixelsOf(512, 512, 3, () => [9, 200, 31]),
      4,
    )
    expect([small.width, small.height, ...small.data.slice(45)]).toEqual([4, 4, 9, 200, 31])
  })
  it('go through the sRGB curve and back', () => {
    for (let v = 0; v < 256; v++) expect(Math.round(linearToSrgb(srgbToLinear(v / 255)) * 255)).toBe(v)
    expect(srgbToLinear(0.5)).toBeCloseTo(0.21404, 5)
  })
})
