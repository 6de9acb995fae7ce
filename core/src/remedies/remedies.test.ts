import { Document } from '@gltf-transform/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { Bounds, NodeFacts, RemedyOptions } from '@stern-gate/contract'
import { boxOf, crateFiles, type CrateOptions, type FixtureFiles } from '../fixtures/crateFixture'
import { measureFixture } from '../fixtures/measureFixture'
import { fixturePorts } from '../fixtures/pngFixture'
import { joinBounds } from '../geometry/pointBounds'
import { measureNodes } from '../measure/measureNodes'
import { readGltfContainer } from '../read/readGltfContainer'
import { applyRecipe } from '../recipe/applyRecipe'
import { writeForStage, writeWork } from '../recipe/writeWork'
import { moveDocument } from './scale/movePivot'
import { remedies } from './index'
import { rescaleDocument } from './scale/rescale'
import { openWork, type Work } from './work'

async function opened(
  options: CrateOptions = {},
): Promise<{ work: Work; files: FixtureFiles; main: string }> {
  const files = await crateFiles(options)
  const main = Object.keys(files).find((p) => p.endsWith('.glb'))!
  const work = await openWork(
    'x',
    'mesh',
    main,
    Object.entries(files).map(([path, bytes]) => ({ path, part: path === main ? 'mesh' : 'texture', bytes })),
  )
  if (!work.ok) throw new Error(work.fault.why)
  return { work: work.value, files, main }
}

const run = (work: Work, ...steps: [string, RemedyOptions][]) =>
  applyRecipe(
    work,
    { steps: steps.map(([remedy, options], i) => ({ id: String(i), remedy, options, on: true, why: '' })) },
    fixturePorts,
  )

const boundsOf = (nodes: NodeFacts[]): Bounds => joinBounds(nodes.map((n) => n.bounds))!
const worldBounds = async (document: Document): Promise<Bounds> =>
  boundsOf((await measureNodes(document, () => undefined)).nodes)

/**
 * A turned, scaled and moved node with a child, a clip and a skin-like tree: what a similarity has to carry
 * through.
 */
function turnedDocument(): Document {
  const document = new Document()
  const buffer = document.createBuffer()
  const box = boxOf(1, [0.3, 0, 0], 1)
  const mesh = () =>
    document.createMesh().addPrimitive(
      document
        .createPrimitive()
        .setAttribute(
          'POSITION',
          document
            .createAccessor()
            .setType('VEC3')
            .setArray(new Float32Array(box.positions))
            .setBuffer(buffer),
        )
        .setIndices(document.createAccessor().setArray(new Uint32Array(box.indices)).setBuffer(buffer)),
    )
  const child = document.createNode('child').setMesh(mesh()).setTranslation([0, 2, 0])
  const root = document
    .createNode('root')
    .setMesh(mesh())
    .setTranslation([1, 2, 3])
    .setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2])
    .setScale([2, 1, 0.5])
    .addChild(child)
  document.createScene().addChild(root)
  return document
}

describe('scale', () => {
  it('by f makes every world bound f times itself, through turned and scaled parents', async () => {
    await fc.assert(
      fc.asyncProperty(fc.double({ min: 0.001, max: 1000, noNaN: true }), async (factor) => {
        const document = turnedDocument()
        const before = await worldBounds(document)
        rescaleDocument(document, factor)
        const after = await worldBounds(document)
        for (let i = 0; i < 3; i++) {
          expect(after.min[i]! / factor).toBeCloseTo(before.min[i]!, 3)
          expect(after.max[i]! / factor).toBeCloseTo(before.max[i]!, 3)
        }
      }),
      { numRuns: 40 },
    )
  })
  it('keeps node scales, and scales the steps of a clip', async () => {
    const { work } = await opened({ clip: 'crate@rise' })
    await run(work, ['scale/rescale', { factor: 0.01 }])
    const output = work.document!.getRoot().listAnimations()[0]!.listSamplers()[0]!.getOutput()!.getArray()!
    expect(output[4]).toBeCloseTo(0.01, 6)
    expect(
      work
        .document!.getRoot()
        .listNodes()
        .every((n) => n.getScale().join() === '1,1,1'),
    ).toBe(true)
  })
})

