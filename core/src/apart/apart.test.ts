import { describe, expect, it } from 'vitest'
import { Document } from '@gltf-transform/core'
import fc from 'fast-check'
import { scenePlanSchema, type ScenePlan } from '@stern-gate/contract'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { measureFixture } from '../fixtures/measureFixture'
import { sceneFile, shedNodes, type SceneFixtureNode } from '../fixtures/sceneFixture'
import { multiplyMatrices, transformPoints } from '../geometry/matrix'
import { openMeshFile } from '../read/readMeshFile'
import { readMesh, type MeshSource } from '../read/readMesh'
import { nodePaths } from '../scene/nodePaths'
import { primitiveView } from '../scene/primitiveView'
import { worldPositions } from '../scene/worldPositions'
import { holdsSeveral, partsByPlan, proposeWays } from './proposeParts'
import { compareParts, keptPart } from './compareParts'
import { writeGlb } from '../write/writeGlb'
import { takeApart, type TakenApart } from './takeApart'
import { writePlacements } from './writePlacements'

const plan = (p: Partial<ScenePlan> = {}): ScenePlan => scenePlanSchema.parse(p)
const hash = (bytes: Uint8Array): string => `${bytes.length}-${bytes.reduce((h, b) => (h * 31 + b) | 0, 7)}`

async function factsOf(nodes: readonly SceneFixtureNode[]) {
  const [measured] = await measureFixture({ 'sets/shed.glb': await sceneFile(nodes) })
  if (measured?.facts?.kind !== 'mesh') throw new Error('not measured')
  return measured.facts.nodes!
}

async function open(bytes: Uint8Array, path: string): Promise<MeshSource> {
  const opened = await openMeshFile(bytes, path, () => null)
  if (!opened.ok) throw new Error(opened.fault.why)
  const source = await readMesh(opened.value.container, opened.value.references, () => null)
  if (!source.ok) throw new Error(source.fault.why)
  return source.value
}

async function apart(nodes: readonly SceneFixtureNode[], p: ScenePlan): Promise<TakenApart> {
  const facts = await factsOf(nodes)
  const { parts } = partsByPlan(facts, p, 'shed', defaultRulebook)
  const source = await open(await sceneFile(nodes), 'sets/shed.glb')
  return takeApart({ path: 'sets/shed.glb', source, nodes: facts, parts, plan: p, hash })
}

/** Corners of all meshes in the world, as sorted texts rounded to 0.1 mm. */
function corners(source: MeshSource, by: ArrayLike<number> | null = null): string[] {
  return [...nodePaths(source.document).keys()].flatMap((node) =>
    (node.getMesh()?.listPrimitives() ?? []).flatMap((p) => {
      const world = worldPositions(node, p, primitiveView(p).positions)
      const moved = by ? transformPoints(world, by) : world
      return Array.from({ length: moved.length / 3 }, (_, v) =>
        Array.from(moved.subarray(v * 3, v * 3 + 3), (c) => (Math.round(c * 1e3) / 1e3 + 0).toFixed(3)).join(
          ' ',
        ),
      )
    }),
  )
}

async function placedCorners(taken: TakenApart): Promise<string[]> {
  const all: string[] = []
  for (const part of taken.parts) {
    const file = taken.files.find((f) => f.path === part.path)!
    const source = await open(file.bytes, file.path)
    for (const { matrix } of part.placements) all.push(...corners(source, matrix))
  }
  return all
}

const names = (nodes: Awaited<ReturnType<typeof factsOf>>, p: ScenePlan) =>
  partsByPlan(nodes, p, 'shed', defaultRulebook).parts.map((part) => part.name)

