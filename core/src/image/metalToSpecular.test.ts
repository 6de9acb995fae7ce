import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { pixelsOf } from '../fixtures/pngFixture'
import { metalToSpecular, type MetalFactors } from './metalToSpecular'
import { specularToMetal } from './specularToMetal'
import { linearToSrgb, srgbToLinear } from './transferCurves'

const plain: MetalFactors = { base: [1, 1, 1], opacity: 1, metallic: 1, roughness: 1 }
const stored = (v: number): number => Math.round(255 * linearToSrgb(v))

describe('metallic and roughness to specular and gloss', () => {
  it('a non-metal keeps its colour and mirrors 4 %; a metal mirrors in its colour, and has no diffuse', () => {
    const wood = metalToSpecular(null, null, {
      ...plain,
      base: [0.5, 0.25, 0.1],
      metallic: 0,
      roughness: 0.7,
    })
    // 0.5 · (1 − 0.04) / (1 − 0.04)
    expect([...wood.diffuse.data]).toEqual([0.5, 0.25, 0.1].map(stored))
    expect([...wood.specularGloss.data]).toEqual([...[0.04, 0.04, 0.04].map(stored), Math.round(255 * 0.3)])
    const gold = metalToSpecular(null, null, { ...plain, base: [0.9, 0.7, 0.3], roughness: 0 })
    expect([...gold.diffuse.data]).toEqual([0, 0, 0])
    expect([...gold.specularGloss.data]).toEqual([...[0.9, 0.7, 0.3].map(stored), 255])
  })
  it('by hand in between: base 0.5, metallic 0.5', () => {
    // Specular 0.04 + 0.46 / 2 = 0.27; diffuse 0.5 · 0.96 · 0.5 / 0.73
    const { diffuse, specularGloss } = metalToSpecular(null, null, {
      ...plain,
      base: [0.5, 0.5, 0.5],
      metallic: 0.5,
    })
    expect(specularGloss.data[0]).toBe(stored(0.27))
    expect(diffuse.data[0]).toBe(stored(0.24 / 0.73))
  })
  it('reads colours in linear light and data as they are, of two sizes, with alpha', () => {
    const base = pixelsOf(2, 2, 4, (x) => [128, 128, 128, x * 255]),
      packed = pixelsOf(4, 4, 3, (x) => [0, x * 64, 0])
    const { diffuse, specularGloss } = metalToSpecular(base, packed, plain)
    expect([diffuse.width, diffuse.channels, specularGloss.channels]).toEqual([4, 4, 4])
    expect([...diffuse.data.slice(0, 4)]).toEqual([128, 128, 128, 0])
    expect([0, 1, 2, 3].map((x) => specularGloss.data[x * 4 + 3])).toEqual([255, 191, 127, 63])
  })
  it('and back gives what was there', () => {
    const unit = fc.double({ min: 0, max: 1, noNaN: true })
    fc.assert(
      fc.property(fc.tuple(unit, unit, unit), fc.constantFrom(0, 1), unit, (base, metallic, roughness) => {
        // Dark metals cannot be told from what is no metal
        fc.pre(metallic === 0 || Math.min(...base) > 0.3)
        const { diffuse, specularGloss } = metalToSpecular(null, null, {
          base,
          opacity: 1,
          metallic,
          roughness,
        })
        const back = specularToMetal(diffuse, specularGloss, {
          diffuse: [1, 1, 1],
          opacity: 1,
          specular: [1, 1, 1],
          gloss: 1,
        })
        expect(Math.abs(back.metallicRoughness.data[1]! / 255 - roughness)).toBeLessThan(0.005)
        expect(Math.abs(back.metallicRoughness.data[2]! / 255 - metallic)).toBeLessThan(0.03)
        base.forEach((v, c) =>
          expect(Math.abs(srgbToLinear(back.basecolor.data[c]! / 255) - v)).toBeLessThan(0.02),
        )
      }),
    )
  })
})
