import fc from 'fast-check'
import { expect, it } from 'vitest'
import { FACE_INSIDE_OUT, meshTopology } from './meshTopology'

/** Twelve triangles of a box, facing out, or in when turned. */
function box(size: number, at: readonly [number, number, number], turned: boolean, first: number) {
  const positions = [0, 1, 2, 3, 4, 5, 6, 7].flatMap((c) => [
    at[0] + (c & 1 ? size / 2 : -size / 2),
    at[1] + (c & 2 ? size / 2 : -size / 2),
    at[2] + (c & 4 ? size / 2 : -size / 2),
  ])
  const quads = [
    [0, 2, 3, 1],
    [4, 5, 7, 6],
    [0, 1, 5, 4],
    [2, 6, 7, 3],
    [0, 4, 6, 2],
    [1, 3, 7, 5],
  ]
  const corners = quads.flatMap(([a, b, c, d]) => [a!, b!, c!, a!, c!, d!]).map((c) => c + first)
  if (turned)
    for (let t = 0; t < corners.length; t += 3)
      [corners[t + 1], corners[t + 2]] = [corners[t + 2]!, corners[t + 1]!]
  return { positions, corners }
}
function topologyOf(...boxes: [size: number, at: readonly [number, number, number], turned: boolean][]) {
  const made = boxes.map(([size, at, turned], i) => box(size, at, turned, i * 8))
  return meshTopology(
    Uint32Array.from(made.flatMap((b) => b.corners)),
    Float32Array.from(made.flatMap((b) => b.positions)),
    'plain',
  )
}
const O = [0, 0, 0] as const

it('the inner wall of a hollow body faces right, and its room is no volume', () => {
  const { insideOut, volume, closedShells } = topologyOf([2, O, false], [1, O, true])
  expect([insideOut, closedShells]).toEqual([0, 2])
  expect(volume).toBeCloseTo(8 - 1, 5)
})
it('a body that faces inward beside another is inside out, all twelve of its triangles', () => {
  const { insideOut, flags } = topologyOf([2, O, false], [1, [5, 0, 0], true])
  expect(insideOut).toBe(12)
  expect([...flags].map((f) => (f & FACE_INSIDE_OUT) !== 0)).toEqual([
    ...Array(12).fill(false),
    ...Array(12).fill(true),
  ])
})
it('alone it is, too', () => {
  expect(topologyOf([1, O, true]).insideOut).toBe(12)
})
it('a solid in the room of a hollow body is right, and a turned one in it is a wall of its own', () => {
  expect(topologyOf([4, O, false], [3, O, true], [1, O, false]).insideOut).toBe(0)
})
it('wherever the room lies inside, and however the whole is moved (property)', () => {
  const off = fc.double({ min: -0.45, max: 0.45, noNaN: true }),
    far = fc.double({ min: -50, max: 50, noNaN: true })
  fc.assert(
    fc.property(fc.tuple(off, off, off), fc.tuple(far, far, far), ([x, y, z], [a, b, c]) => {
      expect(topologyOf([2, [a, b, c], false], [1, [a + x, b + y, c + z], true]).insideOut).toBe(0)
    }),
  )
})
