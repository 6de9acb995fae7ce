import { describe, expect, it } from 'vitest'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { partsOfDocument } from '../../measure/partsOfDocument'
import type { Work } from '../work'

const levelsOf = (work: Work) =>
  Object.fromEntries(
    [...partsOfDocument(work.document!).levels].map(([level, nodes]) => [level, nodes.map((n) => n.name)]),
  )
/** A crate of two levels whose coarser one says nothing of it. */
async function unmarked(): Promise<Work> {
  const work = await openedCrate({ levels: 2, grid: 4, hull: false })
  const coarse = partsOfDocument(work.document!).levels.get(1)![0]!
  coarse.node.setName('crate_far').getMesh()!.setName('crate_far')
  return work
}

describe('a node given to a level', () => {
  it('is that level, and no longer part of the finest', async () => {
    const work = await unmarked()
    expect(levelsOf(work)).toEqual({ 0: ['harbour_crate_a_lod0', 'crate_far'] })
    const { said } = await mend(work, 'lods/give-level', { node: 'crate_far', level: 1 })
    expect(said).toBe('crate_far is crate_far_lod1, LOD 1')
    expect(levelsOf(work)).toEqual({ 0: ['harbour_crate_a_lod0'], 1: ['crate_far_lod1'] })
  })
  it('may change its level, whatever its mesh is called', async () => {
    const work = await openedCrate({ levels: 3, grid: 4, hull: false })
    const [path] = partsOfDocument(work.document!)
      .levels.get(2)!
      .map((n) => n.path)
    await mend(work, 'lods/give-level', { node: path!, level: 0 })
    expect(Object.keys(levelsOf(work))).toEqual(['0', '1'])
    expect(levelsOf(work)[0]).toContain('harbour_crate_a_lod0')
  })
  it('is nothing new where it is that level, and refused where there is no mesh', async () => {
    const work = await unmarked()
    await mend(work, 'lods/give-level', { node: 'crate_far', level: 1 })
    expect((await mend(work, 'lods/give-level', { node: 'crate_far_lod1', level: 1 })).changed).toBe(false)
    await expect(mend(work, 'lods/give-level', { node: 'crate_far', level: 1 })).rejects.toThrow('No node')
  })
})
