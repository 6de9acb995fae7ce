import { describe, expect, it } from 'vitest'
import { openedCrate } from '../../fixtures/workFixture'
import { mend } from '../../fixtures/mendFixture'
import { fixturePorts } from '../../fixtures/pngFixture'
import { applyRecipe } from '../../recipe/applyRecipe'
import { nodePaths } from '../../scene/nodePaths'
import { primitiveView } from '../../scene/primitiveView'
import { packPicked } from '../../surfaces/pickedParts'
import type { Work } from '../work'

const slot = 'crate-wood'
const meshOf = (work: Work) => [...nodePaths(work.document!)].find(([n]) => n.getMesh())!
const slotsOf = (work: Work): [string, number][] =>
  meshOf(work)[0]
    .getMesh()!
    .listPrimitives()
    .map((p) => [p.getMaterial()!.getName(), primitiveView(p).indices.length / 3])

async function pick(work: Work, picked: number[], options = {}) {
  const [node, path] = meshOf(work),
    { positions, indices } = primitiveView(node.getMesh()!.listPrimitives()[0]!)
  const data = { kind: 'picked', parts: [packPicked({ node: path, positions, indices, picked })] }
  const bytes = new TextEncoder().encode(JSON.stringify(data))
  return applyRecipe(
    work,
    {
      steps: [
        { id: '1', remedy: 'slots/part', options: { name: 'lid', data: 'x', ...options }, on: true, why: '' },
      ],
    },
    { ...fixturePorts, stepData: () => bytes },
  )
}

describe('a part of its own', () => {
  it('has the picked triangles, with a copy of their slot', async () => {
    const work = await openedCrate({ hull: false })
    const before = slotsOf(work)
    expect(before).toEqual([[slot, 12]])
    const done = await pick(work, [0, 1])
    expect(done.ok && done.value[0]).toMatchObject({ changed: true, said: '2 triangles have lid' })
    expect(slotsOf(work)).toEqual([
      [slot, 10],
      ['lid', 2],
    ])
    const [, lid] = work.document!.getRoot().listMaterials()
    expect(lid!.getBaseColorTexture()).toBe(
      work.document!.getRoot().listMaterials()[0]!.getBaseColorTexture(),
    )
  })
  it('can be a whole node, which keeps its primitive', async () => {
    const work = await openedCrate({ hull: false })
    await mend(work, 'slots/part', { name: 'all', node: meshOf(work)[1] })
    expect(slotsOf(work)).toEqual([['all', 12]])
  })
  it('leaves what has another slot, and says when nothing was found', async () => {
    const work = await openedCrate({ hull: false })
    const done = await pick(work, [0, 1], { slot: 'another' })
    expect(done.ok && done.value[0]).toMatchObject({ changed: false, said: 'no triangle was found' })
    expect(work.document!.getRoot().listMaterials()).toHaveLength(1)
  })
  it('joins a slot that is there, such as one that a re-export brings under that name', async () => {
    const work = await openedCrate({ hull: false })
    const lid = work.document!.createMaterial('lid')
    await pick(work, [0, 1])
    expect(slotsOf(work)).toEqual([
      [slot, 10],
      ['lid', 2],
    ])
    expect(work.document!.getRoot().listMaterials()).toHaveLength(2)
    expect(meshOf(work)[0].getMesh()!.listPrimitives()[1]!.getMaterial()).toBe(lid)
    // What has it already stays as it is
    const again = await mend(work, 'slots/part', { name: slot, node: meshOf(work)[1], slot })
    expect(again.changed).toBe(false)
  })
  it('is refused without anything named, and where what was picked is gone', async () => {
    const work = await openedCrate({ hull: false })
    await expect(mend(work, 'slots/part', { name: 'new' })).rejects.toThrow('Neither')
    await expect(mend(work, 'slots/part', { name: 'new', data: 'gone' })).rejects.toThrow('not there')
  })
})
