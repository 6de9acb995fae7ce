import { describe, expect, it } from 'vitest'
import { boxOf } from '../fixtures/crateFixture'
import { gapFinder } from './gapFinder'
import type { TriangleList } from './joinTriangles'
import { facingSamples } from './surfaceSamples'

const listOf = (turned = false): TriangleList => {
  const box = boxOf(1, [0, 0, 0], 3)
  return { positions: new Float32Array(box.positions), indices: new Uint32Array(box.indices), turned }
}

describe('the gap to what lies under a point', () => {
  const find = gapFinder([listOf()])!
  it('is the distance along the normal, below 0 from the inside', () => {
    expect(find([0.1, 0.5, 0.503], [0, 0, 1], 0.05)).toBeCloseTo(0.003, 6)
    expect(find([0.1, 0.5, 0.497], [0, 0, 1], 0.05)).toBeCloseTo(-0.003, 6)
    expect(find([0.1, 0.5, 0.5], [0, 0, 1], 0.05)).toBeCloseTo(0, 6)
  })
  it('is none out of reach, beside it, and over what faces another way', () => {
    expect(find([0.1, 0.5, 0.56], [0, 0, 1], 0.05)).toBeNull()
    expect(find([0.7, 0.5, 0.5], [0, 0, 1], 0.05)).toBeNull()
    expect(find([0.1, 0.5, 0.503], [0, 0, -1], 0.05)).toBeNull()
    // At 45° to the face it is longer by √2
    const slant = Math.SQRT1_2
    expect(find([0.1, 0.5, 0.51], [slant, 0, slant], 0.05)).toBeCloseTo(0.01 * Math.SQRT2, 6)
  })
  it('is found only over what comes into a box, where one is given', () => {
    const front = {
      min: [-1, 0, 0.4] as [number, number, number],
      max: [1, 1, 0.6] as [number, number, number],
    }
    const near = gapFinder([listOf()], front)!
    expect(near([0.1, 0.5, 0.503], [0, 0, 1], 0.05)).toBeCloseTo(0.003, 6)
    expect(near([0.1, 0.5, -0.503], [0, 0, -1], 0.05)).toBeNull()
    expect(gapFinder([listOf()], { min: [5, 5, 5], max: [6, 6, 6] })).toBeNull()
  })
  it('sees a mirrored surface from its outer side', () => {
    const mirrored = listOf()
    mirrored.positions = mirrored.positions.map((v, k) => (k % 3 === 0 ? -v : v))
    expect(gapFinder([{ ...mirrored, turned: true }])!([0.1, 0.5, 0.503], [0, 0, 1], 0.05)).toBeCloseTo(
      0.003,
      6,
    )
    expect(gapFinder([mirrored])!([0.1, 0.5, 0.503], [0, 0, 1], 0.05)).toBeNull()
  })
  it('leaves out corners that no vertex has and places that are none', () => {
    const broken = listOf()
    broken.indices = new Uint32Array([...broken.indices, 0, 1, 999_999])
    broken.positions[0] = NaN
    expect(gapFinder([broken])!([0.1, 0.5, 0.503], [0, 0, 1], 0.05)).toBeCloseTo(0.003, 6)
    expect(gapFinder([])).toBeNull()
  })
})

describe('samples with normals', () => {
  it('lie on the faces that they face away from, the same for one seed', () => {
    const { positions, indices } = listOf(),
      areas = new Float32Array(indices.length / 3).fill(1 / 18)
    const { points, normals } = facingSamples([{ positions, indices, areas }], 300, 7)
    expect(points.length).toBeGreaterThan(800)
    for (let k = 0; k < points.length; k += 3) {
      const axis = [0, 1, 2].find((i) => Math.abs(normals[k + i]!) > 0.999)!
      const centre = axis === 1 ? 0.5 : 0
      expect((points[k + axis]! - centre) * normals[k + axis]!).toBeCloseTo(0.5, 6)
    }
    expect(facingSamples([{ positions, indices, areas }], 300, 7).points).toEqual(points)
  })
})
