import { describe, expect, it } from 'vitest'
import { madeMaps, madeNormalMaps, type MadeMap } from '../fixtures/maps/madeMaps'
import { pixelsOf } from '../fixtures/pngFixture'
import { roleByContent, type RoleByContent } from '../rulebook/roleByContent'
import { contentSurvey } from './contentSurvey'
import { findGround } from './findGround'
import { normalMapEvidence } from './normalMapEvidence'
import { sampledTexels } from './sampledTexels'

const SIDE = 64
const evidence = ({ pixels }: Pick<MadeMap, 'pixels'>) => {
  const sample = sampledTexels(pixels),
    ground = findGround(pixels, sample),
    content = contentSurvey(pixels, sample, ground)
  return { ground, content, normal: normalMapEvidence(pixels, sample, ground, content) }
}
const roleOf = (map: MadeMap): RoleByContent => roleByContent(evidence(map))

describe('the ground of a texture', () => {
  /** Noise in the middle, one value around it: of 64 × 64 texels 48 × 64 are ground. */
  const withGround = (value: readonly number[], error = 0) =>
    pixelsOf(64, 64, 3, (x, y) =>
      x < 16
        ? [90 + ((x * 37 + y * 91) % 60), 70 + ((x * 53 + y * 17) % 60), 40 + ((x * 29 + y * 71) % 60)]
        : value.map((v) => Math.max(0, v - (x % 16 === 0 && y % 16 === 0 ? error : 0))),
    )
  it.each([
    ['black', [0, 0, 0]],
    ['white', [255, 255, 255]],
    ['flat-normal', [128, 128, 255]],
    ['flat', [60, 120, 60]],
  ] as const)('%s is found by its texels, and its share is right', (kind, value) => {
    const { ground } = evidence({ pixels: withGround(value) })
    expect(ground!.facts.kind).toBe(kind)
    expect(ground!.facts.share).toBeCloseTo(0.75, 3)
    ground!.facts.value.forEach((v, c) => expect(v).toBeCloseTo(value[c]!, 0))
    // A border of four texels goes with it
    expect(ground!.used).toBe(12 * 64)
  })
  it('is found though a few of its texels err a little', () => {
    const { ground } = evidence({ pixels: withGround([200, 200, 200], 3) })
    expect(ground!.facts.share).toBeCloseTo(0.75, 3)
  })
  it('is what is clear, where there is alpha', () => {
    const { ground } = evidence({
      pixels: pixelsOf(64, 64, 4, (x, y) => [(x * 37 + y * 91) % 255, 80, 60, x < 32 ? 255 : 0]),
    })
    expect(ground!.facts).toMatchObject({ kind: 'transparent', share: 0.5 })
  })
  it('is none where a soft picture stays near one value: its plateaus go over into what is beside them', () => {
    // Hills of 12 steps of 8 bits over all of the sheet, most of it within three of their middle
    const soft = pixelsOf(96, 96, 3, (x, y) => {
      const hill = 6 * Math.sin(x / 9) * Math.cos(y / 11) + 4 * Math.sin((x + y) / 7)
      return [Math.round(120 + hill), Math.round(110 + hill), Math.round(100 + hill)]
    })
    expect(evidence({ pixels: soft }).ground).toBeNull()
    // Uneven, as no ground is, though nothing lies between it and the islands
    const uneven = pixelsOf(96, 96, 3, (x, y) =>
      x < 24
        ? [200, 40 + ((x * 7 + y * 13) % 90), 30]
        : [120 + (((x >> 2) + (y >> 2)) % 2), 110 + (y % 2), 100],
    )
    expect(evidence({ pixels: uneven }).ground).toBeNull()
  })
  it('is none in a gradient, in a mask of two values, and in one value alone', () => {
    expect(evidence({ pixels: pixelsOf(64, 64, 3, (x, y) => [x * 3, y * 3, 90]) }).ground).toBeNull()
    expect(
      evidence({ pixels: pixelsOf(64, 64, 1, (x, y) => [(x >> 3) % 2 === (y >> 4) % 2 ? 255 : 0]) }).ground,
    ).toBeNull()
    expect(evidence({ pixels: pixelsOf(64, 64, 3, () => [0, 0, 0]) }).ground).toBeNull()
  })
})

describe('figures of the content', () => {
  it('mean, deviation, detail and correlation are those of used texels', () => {
    // Red alternates 100 and 140 along a row, green is twice the way off, blue goes against both
    const { content } = evidence({
      pixels: pixelsOf(32, 32, 3, (x) => (x % 2 ? [140, 180, 90] : [100, 100, 110])),
    })
    expect(content.mean.map((v) => Math.round(v * 255))).toEqual([120, 140, 100])
    expect(content.deviation.map((v) => Math.round(v * 255))).toEqual([20, 40, 10])
    expect(content.detail.map((v) => Math.round(v * 255))).toEqual([40, 80, 20])
    content.correlation.forEach((v, k) => expect(v).toBeCloseTo([1, -1, -1][k]!, 6))
    // Each step is followed by the opposite one
    expect(content.bend).toBeCloseTo(2, 6)
    expect([content.grey, content.low, content.high, content.used]).toEqual([0, 0, 0, 1])
  })
  it('a ramp bends nowhere, and has no edges', () => {
    const { content } = evidence({ pixels: pixelsOf(64, 64, 1, (x) => [x * 4]) })
    expect([content.bend, content.apart]).toEqual([0, 0])
  })
})

