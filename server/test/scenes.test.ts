import { rm } from 'node:fs/promises'
import { unzipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import {
  manifestSchema,
  scenePlanSchema,
  type Delivery,
  type DispatchDetail,
  type Fault,
  type IntakePreset,
  type SceneDetail,
  type SceneList,
  type ScenePlan,
} from '@stern-gate/contract'
import { crateFiles, sceneFile, shedNodes, type SceneFixtureNode } from '@stern-gate/core/fixtures'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer,
  api: ReturnType<typeof createClient>,
  project = ''
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  project = await api.project()
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

async function deliver(files: Record<string, Uint8Array>, more: object = {}): Promise<string> {
  const { body } = await api.call<Delivery>('POST', `/projects/${project}/deliveries`, more)
  await api.send(body.id, files)
  await api.call('POST', `/deliveries/${body.id}/close`)
  await api.waitDone(body.id)
  return body.id
}
const names = async (beginning = 'shed'): Promise<string[]> =>
  (await api.assets(project))
    .map((a) => a.name)
    .filter((n) => n.startsWith(beginning))
    .sort()
const row = async (name: string) => (await api.assets(project)).find((a) => a.name === name)!
async function apart(scene: SceneDetail, plan: Partial<ScenePlan>, more: object = {}) {
  const answer = await api.call<Delivery & { fault: Fault }>('POST', `/scenes/${scene.id}/apart`, {
    plan: scenePlanSchema.parse(plan),
    revision: scene.revision,
    ...more,
  })
  if (answer.status === 201) await api.waitDone(answer.body.id)
  return answer
}
const sceneOf = async (id: string) => (await api.call<SceneDetail>('GET', `/scenes/${id}`)).body

describe('a scene of many objects', () => {
  let scene: SceneDetail
  it('is one asset at first, and looked at as a scene when it is asked for', async () => {
    await deliver({ 'sets/shed.glb': await sceneFile(shedNodes) })
    expect(await names()).toEqual(['shed'])
    const opened = await api.call<SceneDetail>('POST', `/assets/${(await row('shed')).id}/scene`)
    scene = opened.body
    expect([scene.name, scene.plan.way, scene.parts, scene.nodes.length]).toEqual(['shed', 'whole', [], 14])
    expect(scene.whole).toBe((await row('shed')).id)
    const asset = (await row('shed')).id
    expect((await api.call<SceneList>('GET', `/projects/${project}/scenes`)).body).toMatchObject({
      scenes: [],
      several: [{ asset, name: 'shed', things: 4 }],
    })
    const png = await fetch(`${server.running.url}/api/scenes/${scene.id}/pictures`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ plan: { way: 'top' } }),
    })
    expect([png.status, png.headers.get('content-type')]).toEqual([200, 'image/png'])
  })
  it('becomes assets by a plan: its whole goes, its figure is left out, placements name the assets', async () => {
    expect((await apart(scene, { way: 'top', names: { 'shed/shed_table': 'shed_bench' } })).status).toBe(201)
    expect(await names()).toEqual(['shed_bench', 'shed_door', 'shed_shelf', 'shed_stool'])
    const { scenes, several } = (await api.call<SceneList>('GET', `/projects/${project}/scenes`)).body
    expect(several).toEqual([])
    const [listed] = scenes
    expect(listed!.parts.map((p) => [p.name, p.left, p.placements.length])).toEqual([
      ['shed_bench', false, 1],
      ['shed_stool', false, 4],
      ['shed_door', false, 1],
      ['shed_shelf', false, 1],
      ['shed_figure', true, 0],
    ])
    const placed = await (await fetch(`${server.running.url}/api/scenes/${scene.id}/placements`)).json()
    const door = placed.nodes.find((n: { name: string }) => n.name === 'shed_door')
    expect(door.extras.asset.id).toBe((await row('shed_door')).id)
    const asset = await api.asset((await row('shed_door')).id)
    expect(asset.output.mesh!.nodes!.map((n) => n.name)).toEqual([
      'shed_door_lod0',
      'shed_door_lod1',
      'shed_door_hull',
    ])
    expect(asset.scene).toEqual({ id: scene.id, name: 'shed' })
    expect(asset.output.textures.map((t) => t.path)).toEqual(['sets/shed/textures/paint_basecolor.png'])
  })
  it('a dispatch of its parts holds their placements, by paths that lead to them', async () => {
    const chosen = (await api.assets(project)).filter((a) => a.name.startsWith('shed')).map((a) => a.id)
    const made = (
      await api.call<DispatchDetail>('POST', `/projects/${project}/dispatches`, {
        target: 'desk',
        assets: chosen,
      })
    ).body
    const done = await api.waitFor(
      async () => (await api.call<DispatchDetail>('GET', `/dispatches/${made.id}`)).body,
      (d) => d.state === 'done' || d.state === 'failed',
    )
    expect(done.fault).toBeNull()
    const zip = await (await fetch(`${server.running.url}/api/dispatches/${made.id}/package`)).arrayBuffer()
    const files = unzipSync(new Uint8Array(zip))
    const { scenes } = manifestSchema.parse(JSON.parse(new TextDecoder().decode(files['manifest.json'])))
    expect(scenes.map((s) => s.path)).toEqual(['desk/scenes/shed.gltf'])
    const placed = JSON.parse(new TextDecoder().decode(files['desk/scenes/shed.gltf'])) as {
      nodes: { extras: { asset: { file: string } } }[]
    }
    expect(placed.nodes).toHaveLength(scenes[0]!.placements)
    for (const { extras } of placed.nodes)
      expect(files[`desk/${extras.asset.file.replace('../', '')}`]).toBeDefined()
  })
  it('a plan over an older one is refused; a new one replaces parts that are no longer', async () => {
    expect((await apart(scene, { way: 'nodes' })).status).toBe(409)
    scene = await sceneOf(scene.id)
    expect(
      (await apart(scene, { ...scene.plan, joined: [['shed/shed_door_lod0', 'shed/shed_shelf']] })).status,
    ).toBe(201)
    expect(await names()).toEqual(['shed_bench', 'shed_door', 'shed_stool'])
  })
  it('a second export is taken apart the same way, and says what is new, gone and renamed', async () => {
    const second = structuredClone(shedNodes) as SceneFixtureNode[]
    const nodes = second[0]!.children!
    nodes.splice(0, 1, { ...nodes[0]!, name: 'shed_worktop' })
    nodes.push({ name: 'shed_lamp', at: [0, 3, 0], box: [0.2, 0.3, 0.2] })
    nodes.splice(
      nodes.findIndex((n) => n.name === 'figure'),
      1,
    )
    const bench = (await row('shed_bench')).id
    await deliver({ 'later/shed.glb': await sceneFile(second) })
    scene = await sceneOf(scene.id)
    expect(scene.changes).toEqual({
      fresh: ['shed_lamp'],
      gone: ['shed_figure'],
      renamed: [{ from: 'shed/shed_table', to: 'shed/shed_worktop', name: 'shed_bench' }],
    })
    expect(await names()).toEqual(['shed_bench', 'shed_door', 'shed_lamp', 'shed_stool'])
    expect((await row('shed_bench')).id).toBe(bench)
    expect((await api.asset(bench)).versions.length).toBeGreaterThan(1)
  })
  it('a part of a taken name is refused, or becomes its next version when that is meant', async () => {
    await deliver(await crateFiles({ name: 'shed_oar' }))
    const named = { ...scene.plan, names: { ...scene.plan.names, 'shed/shed_lamp': 'shed_oar' } }
    const refused = await apart(scene, named)
    expect([refused.status, refused.body.fault.why]).toEqual([
      409,
      'The project has an asset of that name already: shed_oar.',
    ])
    expect((await apart(scene, named, { meets: true })).status).toBe(201)
    expect(await names()).toEqual(['shed_bench', 'shed_door', 'shed_oar', 'shed_stool'])
  })
  it('kept as one again it is one asset, and its parts are gone', async () => {
    scene = await sceneOf(scene.id)
    expect((await apart(scene, { way: 'whole' })).status).toBe(201)
    expect(await names()).toEqual(['shed'])
  })
})

