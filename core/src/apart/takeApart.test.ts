import { Document } from '@gltf-transform/core'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { ScenePlan } from '@stern-gate/contract'
import { measureFixture } from '../fixtures/measureFixture'
import { sceneFile, shedNodes, type SceneFixtureNode } from '../fixtures/sceneFixture'
import { apart, corners, hash, open, placedCorners, plan } from '../fixtures/takenScene'
import { multiplyMatrices } from '../geometry/matrix'
import { defaultRulebook } from '../rulebook/defaultRulebook'
import { writeGlb } from '../write/writeGlb'
import { partsByPlan } from './proposeParts'
import { takeApart } from './takeApart'
import { writePlacements } from './writePlacements'

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