describe('proposing how a scene is taken apart', () => {
  it('by top nodes: copies are one asset, levels and hull go with their thing, the figure is left out', async () => {
    const { parts } = partsByPlan(await factsOf(shedNodes), plan(), 'shed', defaultRulebook)
    expect(parts.map((p) => [p.name, p.nodes.length, p.copies.length, p.left])).toEqual([
      ['shed_table', 1, 0, null],
      ['shed_stool', 1, 3, null],
      ['shed_door', 3, 0, null],
      ['shed_shelf', 3, 0, null],
      ['shed_figure', 1, 0, 'figure'],
    ])
    const door = parts[2]!
    expect([door.levels, door.collision, door.triangles, door.slots]).toEqual([2, true, 12, ['paint']])
  })
  it('each way with its own number of parts', async () => {
    const ways = proposeWays(await factsOf(shedNodes), 'shed', defaultRulebook)
    expect(ways.map((w) => [w.way, w.parts.length])).toEqual([
      ['top', 5],
      ['groups', 5],
      ['name', 6],
      ['distance', 5],
      ['nodes', 6],
      ['whole', 1],
    ])
  })
  it('by name: as many first words as make the most groups', async () => {
    const nodes = ['crate_oak_lid', 'crate_oak_body', 'crate_tin_lid', 'crate_tin_body'].map((name, i) => ({
      name,
      at: [i * 4, 0, 0] as [number, number, number],
      box: [1 + i, 1, 1] as [number, number, number],
    }))
    const way = partsByPlan(await factsOf(nodes), plan({ way: 'name' }), 'shed', defaultRulebook)
    expect(way.words).toBe(2)
    expect(way.parts.map((p) => p.nodes)).toEqual([
      ['crate_oak_lid', 'crate_oak_body'],
      ['crate_tin_lid', 'crate_tin_body'],
    ])
  })
  it('by distance: what touches or nearly touches is one thing, called after its largest part', async () => {
    const nodes: SceneFixtureNode[] = [
      { name: 'cup', at: [0, 0.8, 0], box: [0.1, 0.1, 0.1] },
      { name: 'big_table', at: [0, 0, 0], box: [1, 0.79, 1] },
      { name: 'far_box', at: [9, 0, 0], box: [1, 1, 1] },
    ]
    const facts = await factsOf(nodes)
    const at = (distance: number) => names(facts, plan({ way: 'distance', distance }))
    expect(at(0.02)).toEqual(['big_table', 'far_box'])
    expect(at(0.005)).toEqual(['shed_cup', 'big_table', 'far_box'])
    expect(at(20)).toEqual(['far_box'])
  })
  it('parts are joined, split, left out, kept and named by their keys', async () => {
    const facts = await factsOf(shedNodes)
    const key = (name: string) => `shed/${name}`
    const edited = partsByPlan(
      facts,
      plan({
        joined: [[key('shed_table'), key('shed_door_lod0')]],
        split: [key('shed_shelf')],
        left: [key('shed_stool.001')],
        kept: [key('figure')],
        names: { [key('shed_table')]: 'shed_corner' },
      }),
      'shed',
      defaultRulebook,
    ).parts
    expect(edited.map((p) => [p.name, p.nodes.length, p.copies.length, p.left])).toEqual([
      ['shed_corner', 4, 0, null],
      ['shed_stool', 1, 3, 'asked'],
      ['shed_board', 1, 1, null],
      ['shed_bracket', 1, 0, null],
      ['shed_figure', 1, 0, null],
    ])
  })
  it('many things called figures are no reference figures', async () => {
    const board = ['figure_king', 'figure_queen', 'figure_rook'].map((name, i) => ({
      name,
      at: [i, 0, 0] as [number, number, number],
      box: [0.1, 0.1 + i / 50, 0.1] as [number, number, number],
    }))
    const { parts } = partsByPlan(await factsOf(board), plan(), 'shed', defaultRulebook)
    expect(parts.map((p) => p.left)).toEqual([null, null, null])
  })
  it('a person without a telling name is pointed at and not left out; a door is no person', async () => {
    const { parts } = partsByPlan(
      await factsOf([
        { name: 'Body_01', at: [0, 0, 0], box: [0.6, 1.8, 0.3], fine: 4 },
        { name: 'net_rack', at: [-5, 0, 0], box: [1.36, 1.8, 0.2], fine: 4 },
        { name: 'turned_door', at: [-9, 0, 0], turn: 24, box: [0.65, 1.95, 0.05] },
        { name: 'door_leaf', at: [5, 0, 0], box: [0.9, 2, 0.05] },
        { name: 'large_box', at: [9, 0, 0], box: [2, 2, 2] },
      ]),
      plan(),
      'shed',
      defaultRulebook,
    )
    expect(parts.map((p) => [p.humanSize, p.left])).toEqual([
      [true, null],
      [false, null],
      [false, null],
      [false, null],
      [false, null],
    ])
  })
  it('says of a file whether it looks like several things', async () => {
    const is = async (nodes: SceneFixtureNode[]) => holdsSeveral(await factsOf(nodes), defaultRulebook)
    const box: [number, number, number] = [1, 1, 1]
    expect(await is(shedNodes)).toBe(true)
    expect(await is([{ name: 'crate', box }])).toBe(false)
    expect(
      await is([
        { name: 'crate', box },
        { name: 'lid', at: [0, 1, 0], box: [1, 0.1, 1] },
      ]),
    ).toBe(false)
    expect(
      await is([
        { name: 'crate_lod0', box },
        { name: 'crate_lod1', at: [3, 0, 0], box },
      ]),
    ).toBe(false)
  })
  it('500 objects in a grid: seven sizes are seven things with their copies, by whatever name', async () => {
    const many = Array.from({ length: 500 }, (_, i): SceneFixtureNode => ({
      name: `thing_${i}`,
      at: [(i % 25) * 2, 0, Math.floor(i / 25) * 2],
      box: [1 + (i % 7) / 10, 1, 1],
    }))
    const facts = await factsOf(many)
    const { parts } = partsByPlan(facts, plan(), 'shed', defaultRulebook)
    expect(parts.map((p) => p.copies.length + 1)).toEqual([72, 72, 72, 71, 71, 71, 71])
  })
})

