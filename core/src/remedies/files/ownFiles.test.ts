import { describe, expect, it } from 'vitest'
import { crateFiles } from '../../fixtures/crateFixture'
import type { CrateOptions } from '../../fixtures/crateOptions'
import { measureFixture, subjectsOf } from '../../fixtures/measureFixture'
import { mend } from '../../fixtures/mendFixture'
import { openedCrate } from '../../fixtures/workFixture'
import { writeWork } from '../../recipe/writeWork'
import type { Subject } from '../../subject/subject'

const CRATE: CrateOptions = { levels: 3, grid: 4 }
const apart = { levels: true, hulls: true }

async function written(options: { levels: boolean; hulls: boolean }, crate = CRATE) {
  const work = await openedCrate(crate)
  const done = await mend(work, 'files/own-files', options)
  return { done, files: Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes])) }
}
const meshesOf = (files: Record<string, Uint8Array>): string[] =>
  Object.keys(files)
    .filter((path) => path.endsWith('.glb'))
    .map((path) => path.replace(/^.*harbour_crate_a/, ''))

/** What is drawn and what is collision, by level. */
const shapeOf = ({ parts, bounds }: Subject) => ({
  levels: [...parts.levels].map(([level, nodes]) => [
    level,
    nodes.flatMap((n) => n.primitives).reduce((sum, p) => sum + p.triangles, 0),
    nodes.map((n) => n.bounds),
  ]),
  collision: parts.collision.map((n) => n.bounds),
  bounds,
})

describe('levels and hulls as files of their own', () => {
  it('are what they were, and belong to one asset again when they arrive', async () => {
    const { done, files } = await written(apart)
    expect(done).toEqual({
      id: '1',
      remedy: 'files/own-files',
      changed: true,
      said: '3 files beside the mesh',
    })
    expect(meshesOf(files)).toEqual(['.glb', '_lod1.glb', '_lod2.glb', '_hull.glb'])
    const [before] = await subjectsOf(await crateFiles(CRATE)),
      after = await subjectsOf(files)
    expect(after).toHaveLength(1)
    expect(shapeOf(after[0]!)).toEqual(shapeOf(before!))
    expect(after[0]!.textures.map((t) => t.name)).toEqual(before!.textures.map((t) => t.name))
  })
  it('each hold only what is theirs: the mesh has one level and no hull', async () => {
    const measured = await measureFixture((await written(apart)).files)
    const nodes = measured.flatMap(({ path, facts }) =>
      facts?.kind === 'mesh' ? [[path.replace(/^.*_a/, ''), facts.nodes!.filter((n) => n.mesh).length]] : [],
    )
    expect(Object.fromEntries(nodes)).toEqual({ '.glb': 1, '_lod1.glb': 1, '_lod2.glb': 1, '_hull.glb': 1 })
    const slots = measured.flatMap(({ facts }) => (facts?.kind === 'mesh' ? [facts.slots!.length] : []))
    // The hull wears no slot
    expect(slots.sort()).toEqual([0, 1, 1, 1])
  })
  it('of a mesh whose file is named for its level are named beside it, and found again', async () => {
    const work = await openedCrate(CRATE)
    work.path = work.path!.replace('.glb', '_lod0.glb')
    await mend(work, 'files/own-files', apart)
    const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
    expect(meshesOf(files)).toEqual(['_lod0.glb', '_lod1.glb', '_lod2.glb', '_hull.glb'])
    const [subject] = await subjectsOf(files)
    expect([...subject!.parts.levels.keys()]).toEqual([0, 1, 2])
  })
  it('of only one kind leave the other in the mesh', async () => {
    expect(meshesOf((await written({ levels: false, hulls: true })).files)).toEqual(['.glb', '_hull.glb'])
    expect(meshesOf((await written({ levels: true, hulls: false })).files)).toEqual([
      '.glb',
      '_lod1.glb',
      '_lod2.glb',
    ])
  })
  it('a slot that only a level wears goes with it', async () => {
    const work = await openedCrate(CRATE)
    const root = work.document!.getRoot()
    const picture = work.document!.createTexture('far')
    work.textures.push({ ...work.textures[0]!, name: 'far', path: null, pictures: [picture] })
    const own = work.document!.createMaterial('far').setBaseColorTexture(picture)
    for (const mesh of root.listMeshes())
      if (mesh.getName().endsWith('lod2')) mesh.listPrimitives().forEach((p) => p.setMaterial(own))
    await mend(work, 'files/own-files', apart)
    const files = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
    const slotsOf = Object.fromEntries(
      (await measureFixture(files)).flatMap(({ path, facts }) =>
        facts?.kind === 'mesh' ? [[path.replace(/^.*_a/, ''), facts.slots!.map((s) => s.name)]] : [],
      ),
    )
    expect(slotsOf['_lod2.glb']).toEqual(['far'])
    // And its picture, which is inside the file
    expect(root.listTextures().map((t) => t.getName())).not.toContain('far')
    expect(slotsOf['.glb']).not.toContain('far')
  })
  it('switches are taken out with the levels, and stay with hulls alone', async () => {
    const crate = { ...CRATE, coverages: [0.4, 0.2, 0.01] }
    const chainOf = async (options: typeof apart) => {
      const measured = await measureFixture((await written(options, crate)).files)
      return measured.flatMap(({ facts }) => (facts?.kind === 'mesh' ? [facts.chain?.coverages ?? null] : []))
    }
    expect(await chainOf(apart)).toEqual([null, null, null, null])
    expect(await chainOf({ levels: false, hulls: true })).toContainEqual([0.4, 0.2, 0.01])
  })
  it('a mesh with one level and no hull stays as it is', async () => {
    const { done, files } = await written(apart, { hull: false })
    expect(done.changed).toBe(false)
    expect(meshesOf(files)).toEqual(['.glb'])
  })
})
