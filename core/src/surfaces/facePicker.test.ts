import { describe, expect, it } from 'vitest'
import { createFacePicker, type FacePicker } from './facePicker'
import { findPicked, packPicked } from './pickedParts'

/** A strip of six squares of 1 m along x; between the third and the fourth it bends by 30°, and the UVs are cut there. */
function strip(): { positions: Float32Array; uvs: Float32Array; indices: Uint32Array } {
  const positions: number[] = [],
    uvs: number[] = [],
    indices: number[] = []
  const bend = Math.PI / 6
  for (let q = 0; q < 6; q++) {
    const at = (n: number): [number, number] =>
      n <= 3 ? [n, 0] : [3 + (n - 3) * Math.cos(bend), (n - 3) * Math.sin(bend)]
    const first = positions.length / 3
    for (const [n, z] of [
      [q, 0],
      [q, 1],
      [q + 1, 1],
      [q + 1, 0],
    ] as const) {
      const [x, y] = at(n)
      positions.push(x, y, z)
      uvs.push(n / 10 + (q >= 3 ? 0.3 : 0), z)
    }
    indices.push(first, first + 1, first + 2, first, first + 2, first + 3)
  }
  // A square by itself, 5 m above
  const first = positions.length / 3
  positions.push(0, 5, 0, 0, 5, 1, 1, 5, 1, 1, 5, 0)
  uvs.push(0, 0, 0, 1, 1, 1, 1, 0)
  indices.push(first, first + 1, first + 2, first, first + 2, first + 3)
  return {
    positions: Float32Array.from(positions),
    uvs: Float32Array.from(uvs),
    indices: Uint32Array.from(indices),
  }
}
const all = strip()
const picker = (): FacePicker => createFacePicker(all.positions, all.uvs, all.indices)!
const down = (x: number, y = 4) => ({ origin: [x, y, 0.5], direction: [0, -1, 0] }) as const
const range = (from: number, to: number): number[] => Array.from({ length: to - from }, (_, i) => from + i)

describe('picking faces', () => {
  it('gives one face, what lies within an angle from face to face, or all that hangs together', () => {
    const p = picker()
    expect(p.pick(down(0.2), { kind: 'face' })).toHaveLength(1)
    expect(p.pick(down(0.2), { kind: 'bend', degrees: 20 })).toEqual(range(0, 6))
    expect(p.pick(down(0.2), { kind: 'bend', degrees: 31 })).toEqual(range(0, 12))
    expect(p.pick(down(0.2), { kind: 'shell' })).toEqual(range(0, 12))
    expect(p.pick(down(0.2, 9), { kind: 'shell' })).toEqual([12, 13])
    expect(p.pick(down(50), { kind: 'shell' })).toBeNull()
  })
  it('stops at the seam of a UV island', () => {
    expect(picker().pick(down(2.5), { kind: 'island' })).toEqual(range(0, 6))
  })
  it('keeps the numbers of triangles when some draw nothing', () => {
    // One names vertices that are not there, one a vertex that is no place
    const positions = Float32Array.from([...all.positions, Number.NaN, 0, 0]),
      nowhere = all.positions.length / 3
    const indices = Uint32Array.from([900, 901, 902, 0, 1, nowhere, ...all.indices])
    const p = createFacePicker(positions, null, indices)!
    expect(p.pick(down(0.2), { kind: 'bend', degrees: 20 })).toEqual(range(2, 8))
    expect(createFacePicker(all.positions, null, new Uint32Array(0))).toBeNull()
  })
})

describe('picked faces', () => {
  const part = packPicked({ ...all, node: 'n', picked: range(0, 6) })
  it('are found where they lie, on any triangles, and not those that look another way', () => {
    expect([...findPicked(part, all.positions, all.indices)!]).toEqual([
      ...Array<number>(6).fill(1),
      ...Array<number>(8).fill(0),
    ])
    // The same three squares as one, turned inside out the second time
    const one = Float32Array.from([0, 0, 0, 0, 0, 1, 3, 0, 1, 3, 0, 0])
    expect([...findPicked(part, one, Uint32Array.from([0, 1, 2, 0, 2, 3]))!]).toEqual([1, 1])
    expect([...findPicked(part, one, Uint32Array.from([0, 2, 1, 0, 3, 2]))!]).toEqual([0, 0])
  })
  it('are refused where they cannot be', () => {
    expect(findPicked({ ...part, triangles: btoa('\xff'.repeat(12)) }, all.positions, all.indices)).toBeNull()
    expect(findPicked({ ...part, points: btoa('abc') }, all.positions, all.indices)).toBeNull()
  })
})

describe('a lasso', () => {
  /** Seen from above without perspective: x of the strip runs over −1 to 1 for 0 to 6, z upward for 0 to 1. */
  const fromAbove = (outline: [number, number][], through: boolean) => ({
    eye: [3, 1000, 0.5] as const,
    matrix: [1 / 3, 0, 0, 0, 0, 0, 0, 0, 0, 2, 0, 0, -1, -1, 0, 1],
    outline,
    through,
  })
  const around = (from: number, to: number): [number, number][] => [
    [from / 3 - 1, -2],
    [to / 3 - 1, -2],
    [to / 3 - 1, 2],
    [from / 3 - 1, 2],
  ]
  it('picks what has its middle inside and is seen; through all that lies there', () => {
    // Over the first square lies another one, of number 12 and 13
    expect(picker().within(fromAbove(around(0, 2), false))).toEqual([2, 3, 12, 13])
    expect(picker().within(fromAbove(around(0, 2), true))).toEqual([0, 1, 2, 3, 12, 13])
  })
  it('has a middle that lies inside, not a corner, and nothing behind the eye', () => {
    expect(picker().within(fromAbove(around(0.5, 1.5), true))).toEqual([1, 2, 13])
    const behind = fromAbove(around(0, 6), true)
    expect(picker().within({ ...behind, matrix: [...behind.matrix.slice(0, 15), -1] })).toEqual([])
    expect(picker().within(fromAbove([], true))).toEqual([])
  })
  it('has an inside where its line crosses itself', () => {
    const bow: [number, number][] = [
      [-1, -2],
      [1, 2],
      [1, -2],
      [-1, 2],
    ]
    const found = picker().within(fromAbove(bow, true))
    expect(found.length).toBeGreaterThan(0)
    expect(found.length).toBeLessThan(14)
  })
})