describe('taking a scene apart', () => {
  it('every corner stands where it stood, once the parts are placed', async () => {
    for (const pivot of ['own', 'foot', 'scene'] as const) {
      const taken = await apart(shedNodes, plan({ pivot, kept: ['shed/figure'] }))
      const before = corners(await open(await sceneFile(shedNodes), 'sets/shed.glb'))
      expect((await placedCorners(taken)).sort()).toEqual(before.sort())
    }
  })
  it('a part stands about its own origin, turned back, with its heading in the placement', async () => {
    const taken = await apart(shedNodes, plan())
    const table = taken.parts[0]!
    const piece = await open(taken.files.find((f) => f.path === table.path)!.bytes, table.path)
    const own = corners(piece).map((c) => c.split(' ').map(Number))
    expect([Math.min(...own.map((c) => c[0]!)), Math.min(...own.map((c) => c[1]!))]).toEqual([-0.8, 0])
    const [m] = table.placements.map((p) => p.matrix)
    expect(m!.slice(12, 15).map((v) => Math.round(v * 1e6) / 1e6)).toEqual([2, 0, 1])
    expect(Math.acos(m![0]!)).toBeCloseTo(Math.PI / 6, 6)
  })
  it('things whose places were written into their points are copies, and get a pivot at their foot', async () => {
    const baked = [0, 3, 6].map((x, i) => ({
      name: `post_${i}`,
      at: [x + 10, 0.5, -2] as [number, number, number],
      box: [0.2, 1, 0.2] as [number, number, number],
      baked: true,
    }))
    const taken = await apart(baked, plan())
    expect(
      taken.parts.map((p) => [
        p.part.name,
        p.placements.map((m) => m.matrix.slice(12, 15).map((v) => Math.round(v * 1e6) / 1e6)),
      ]),
    ).toEqual([
      [
        'shed_post',
        [
          [10, 0.5, -2],
          [13, 0.5, -2],
          [16, 0.5, -2],
        ],
      ],
    ])
  })
  it('a picture inside the scene becomes one file that all its parts point at', async () => {
    const taken = await apart(shedNodes, plan())
    expect(taken.files.filter((f) => f.part === 'texture').map((f) => f.path)).toEqual([
      'sets/shed/textures/wood_basecolor.png',
      'sets/shed/textures/paint_basecolor.png',
      'sets/shed/textures/iron_basecolor.png',
    ])
    const shelf = taken.files.find((f) => f.path === 'sets/shed/shed_shelf.glb')!
    const { images } = await open(shelf.bytes, shelf.path)
    expect(images.map((i) => i.asked)).toEqual([
      'sets/shed/textures/wood_basecolor.png',
      'sets/shed/textures/iron_basecolor.png',
    ])
  })
  it('whatever stands where: parts and placements give back the scene (random trees)', async () => {
    const place = fc.tuple(
      ...[0, 1, 2].map(() => fc.integer({ min: -40, max: 40 }).map((v) => v / 4)),
    ) as fc.Arbitrary<[number, number, number]>
    const side = fc.integer({ min: 1, max: 8 }).map((v) => v / 4)
    const nodeOver = (children: fc.Arbitrary<SceneFixtureNode[]>): fc.Arbitrary<SceneFixtureNode> =>
      fc
        .record({
          name: fc.constantFrom('oar', 'oar.001', 'crate_a', 'crate_b', 'net', 'Group', ''),
          at: place,
          turn: fc.integer({ min: -179, max: 180 }),
          scale: fc.constantFrom<[number, number, number]>([1, 1, 1], [2, 2, 2], [1, 2, 0.5], [-1, 1, 1]),
          box: fc.option(fc.tuple(side, side, side), { nil: undefined }),
          baked: fc.boolean(),
          mesh: fc.option(fc.constantFrom('a', 'b'), { nil: undefined }),
          children,
        })
        .map(({ box, mesh, ...n }) => ({ ...n, ...(box ? { box } : {}), ...(mesh ? { mesh } : {}) }))
    const leaf = nodeOver(fc.constant([]))
    const branch = nodeOver(fc.array(leaf, { maxLength: 2 }))
    const node = nodeOver(fc.array(branch, { maxLength: 2 }))
    const withOne = fc
      .array(node, { minLength: 1, maxLength: 4 })
      .map((nodes) => [...nodes, { name: 'keel', box: [1, 1, 1] as [number, number, number] }])
    const anyPlan = fc
      .record({
        way: fc.constantFrom('top', 'groups', 'name', 'distance', 'nodes', 'whole'),
        pivot: fc.constantFrom('own', 'foot', 'scene'),
        copies: fc.boolean(),
      })
      .map((p) => plan(p as Partial<ScenePlan>))
    await fc.assert(
      fc.asyncProperty(withOne, anyPlan, async (nodes, p) => {
        const before = corners(await open(await sceneFile(nodes), 'sets/shed.glb'))
        const after = await placedCorners(await apart(nodes, p))
        expect(after).toHaveLength(before.length)
        const near = (a: string[], b: string[]): number =>
          Math.max(
            ...a.map((c, i) =>
              Math.max(...c.split(' ').map((v, k) => Math.abs(Number(v) - Number(b[i]!.split(' ')[k])))),
            ),
          )
        const byPlace = (list: string[]): string[] =>
          list
            .map((c) =>
              c
                .split(' ')
                .map((v) => (Math.round(Number(v) * 50) / 50 + 0).toFixed(2))
                .join(' '),
            )
            .sort()
        // Rounded apart in a few last places at the most
        const [a, b] = [byPlace(before), byPlace(after)]
        expect(near(a, b)).toBeLessThanOrEqual(0.0201)
      }),
      { numRuns: 60, endOnFailure: true },
    )
  }, 60_000)
})

