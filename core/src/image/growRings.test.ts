import { describe, expect, it } from 'vitest'
import { growRings } from './growRings'

const taken = (seeds: number[], size: [number, number], rings: number) => {
  const given = new Map<number, number[]>()
  const reached = growRings(Uint8Array.from(seeds), size, rings, (texel, known) =>
    given.set(
      texel,
      [...known].sort((a, b) => a - b),
    ),
  )
  return { given, reached: [...reached] }
}

describe('growing ring by ring', () => {
  it('gives each texel its neighbours of earlier rings, and none of its own', () => {
    const { given, reached } = taken([0, 0, 0, 0, 1, 0, 0, 0, 0], [3, 3], 1)
    expect([...given.keys()].sort((a, b) => a - b)).toEqual([0, 1, 2, 3, 5, 6, 7, 8])
    for (const known of given.values()) expect(known).toEqual([4])
    expect(reached).toEqual([1, 1, 1, 1, 1, 1, 1, 1, 1])
  })
  it('goes as far as it is asked to, from ring to ring', () => {
    const { given, reached } = taken([1, 0, 0, 0, 0], [5, 1], 3)
    expect([...given]).toEqual([
      [1, [0]],
      [2, [1]],
      [3, [2]],
    ])
    expect(reached).toEqual([1, 1, 1, 1, 0])
  })
  it('goes around what is marked, and does not count it', () => {
    const { given, reached } = taken([1, 2, 0, 0, 2, 0], [3, 2], 2)
    expect([...given]).toEqual([[3, [0]]])
    expect(reached).toEqual([1, 0, 0, 1, 0, 0])
  })
})
