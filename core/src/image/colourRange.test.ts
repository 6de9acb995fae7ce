import { describe, expect, it } from 'vitest'
import { pixelsOf } from '../fixtures/pngFixture'
import { colourRange } from './colourRange'
import { findGround } from './findGround'
import { sampledTexels } from './sampledTexels'

/** A quarter of the picture is an island, a tenth of which is dark; the rest is one value. */
const island = (ground: number[]) =>
  pixelsOf(80, 80, 3, (x, y) => {
    if (x >= 40 || y >= 40) return ground
    return y < 4 ? [10 + (x % 5), 12, 9] : [100 + ((x * 7) % 40), 90 + ((y * 5) % 30), 80]
  })

describe('the range of a base colour', () => {
  it.each([
    ['black', [0, 0, 0]],
    ['white', [255, 255, 255]],
    ['flat', [200, 30, 120]],
  ])('is that of its islands on a %s ground', (kind, ground) => {
    const pixels = island(ground),
      sample = sampledTexels(pixels),
      found = findGround(pixels, sample)!.facts
    expect(found).toMatchObject({ kind, share: 0.75 })
    expect(colourRange(pixels, sample, found)).toEqual({ dark: 0.1, bright: 0, sampled: 1600 })
    // Without it the ground counts, too
    expect(colourRange(pixels, sample).sampled).toBe(6400)
  })
})