describe('a later export of a scene', () => {
  const boxes = (names: [string, number][]): SceneFixtureNode[] =>
    names.map(([name, side], i) => ({ name, at: [i * 5, 0, 0], box: [side, 1, 1] }))
  const parts = async (nodes: SceneFixtureNode[], p = plan()) =>
    partsByPlan(await factsOf(nodes), p, 'shed', defaultRulebook).parts

  it('tells new, gone and renamed parts; what was renamed keeps its name and what the plan says of it', async () => {
    const p = plan({ names: { oak_chest: 'sea_chest' }, left: ['old_net'] })
    const before = await parts(
      boxes([
        ['oak_chest', 1],
        ['old_net', 2],
        ['tin_can', 3],
      ]),
      p,
    )
    const now = await parts(
      boxes([
        ['oak_chest', 1],
        ['torn_net', 2],
        ['new_mug', 4],
      ]),
      p,
    )
    const told = compareParts(
      before.map((b) => keptPart(b, [])),
      now,
      p,
    )
    expect(told.changes).toEqual({
      fresh: ['new_mug'],
      gone: ['tin_can'],
      renamed: [{ from: 'old_net', to: 'torn_net', name: 'old_net' }],
    })
    expect(told.plan.left).toEqual(['torn_net'])
    expect(told.plan.names).toEqual({ oak_chest: 'sea_chest', torn_net: 'old_net' })
  })
  it('two that fit the same new part are told as gone and new', async () => {
    const before = await parts(
      boxes([
        ['red_box', 1],
        ['blue_can', 2],
      ]),
      plan({ copies: false }),
    )
    const now = await parts(
      boxes([
        ['blue_can', 2],
        ['green_box', 1],
        ['grey_box', 1],
      ]),
      plan({ copies: false }),
    )
    const told = compareParts(
      [...before, { ...before[0]!, key: 'second_box', name: 'second_box' }].map((b) => keptPart(b, [])),
      now,
      plan(),
    )
    expect(told.changes.renamed).toEqual([])
    expect(told.changes.gone).toEqual(['red_box', 'second_box'])
  })
})