describe('pivot', () => {
  it('moves the world by just the vector, whatever the parents', async () => {
    await fc.assert(
      fc.asyncProperty(
        fc.tuple(
          ...([0, 1, 2].map(() => fc.integer({ min: -50, max: 50 })) as [
            fc.Arbitrary<number>,
            fc.Arbitrary<number>,
            fc.Arbitrary<number>,
          ]),
        ),
        async (by) => {
          const document = turnedDocument()
          const before = await worldBounds(document)
          moveDocument(document, by)
          const after = await worldBounds(document)
          for (let i = 0; i < 3; i++) expect(after.min[i]! - before.min[i]!).toBeCloseTo(by[i]!, 4)
        },
      ),
      { numRuns: 40 },
    )
  })
  it('leaves the node of a square root at the origin: the points move instead', async () => {
    const { work } = await opened({ at: [0.4, 0.2, 0] })
    const done = await run(work, ['scale/move-pivot', { to: 'base-centre' }])
    expect(done).toMatchObject({ ok: true, value: [{ changed: true }] })
    expect(
      work
        .document!.getRoot()
        .listNodes()
        .map((n) => n.getTranslation()),
    ).toEqual([
      [0, 0, 0],
      [0, 0, 0],
    ])
    expect((await worldBounds(work.document!)).min.map((v) => v + 0)).toEqual(
      [-0.5, 0, -0.5].map((v) => expect.closeTo(v, 5)),
    )
  })
  it('says so when there is nothing to do', async () => {
    const { work } = await opened()
    expect(await run(work, ['scale/move-pivot', { to: 'base-centre' }])).toMatchObject({
      ok: true,
      value: [{ changed: false }],
    })
  })
  it('goes to a named node, and says so when there is none', async () => {
    const { work } = await opened({ at: [0.4, 0.2, 0] })
    work
      .document!.getRoot()
      .listScenes()[0]!
      .addChild(work.document!.createNode('grip').setTranslation([0.1, 0.3, -0.2]))
    expect(await run(work, ['scale/move-pivot', { to: 'node', node: 'grip' }])).toMatchObject({
      ok: true,
      value: [{ changed: true }],
    })
    expect(
      work
        .document!.getRoot()
        .listNodes()
        .find((n) => n.getName() === 'grip')!
        .getWorldTranslation()
        .map((v) => Number(v.toFixed(6)) + 0),
    ).toEqual([0, 0, 0])
    expect(await run(work, ['scale/move-pivot', { to: 'node', node: 'handle' }])).toMatchObject({
      ok: false,
      fault: { code: 'remedy/not-applicable' },
    })
  })
  it('an animated root moves along its whole way', async () => {
    const { work } = await opened({ at: [1, 0, 0], clip: 'crate@rise' })
    await run(work, ['scale/move-pivot', { to: 'base-centre' }])
    const output = work.document!.getRoot().listAnimations()[0]!.listSamplers()[0]!.getOutput()!.getArray()!
    expect([...output]).toEqual([-1, 0, 0, -1, 1, 0])
  })
})

describe('triangles without an area', () => {
  it('go, with what only they used; all others stay in their order', async () => {
    const { work } = await opened({ slivers: 4, brokenIndex: true })
    const before = work.document!.getRoot().listMeshes()[0]!.listPrimitives()[0]!
    expect(before.getIndices()!.getCount()).toBe(36 + 15)
    await run(work, ['mesh/drop-degenerate', {}])
    const primitive = work.document!.getRoot().listMeshes()[0]!.listPrimitives()[0]!
    expect(primitive.getIndices()!.getCount()).toBe(36)
    expect(primitive.getAttribute('POSITION')!.getCount()).toBe(24)
    expect((await measureNodes(work.document!, () => undefined)).nodes[0]!.primitives[0]!.area).toBeCloseTo(
      6,
      9,
    )
  })
})

describe('names', () => {
  it('of an asset take level, hull and textures along, and the mesh still finds its textures', async () => {
    const { work } = await opened({ levels: 2, grid: 4 })
    await run(work, ['names/rename', { what: 'asset', from: 'harbour_crate_a', to: 'harbour_chest_b' }])
    const files = await writeWork(work)
    expect(files.map((f) => f.path).sort()).toEqual([
      'props/harbour_chest_b.glb',
      'props/harbour_chest_b_basecolor.png',
      'props/harbour_chest_b_normal.png',
      'props/harbour_chest_b_orm.png',
    ])
    const measured = await measureFixture(Object.fromEntries(files.map((f) => [f.path, f.bytes])))
    const facts = measured.find((m) => m.kind === 'glb')!.facts
    expect(facts?.kind === 'mesh' && facts.nodes!.map((n) => n.name)).toEqual([
      'harbour_chest_b_lod0',
      'harbour_chest_b_lod1',
      'harbour_chest_b_hull',
    ])
    expect(
      facts?.kind === 'mesh' && facts.file.images.every((i) => files.some((f) => f.path === i.uri)),
    ).toBe(true)
  })
  it('of a texture may be used by later steps under the old name, and no two become the same', async () => {
    const { work } = await opened({ normalSpace: 'srgb' })
    const done = await run(
      work,
      ['names/rename', { what: 'texture', from: 'harbour_crate_a_normal.png', to: 'harbour_box_normal' }],
      ['colour/set-space', { texture: 'harbour_crate_a_normal.png', space: 'linear' }],
    )
    expect(done).toMatchObject({ ok: true, value: [{ changed: true }, { changed: true }] })
    expect(
      await run(work, [
        'names/rename',
        { what: 'texture', from: 'harbour_box_normal.png', to: 'harbour_crate_a_orm' },
      ]),
    ).toMatchObject({ ok: false, fault: { code: 'remedy/name-taken', where: { step: 0 } } })
  })
  it.each(['../x', 'a/b', 'x.', '.x', '', 'a\u0000'])('never become %j', async (to) => {
    const { work } = await opened()
    expect(await run(work, ['names/rename', { what: 'asset', from: 'harbour_crate_a', to }])).toMatchObject({
      ok: false,
      fault: { code: 'remedy/bad-options' },
    })
  })
})

