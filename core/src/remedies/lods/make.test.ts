import type { MeshFacts } from '@stern-gate/contract'
import { describe, expect, it } from 'vitest'
import { measureFixture, subjectsOf } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { judge } from '../../judge/judge'
import { writeWork } from '../../recipe/writeWork'
import type { Work } from '../work'

async function factsOf(work: Work): Promise<MeshFacts> {
  const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
  return (await measureFixture(files)).find((f) => f.facts?.kind === 'mesh')!.facts as MeshFacts
}
const rulesIn = async (work: Work, station: string): Promise<string[]> => {
  const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
  return judge((await subjectsOf(files))[0]!).findings.flatMap((f) => (f.station === station ? [f.rule] : []))
}

describe('levels that are made', () => {
  it('are each half of the one before, with the slots, channels and size of the finest', async () => {
    const work = await openedCrate({ grid: 16, faceSlots: ['crate-wood', 'crate-iron'] })
    const done = await mend(work, 'lods/make', { levels: 3, ratio: 0.5 })
    expect(done.said).toMatch(/^LOD 1: 1\u202f\d{3}, LOD 2: \d{3}, LOD 3: \d{3}$/)
    const { nodes } = await factsOf(work)
    const level = (n: number) => nodes!.find((node) => node.name === `harbour_crate_a_lod${n}`)!
    const triangles = (n: number): number => level(n).primitives.reduce((sum, p) => sum + p.triangles, 0)
    expect(triangles(1)).toBeLessThanOrEqual(3072 / 2)
    expect(triangles(2)).toBeLessThanOrEqual(3072 / 4)
    expect(triangles(3)).toBeLessThanOrEqual(3072 / 8)
    for (const n of [1, 2, 3]) {
      expect(
        level(n)
          .primitives.map((p) => p.slot)
          .sort(),
      ).toEqual(['crate-iron', 'crate-wood'])
      expect(level(n).primitives.every((p) => p.uvChannels.length === 1)).toBe(true)
      expect(level(n).bounds).toEqual(level(1).bounds)
    }
    // The finest is as it was, and the chain is one by every rule of the station
    expect(
      nodes!.find((n) => n.name === 'harbour_crate_a')!.primitives.reduce((s, p) => s + p.triangles, 0),
    ).toBe(3072)
    expect(await rulesIn(work, 'lods')).toEqual([])
  })
  it('are not made where there are some, nor where nothing can go', async () => {
    expect((await mend(await openedCrate({ levels: 2, grid: 8 }), 'lods/make')).said).toContain('already')
    await expect(mend(await openedCrate(), 'lods/make')).rejects.toThrow('Nothing can go')
    await expect(mend(await openedCrate({ grid: 16, clip: 'crate@fall' }), 'lods/make')).rejects.toThrow(
      'A clip moves a part',
    )
  })
  it('are left out where one would hardly be coarser', async () => {
    const work = await openedCrate({ grid: 3 })
    const { said } = await mend(work, 'lods/make', { levels: 6, ratio: 0.5 })
    expect(said.split(', ').length).toBeLessThan(6)
  })
})

describe('collision that is made', () => {
  it('is one closed convex hull around all of it, named after the asset', async () => {
    const work = await openedCrate({ hull: false, grid: 4 })
    const done = await mend(work, 'collision/make', { kind: 'hull', corners: 32 })
    expect(done.said).toBe('one shape of up to 8 corners')
    const facts = await factsOf(work)
    const hull = facts.nodes!.find((n) => n.name === 'harbour_crate_a_hull')!
    expect(hull.hull).toMatchObject({ convex: true, corners: 8 })
    expect(hull.hull!.volume).toBeCloseTo(1, 6)
    expect(facts.fit!.farthestOut).toBeLessThan(1e-6)
    expect(await rulesIn(work, 'collision')).toEqual([])
    expect(await rulesIn(work, 'slots')).toEqual([])
  })
  it('has no more corners than are asked for, and stands a little in where it has few', async () => {
    const work = await openedCrate({ hull: false, grid: 8, wedge: 'Y' })
    await mend(work, 'collision/make', { kind: 'hull', corners: 8 })
    const hull = (await factsOf(work)).nodes!.find((n) => n.name.endsWith('_hull'))!.hull!
    expect(hull.corners).toBeLessThanOrEqual(8)
    expect(hull.convex).toBe(true)
  })
  it('takes the place of what is there; a box has its size', async () => {
    const work = await openedCrate({ hullKind: 'open' })
    await mend(work, 'collision/make', { kind: 'box' })
    const nodes = (await factsOf(work)).nodes!.filter((n) => n.hull !== null)
    expect(nodes.map((n) => [n.name, n.hull!.convex])).toEqual([['harbour_crate_a_hull', true]])
    expect(nodes[0]!.bounds).toEqual({ min: [-0.5, 0, -0.5], max: [0.5, 1, 0.5] })
  })
})

describe('levels that are made within a distance', () => {
  it('lie no further off than is allowed, measured anew in the written file, with few triangles', async () => {
    const work = await openedCrate({ grid: 16, wedge: 'Z' })
    await mend(work, 'lods/make', { metres: [0.002, 0.01, 0.05] })
    const { chain, nodes } = await factsOf(work)
    expect(chain!.errors.length).toBeGreaterThan(0)
    chain!.errors.forEach(({ most }, i) => expect(most).toBeLessThanOrEqual([0.002, 0.01, 0.05][i]! * 1.001))
    const first = nodes!.find((n) => n.name === 'harbour_crate_a_lod1')!
    expect(first.primitives.reduce((sum, p) => sum + p.triangles, 0)).toBeLessThan(3072 / 4)
  })
  it('are refused where none comes out coarser', async () => {
    await expect(mend(await openedCrate(), 'lods/make', { metres: [0.000001] })).rejects.toThrow(
      'Nothing can go',
    )
    await expect(mend(await openedCrate(), 'lods/make', { metres: 'near' })).rejects.toThrow('metres')
  })
})