it('placements are glTF with the asset in the extras of each node', () => {
  const moved = multiplyMatrices(
    [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1],
    [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 2, 0, 1, 1],
  )
  const text = writePlacements('shed', [
    {
      name: 'stool',
      asset: { id: 'x1' },
      placements: [
        { node: 'a', matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1] },
        { node: 'b', matrix: [...moved] },
      ],
    },
  ])
  expect(JSON.parse(text)).toMatchObject({
    scenes: [{ name: 'shed', nodes: [0, 1] }],
    nodes: [
      { name: 'stool_1', extras: { asset: { id: 'x1' }, node: 'a' } },
      {
        name: 'stool_2',
        matrix: [1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 2, 0, 1, 1],
        extras: { asset: { id: 'x1' }, node: 'b' },
      },
    ],
  })
})

it('bones, clips and sockets go with the part that needs them; cameras of the scene stay behind', async () => {
  const document = new Document()
  const buffer = document.createBuffer()
  const scene = document.createScene('s')
  const list = (type: 'VEC3' | 'VEC4' | 'SCALAR' | 'MAT4', array: Float32Array | Uint8Array) =>
    document
      .createAccessor()
      .setType(type)
      .setArray(array as Float32Array<ArrayBuffer>)
      .setBuffer(buffer)
  const points = Float32Array.of(0, 0, 0, 1, 0, 0, 0, 1, 0)
  const triangle = () => document.createPrimitive().setAttribute('POSITION', list('VEC3', points))
  const bone = document.createNode('bone').setTranslation([0, 2, 0])
  const rig = document.createNode('rig').setTranslation([10, 0, 0]).addChild(bone)
  const skin = document
    .createSkin('skin')
    .addJoint(bone)
    .setInverseBindMatrices(list('MAT4', Float32Array.of(1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1, 0, 0, 0, 0, 1)))
  const follows = triangle()
    .setAttribute('JOINTS_0', list('VEC4', new Uint8Array(12)))
    .setAttribute('WEIGHTS_0', list('VEC4', Float32Array.of(1, 0, 0, 0, 1, 0, 0, 0, 1, 0, 0, 0)))
  const gull = document
    .createNode('gull_body')
    .setMesh(document.createMesh('gull').addPrimitive(follows))
    .setSkin(skin)
  const crate = document
    .createNode('crate_a')
    .setTranslation([-5, 0, 0])
    .setMesh(document.createMesh('crate').addPrimitive(triangle()))
    .addChild(document.createNode('grip_socket').setTranslation([0, 1, 0]))
  const camera = document.createNode('view').setCamera(document.createCamera('view'))
  for (const n of [rig, gull, crate, camera]) scene.addChild(n)
  const clip = document.createAnimation('nod')
  const sampler = document
    .createAnimationSampler()
    .setInput(list('SCALAR', Float32Array.of(0, 1)))
    .setOutput(list('VEC3', Float32Array.of(0, 2, 0, 0, 3, 0)))
  clip
    .addSampler(sampler)
    .addChannel(
      document.createAnimationChannel().setTargetNode(bone).setTargetPath('translation').setSampler(sampler),
    )
  const bytes = await writeGlb(document, () => ({ uri: 'none.png' }))
  const [measured] = await measureFixture({ 'sets/pier.glb': bytes })
  if (measured?.facts?.kind !== 'mesh') throw new Error('not measured')
  const nodes = measured.facts.nodes!
  const { parts } = partsByPlan(nodes, plan(), 'pier', defaultRulebook)
  const source = await open(bytes, 'sets/pier.glb')
  const taken = await takeApart({ path: 'sets/pier.glb', source, nodes, parts, plan: plan(), hash })
  const pieces = new Map(
    await Promise.all(
      taken.parts.map(
        async (p) =>
          [p.part.name, await open(taken.files.find((f) => f.path === p.path)!.bytes, p.path)] as const,
      ),
    ),
  )
  const bird = pieces.get('gull_body')!.document.getRoot(),
    box = pieces.get('crate_a')!.document.getRoot()
  expect([bird.listSkins().length, bird.listAnimations().map((a) => a.getName())]).toEqual([1, ['nod']])
  expect([box.listSkins().length, box.listAnimations().length, box.listCameras().length]).toEqual([0, 0, 0])
  expect(box.listNodes().map((n) => n.getName())).toEqual(['crate_a', 'grip_socket'])
  const placed = (await placedCorners(taken)).sort()
  expect(placed).toEqual(corners(source).sort())
})