describe('shrinking', () => {
  it('leaves a texture that is not flat as it is, byte for byte', async () => {
    const { work } = await opened()
    const texture = work.textures.find((t) => t.name.includes('basecolor'))!,
      before = texture.bytes
    expect(await run(work, ['colour/shrink', { texture: texture.name }])).toMatchObject({
      ok: true,
      value: [{ changed: false }],
    })
    expect(texture.bytes).toBe(before)
  })
})

describe('a recipe', () => {
  it('keeps everything that no step touches: what is written reads as the same facts', async () => {
    for (const options of [
      {},
      { embed: true },
      { levels: 3, grid: 4, clip: 'crate@open' },
      { uvs: 'two' as const },
    ]) {
      const { work, files } = await opened(options)
      const written = Object.fromEntries((await writeWork(work)).map((f) => [f.path, f.bytes]))
      const [before, after] = [await measureFixture(files), await measureFixture(written)]
      const plain = (m: typeof before) =>
        m.map(({ path, facts }) => [
          path,
          facts?.kind === 'mesh'
            ? { ...facts, file: { ...facts.file, sizeBytes: 0, generator: '', buffers: [] } }
            : facts,
        ])
      expect(plain(after)).toEqual(plain(before))
    }
  })
  it('gives the same bytes each time', async () => {
    const write = async () => {
      const { work } = await opened({ green: 'down', size: 100 })
      await run(
        work,
        ['scale/rescale', { factor: 0.01 }],
        ['colour/flip-green', { texture: 'harbour_crate_a_normal.png' }],
      )
      return writeWork(work)
    }
    expect(await write()).toEqual(await write())
  })
  it('refuses unknown remedies, bad options and textures that are not there, with the step', async () => {
    const { work } = await opened()
    expect(await run(work, ['scale/rescale', { factor: 1 }], ['no/such', {}])).toMatchObject({
      ok: false,
      fault: { code: 'remedy/unknown', where: { step: 1 } },
    })
    expect(await run(work, ['scale/rescale', { factor: -1 }])).toMatchObject({
      ok: false,
      fault: { code: 'remedy/bad-options' },
    })
    expect(await run(work, ['colour/flip-green', { texture: 'none.png' }])).toMatchObject({
      ok: false,
      fault: { code: 'remedy/not-applicable' },
    })
  })
  it('skips steps that are off', async () => {
    const { work } = await opened({ size: 100 })
    const done = await applyRecipe(
      work,
      { steps: [{ id: 'a', remedy: 'scale/rescale', options: { factor: 0.01 }, on: false, why: '' }] },
      fixturePorts,
    )
    expect(done).toEqual({ ok: true, value: [] })
  })
  it('turned twice, green is as before', async () => {
    const { work, files } = await opened()
    const name = 'harbour_crate_a_normal.png'
    await run(work, ['colour/flip-green', { texture: name }], ['colour/flip-green', { texture: name }])
    const pixels = async (bytes: Uint8Array) => fixturePorts.decode(bytes, {} as never)
    expect(await pixels(work.textures.find((t) => t.name === name)!.bytes)).toEqual(
      await pixels(files[`props/${name}`]!),
    )
  })
  it('for the stage holds every picture inside', async () => {
    const { work } = await opened({ without: ['orm'] })
    const glb = await writeForStage(work)
    const container = readGltfContainer(glb!)
    expect(container.ok && container.value.json.images.every((i) => i.uri === undefined)).toBe(true)
    expect(container.ok && container.value.json.images.length).toBe(2)
  })
})

it('every remedy says what it does and has an id like a path', () => {
  for (const remedy of remedies) {
    expect(remedy.id).toMatch(/^[a-z]+\/[a-z-]+$/)
    expect(remedy.about.length).toBeGreaterThan(40)
  }
  expect(new Set(remedies.map((r) => r.id)).size).toBe(remedies.length)
})
