import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pixelsOf } from '../fixtures/pngFixture'
import { metallicOf, specularToMetal, type SpecularFactors } from './specularToMetal'
import { linearToSrgb, srgbToLinear } from './transferCurves'

const plain: SpecularFactors = { diffuse: [1, 1, 1], opacity: 1, specular: [1, 1, 1], gloss: 1 }
const stored = (v: number): number => Math.round(255 * linearToSrgb(v))

describe('specular and gloss to metallic and roughness', () => {
  it('a non-metal keeps its colour, and is not metallic', () => {
    // Diffuse 0.5 with the reflectance of all non-metals: 0.5 · (1 − 0.04) / (1 − 0.04)
    const { basecolor, metallicRoughness } = specularToMetal(null, null, {
      ...plain,
      diffuse: [0.5, 0.25, 0.1],
      specular: [0.04, 0.04, 0.04],
      gloss: 0.3,
    })
    expect([...basecolor.data]).toEqual([0.5, 0.25, 0.1].map(stored))
    expect([...metallicRoughness.data]).toEqual([255, Math.round(255 * 0.7), 0])
  })
  it('a metal is metallic, with its specular colour as base colour', () => {
    // Black diffuse: a = 0.04, b = s − 0.08, c = 0.04 − s; with s = 0.7 the root is 1 exactly where s ≥ 0.04
    const gold = [0.9, 0.7, 0.3]
    const { basecolor, metallicRoughness } = specularToMetal(null, null, {
      ...plain,
      diffuse: [0, 0, 0],
      specular: gold,
    })
    expect(metallicRoughness.data[2]).toBe(255)
    expect([...basecolor.data]).toEqual(gold.map(stored))
  })
  it('the quadratic by hand: diffuse 0.2, specular 0.1, greys', () => {
    // b = 0.2 · 0.9 / 0.96 + 0.1 − 0.08 = 0.2075, c = −0.06, D = 0.043056 + 0.0096 = 0.052656, √D = 0.229469
    expect(metallicOf([0.2, 0.2, 0.2], [0.1, 0.1, 0.1])).toBeCloseTo((0.229469 - 0.2075) / 0.08, 4)
    expect(metallicOf([0.2, 0.2, 0.2], [0.039, 0.039, 0.039])).toBe(0)
  })
  it('texels, alpha and gloss of maps of two sizes come together', () => {
    const diffuse = pixelsOf(2, 2, 4, (x, y) => [200, 100, 50, x === y ? 255 : 128]),
      specular = pixelsOf(4, 4, 4, (x) => [56, 56, 56, x * 64])
    const { basecolor, metallicRoughness } = specularToMetal(diffuse, specular, plain)
    expect([basecolor.width, basecolor.height, basecolor.channels]).toEqual([4, 4, 4])
    expect(basecolor.data[3]).toBe(255)
    expect(basecolor.data[2 * 4 + 3]).toBe(128)
    expect([...metallicRoughness.data].filter((_, k) => k % 3 === 1).slice(0, 4)).toEqual([255, 191, 127, 63])
  })
  it('whatever comes in, values stay in range, and more gloss is less roughness', () => {
    const unit = fc.double({ min: 0, max: 1, noNaN: true }),
      colour = fc.tuple(unit, unit, unit)
    fc.assert(
      fc.property(colour, colour, unit, (diffuse, specular, gloss) => {
        const { basecolor, metallicRoughness } = specularToMetal(null, null, {
          diffuse,
          specular,
          opacity: 1,
          gloss,
        })
        expect(metallicRoughness.data[1]).toBe(Math.round(255 * (1 - gloss)))
        for (const v of basecolor.data) expect(srgbToLinear(v / 255)).toBeLessThanOrEqual(1)
      }),
    )
  })
})
