import fc from 'fast-check'
import { Matrix3, Vector2 } from 'three'
import { describe, expect, it } from 'vitest'
import { placedUvs } from './texturePlacement'

const UVS = new Float32Array([0, 0, 1, 0, 0.25, 0.75])

describe('UVs at which a placed texture is read', () => {
  it('are scaled first, then turned, then moved', () => {
    // A quarter turn takes u to where −v was, and v to where u was
    const placed = placedUvs(UVS, { tiling: [2, 4], offset: [0.5, 0.25], turn: Math.PI / 2 })
    expect([...placed]).toEqual([0.5, 0.25, 0.5, -1.75, 3.5, -0.25].map((v) => expect.closeTo(v, 6)))
    expect(placedUvs(UVS, null)).toBe(UVS)
  })
  it('are those at which the stage reads it, where both sides are tiled alike', () => {
    const small = fc.double({ min: -3, max: 3, noNaN: true })
    fc.assert(
      fc.property(small, small, small, fc.double({ min: 0.1, max: 8, noNaN: true }), (x, y, turn, scale) => {
        const matrix = new Matrix3().setUvTransform(x, y, scale, scale, turn, 0, 0)
        const placed = placedUvs(UVS, { tiling: [scale, scale], offset: [x, y], turn })
        for (let k = 0; k < UVS.length; k += 2) {
          const { x: u, y: v } = new Vector2(UVS[k], UVS[k + 1]).applyMatrix3(matrix)
          expect([placed[k], placed[k + 1]]).toEqual([expect.closeTo(u, 4), expect.closeTo(v, 4)])
        }
      }),
    )
  })
})