it('an intake preset takes files of several things apart, and leaves others whole', async () => {
  const preset = (
    await api.call<IntakePreset>('PUT', `/projects/${project}/intake-presets`, {
      name: 'sets',
      options: {},
      apart: 'top',
    })
  ).body
  const hut = structuredClone(shedNodes) as SceneFixtureNode[]
  for (const n of hut[0]!.children!) n.name = n.name.replace('shed', 'hut')
  await deliver(
    { 'sets/hut.glb': await sceneFile(hut), ...(await crateFiles({ name: 'hut_crate' })) },
    { preset: preset.name },
  )
  expect(await names('hut')).toEqual(
    ['hut_crate', 'hut_door', 'hut_figure', 'hut_shelf', 'hut_stool', 'hut_table'].filter(
      (n) => n !== 'hut_figure',
    ),
  )
})

it('looking at a scene decides nothing: a preset takes its next export apart; kept as one it stays one', async () => {
  const [preset] = (await api.call<IntakePreset[]>('GET', `/projects/${project}/intake-presets`)).body
  const loft = structuredClone(shedNodes) as SceneFixtureNode[]
  for (const n of loft[0]!.children!) n.name = n.name.replace('shed', 'loft')
  await deliver({ 'sets/loft.glb': await sceneFile(loft) })
  let looked = (await api.call<SceneDetail>('POST', `/assets/${(await row('loft')).id}/scene`)).body
  await deliver({ 'sets/loft.glb': await sceneFile(loft) }, { preset: preset!.name })
  expect(await names('loft')).toEqual(['loft_door', 'loft_shelf', 'loft_stool', 'loft_table'])
  looked = await sceneOf(looked.id)
  expect((await apart(looked, { way: 'whole' })).status).toBe(201)
  await deliver({ 'sets/loft.glb': await sceneFile(loft) }, { preset: preset!.name })
  expect(await names('loft')).toEqual(['loft'])
})

it('a rulebook takes files apart that its glob names', async () => {
  const { body } = await api.call<{ rulebook: object; revision: number }>(
    'GET',
    `/projects/${project}/rulebook`,
  )
  const rulebook = { ...body.rulebook, scenes: [{ files: 'pier*.glb', plan: { way: 'nodes' } }] }
  const saved = await api.call('PUT', `/projects/${project}/rulebook`, {
    rulebook,
    note: '',
    revision: body.revision,
  })
  expect(saved.status).toBe(200)
  await deliver({
    'sets/pier_a.glb': await sceneFile([
      { name: 'pier_post', box: [0.2, 2, 0.2] },
      { name: 'pier_deck', at: [0, 2, 0], box: [3, 0.1, 3] },
    ]),
  })
  expect(await names('pier')).toEqual(['pier_deck', 'pier_post'])
})