describe('labelled sets', () => {
  it('of 160 normal maps with grounds, steep, tilted, clipped or lossy ones none counts as none', () => {
    const maps = [...madeNormalMaps(11, 80, 96), ...madeNormalMaps(12, 80, 96)]
    const low = maps.filter((m) => evidence(m).normal!.isNormalMap < 0.5)
    expect(low.map((m) => m.what)).toEqual([])
    // Lossy blocks of 4 × 4 texels mix the ground into islands that are hardly wider
    const small = [...madeNormalMaps(11, 80, SIDE), ...madeNormalMaps(12, 80, SIDE)]
    const lost = small.filter((m) => evidence(m).normal!.isNormalMap < 0.5)
    expect(lost.length).toBeLessThanOrEqual(1)
    expect(lost.filter((m) => !/ground.*lossy/.test(m.what))).toEqual([])
    const told = maps.filter((m) => evidence(m).normal!.green.direction !== 'undecided')
    expect(told.length).toBeGreaterThan(maps.length * 0.75)
    expect(told.filter((m) => evidence(m).normal!.green.direction !== m.green)).toEqual([])
  }, 60_000)
  it('even parts of maps that lean are no mask: with grounds around them they are known', () => {
    const maps = [...madeNormalMaps(103, 160, 96), ...madeNormalMaps(104, 160, 96)]
    expect(maps.filter((m) => evidence(m).normal!.isNormalMap < 0.5).map((m) => m.what)).toEqual([])
  }, 60_000)
  it('a picture of a few flat bluish colours on white is none', () => {
    const colours = [
      [140, 160, 250],
      [110, 120, 253],
      [128, 170, 244],
    ]
    const picture = pixelsOf(64, 64, 3, (x, y) =>
      x < 12 ? [255, 255, 255] : colours[((x >> 4) + (y >> 5)) % 3]!,
    )
    expect(evidence({ pixels: picture }).ground).toBeNull()
    expect(evidence({ pixels: picture }).normal!.isNormalMap).toBeLessThan(0.5)
  })
  /** A relief of waves that leans to one side: by its vectors alone it is in doubt. */
  const leaning = (q: (x: number, y: number) => number) =>
    pixelsOf(96, 96, 3, (x, y) => {
      const p = 0.36 + 0.08 * Math.sin(x / 5) * Math.cos(y / 7),
        slopes = [p, q(x, y)] as const,
        length = Math.hypot(...slopes, 1)
      return [...slopes, 1].map((v, c) => Math.round(127.5 + ((c < 2 ? -v : v) / length) * 127.5))
    })
  it('what vectors leave in doubt is one where its slopes are those of a relief, and stays in doubt elsewhere', () => {
    // The height is −0.4 cos(x / 5) cos(y / 7): its slopes along y are the second ones
    const relief = leaning((x, y) => 0.25 + 0.4 * (1 / 7) * Math.cos(x / 5) * Math.sin(y / 7))
    expect(evidence({ pixels: relief }).normal).toMatchObject({
      isNormalMap: 0.7,
      green: { direction: 'down' },
    })
    const others = leaning((x, y) => 0.25 + 0.08 * Math.sin(x / 11 + 1) * Math.cos(y / 3))
    expect(evidence({ pixels: others }).normal!.isNormalMap).toBeLessThan(0.5)
    expect(evidence({ pixels: others }).normal!.isNormalMap).toBeGreaterThan(0.3)
  })
  it('of 270 other pictures none is taken for a normal map', () => {
    const others = madeMaps(13, 300, SIDE).filter((m) => m.role !== 'normal' && m.pixels.channels >= 3)
    expect(others.length).toBeGreaterThan(100)
    expect(others.filter((m) => evidence(m).normal!.isNormalMap > 0.3).map((m) => m.role)).toEqual([])
  }, 60_000)
  it('of 400 maps of all roles nine in ten of what is decided are right, and most are decided', () => {
    const maps = madeMaps(14, 400, SIDE),
      decided = maps.flatMap((m) => {
        const { role } = roleOf(m)
        return role ? [{ said: role, is: m.role }] : []
      })
    expect(decided.length).toBeGreaterThan(320)
    expect(decided.filter((d) => d.said === d.is).length / decided.length).toBeGreaterThanOrEqual(0.9)
    expect(decided.filter((d) => d.is === 'normal' && d.said !== 'normal')).toEqual([])
    expect(decided.filter((d) => d.is !== 'normal' && d.said === 'normal')).toEqual([])
  }, 60_000)
})

it('one value says nothing of what it is the value of', () => {
  expect(roleOf({ ...madeMaps(1, 1, 8)[0]!, pixels: pixelsOf(8, 8, 1, () => [128]) })).toEqual({
    role: null,
    probabilities: [],
    reason: '',
  })
})
