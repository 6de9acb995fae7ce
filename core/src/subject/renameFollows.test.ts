import { describe, expect, it } from 'vitest'
import { crateFiles, type CrateOptions } from '../fixtures/crateFixture'
import { subjectsOf } from '../fixtures/measureFixture'
import { openedCrate } from '../fixtures/workFixture'
import { fixturePorts } from '../fixtures/pngFixture'
import { applyRecipe } from '../recipe/applyRecipe'
import { writeWork } from '../recipe/writeWork'
import { renameFollows } from './renameFollows'
import type { Subject } from './subject'

const crate: CrateOptions = {
  name: 'Crate final',
  textureName: 'Crate final',
  levels: 2,
  textureSize: [64, 64],
}

/** What renaming one thing really makes of the asset. */
async function renamed(
  options: CrateOptions,
  rename: { what: string; from: string; to: string },
): Promise<Subject> {
  const work = await openedCrate(options)
  const done = await applyRecipe(
    work,
    { steps: [{ id: '1', remedy: 'names/rename', options: rename, on: true, why: '' }] },
    fixturePorts,
  )
  if (!done.ok) throw new Error(done.fault.why)
  return (await subjectsOf(Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))))[0]!
}

/** Every name of an asset that a rename could touch. */
const allNames = (subject: Subject): string[] =>
  [
    ...(subject.mesh!.nodes ?? []).flatMap((n) => [
      `node ${n.name}`,
      ...(n.mesh === null ? [] : [`mesh ${n.mesh}`]),
    ]),
    ...subject.textures.map((t) => `texture ${t.name}`),
    `file ${subject.path.split('/').at(-1)}`,
  ].sort()

describe('what goes along with a new name', () => {
  it('is just what renaming the asset changes', async () => {
    const [before] = await subjectsOf(await crateFiles(crate)),
      from = before!.things.find((t) => t.what === 'asset')!.full
    const follows = renameFollows(before!, { what: 'asset', from })
    expect(new Set(follows.map((f) => f.what))).toEqual(
      new Set(['file', 'node', 'mesh', 'texture', 'reference']),
    )
    const after = await renamed(crate, { what: 'asset', from, to: 'harbour_crate_b' })
    const table = new Map(
      follows
        .filter((f) => f.what !== 'reference')
        .map((f) => [`${f.what} ${f.from}`, `${f.what} harbour_crate_b${f.rest}`]),
    )
    expect(allNames(after)).toEqual(
      allNames(before!)
        .map((name) => table.get(name) ?? name)
        .sort(),
    )
    // References point at the new file names
    const pointed = follows.filter((f) => f.what === 'reference').map((f) => `harbour_crate_b${f.rest}`)
    expect(pointed.length).toBeGreaterThan(2)
    expect(new Set(pointed)).toEqual(
      new Set(after.references.filter((r) => r.kind === 'image').map((r) => r.resolved!.split('/').at(-1)!)),
    )
  })

  it('of a texture are the inputs that it feeds', async () => {
    const [before] = await subjectsOf(await crateFiles(crate)),
      texture = before!.textures.find((t) => t.role === 'orm')!
    const follows = renameFollows(before!, { what: 'texture', from: texture.name })
    expect(follows.map((f) => [f.what, f.rest])).toEqual(texture.uses.map(() => ['reference', '.png']))
    const after = await renamed(crate, { what: 'texture', from: texture.name, to: 'harbour_crate_b_orm' })
    expect(after.textures.find((t) => t.name === 'harbour_crate_b_orm.png')!.uses).toEqual(texture.uses)
  })

  it('of a slot are the nodes that wear it, of a node the clips that move it', async () => {
    const [plain] = await subjectsOf(await crateFiles(crate)),
      [moved] = await subjectsOf(await crateFiles({ clip: 'crate@open' }))
    const slot = plain!.mesh!.slots![0]!.name
    expect(
      renameFollows(plain!, { what: 'slot', from: slot })
        .map((f) => f.from)
        .sort(),
    ).toEqual(
      plain!
        .mesh!.nodes!.filter((n) => n.primitives.some((p) => p.slot === slot))
        .map((n) => n.path)
        .sort(),
    )
    const animated = moved!.mesh!.nodes!.find((n) => n.animated)!
    expect(renameFollows(moved!, { what: 'node', from: animated.name })).toEqual([
      { what: 'clip', from: 'crate@open', rest: '' },
    ])
    expect(renameFollows(plain!, { what: 'node', from: plain!.mesh!.nodes![0]!.name })).toEqual([])
  })
})
