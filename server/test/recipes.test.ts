import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { type AssetDetail, type Fault, type Preview, type Recipe } from '@stern-gate/contract'
import { readGltfContainer } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

const step = (
  remedy: string,
  options: Recipe['steps'][number]['options'],
  on = true,
): Recipe['steps'][number] => ({ id: crypto.randomUUID(), remedy, options, on, why: 'test' })
const settled = (id: string) =>
  api.waitFor(
    () => api.asset(id),
    (a) => !a.making,
  )

describe('a recipe', () => {
  let id = '',
    project = ''
  beforeAll(async () => {
    project = await api.project()
    await api.deliver(project, await crateFiles({ size: 100, green: 'down', textureSize: [512, 512] }))
    id = (await api.assets(project))[0]!.id
  })
  const put = (revision: number, recipe: Recipe) =>
    api.call<AssetDetail & { fault: Fault }>('PUT', `/assets/${id}/recipe`, { revision, recipe })

  it('is previewed without being kept', async () => {
    const { body } = await api.call<Preview>('POST', `/assets/${id}/preview`, {
      recipe: { steps: [step('scale/rescale', { factor: 0.01 })] },
    })
    expect(body.state.findings.map((f) => f.rule)).toEqual(['colour/normal-green'])
    expect((await fetch(`${server.running.url}${body.state.model}`)).status).toBe(200)
    expect((await api.asset(id)).recipe.steps).toEqual([])
  })
  it('of a preview is drawn once it is kept, and textures that came are not measured again', async () => {
    const project = await api.project(),
      { pool } = server.running.services.connection
    await api.deliver(project, await crateFiles({ textureSize: [512, 512] }))
    const { id: own, recipeRevision } = await api.asset((await api.assets(project))[0]!.id)
    const recipe = { steps: [step('scale/rescale', { factor: 1.5 })] }
    const rows = async () =>
      (
        await pool.query<{
          thumbnail: string | null
          files: { part: string; sha256: string; factsKey: string }[]
        }>('select thumbnail, files from outputs where name is null order by created desc limit 1')
      ).rows[0]!
    const textures = async (): Promise<number> =>
      (await pool.query("select 1 from facts where measure = 'texture'")).rowCount!
    const before = await textures()
    expect((await api.call<Preview>('POST', `/assets/${own}/preview`, { recipe })).status).toBe(200)
    expect((await rows()).thumbnail).toBeNull()
    expect(await textures()).toBe(before)
    for (const file of (await rows()).files.filter((f) => f.part === 'texture'))
      expect(file.factsKey).not.toBe(file.sha256)
    await api.call('PUT', `/assets/${own}/recipe`, { revision: recipeRevision, recipe })
    await settled(own)
    await api.waitFor(rows, (row) => row.thumbnail !== null)
    expect((await api.asset(own)).output.textures.map((t) => t.facts?.header.width)).toEqual([512, 64, 64])
  })
  it('may put files elsewhere, and the class stays what the folder said when it came', async () => {
    const project = await api.project()
    await api.deliver(project, await crateFiles({ folder: 'structures', textureSize: [512, 512] }))
    const before = await api.asset((await api.assets(project))[0]!.id)
    expect([before.class, before.classFrom]).toEqual(['structure', 'folder'])
    await api.call<AssetDetail>('PUT', `/assets/${before.id}/recipe`, {
      revision: before.recipeRevision,
      recipe: { steps: [step('files/place', { mesh: 'models/decals', textures: 'maps' })] },
    })
    const after = await settled(before.id)
    expect(after.output.files.map((f) => f.path).sort()).toEqual([
      'maps/harbour_crate_a_basecolor.png',
      'maps/harbour_crate_a_normal.png',
      'maps/harbour_crate_a_orm.png',
      'models/decals/harbour_crate_a.glb',
    ])
    expect(after.output.findings.map((f) => f.rule)).toEqual(after.source.findings.map((f) => f.rule))
    expect((await api.assets(project))[0]!.class).toBe('structure')
  })
  it('lays out a lightmap in the built worker', async () => {
    const { body } = await api.call<Preview>('POST', `/assets/${id}/preview`, {
      recipe: { steps: [step('uvs/lay-out', { keep: false })] },
    })
    const lightmap = body.state.mesh!.nodes!.flatMap((n) => n.sheets).find((s) => s.channel === 1)!
    expect(lightmap.overlapped).toBe(0)
    expect(lightmap.covered).toBeGreaterThan(0.3)
  })
  it('makes an output that is judged like anything else, and can be undone', async () => {
    const now = await api.asset(id)
    const first = await put(now.recipeRevision, { steps: [step('scale/rescale', { factor: 0.01 })] })
    const kept = await settled(id)
    expect(kept.output.findings.map((f) => f.rule)).toEqual(['colour/normal-green'])
    expect(kept.results[0]!.changed).toBe(true)
    const flip = [...kept.recipe.steps, step('colour/flip-green', { texture: 'harbour_crate_a_normal.png' })]
    await put(first.body.recipeRevision, { steps: flip })
    const clear = await settled(id)
    expect(clear.output).toMatchObject({ verdict: 'clear', findings: [] })
    expect(clear.source.verdict).toBe('held')
    expect(
      await api.waitFor(
        () => api.assets(project),
        (rows) => rows[0]!.verdict === 'clear',
      ),
    ).toHaveLength(1)
    const undone = await api.call<AssetDetail>('POST', `/assets/${id}/undo`, {
      revision: clear.recipeRevision,
    })
    expect(undone.body.recipe.steps).toHaveLength(1)
    await put(undone.body.recipeRevision, { steps: flip })
    await settled(id)
  })
  it('of an old revision is refused, and so are unknown remedies and bad options', async () => {
    expect(await put(0, { steps: [] })).toMatchObject({
      status: 409,
      body: { fault: { code: 'request/conflict' } },
    })
    const { recipeRevision } = await api.asset(id)
    expect((await put(recipeRevision, { steps: [step('no/such', {})] })).body.fault).toMatchObject({
      code: 'remedy/unknown',
      where: { step: 0 },
    })
    expect(
      (await put(recipeRevision, { steps: [step('scale/rescale', { factor: 'much' })] })).body.fault.code,
    ).toBe('remedy/bad-options')
  })
  it('gives an output to take away with the fault gone', async () => {
    const response = await fetch(`${server.running.url}/api/assets/${id}/output`)
    expect(response.headers.get('content-disposition')).toContain('harbour_crate_a.zip')
    const bytes = Buffer.from(await response.arrayBuffer())
    expect(bytes.subarray(0, 2).toString()).toBe('PK')
    const model = new Uint8Array(
      await (await fetch(`${server.running.url}${(await api.asset(id)).output.model}`)).arrayBuffer(),
    )
    expect(readGltfContainer(model).ok).toBe(true)
  })
  it('a step that fails leaves the asset with its source and says why', async () => {
    const now = await api.asset(id)
    await put(now.recipeRevision, { steps: [step('colour/flip-green', { texture: 'gone.png' })] })
    const failed = await api.waitFor(
      () => api.asset(id),
      (a) => a.outputFault !== null,
    )
    expect(failed.outputFault).toMatchObject({ code: 'remedy/not-applicable', where: { step: 0 } })
    expect(failed.output).toEqual(failed.source)
  })
  it('another class or target is judged at once', async () => {
    const { body } = await api.call<AssetDetail>('PATCH', `/assets/${id}`, {
      class: 'structure',
      target: 'handheld',
    })
    expect([body.class, body.classFrom, body.target]).toEqual(['structure', 'choice', 'handheld'])
    expect(body.source.findings.map((f) => f.rule)).toContain('uvs/missing')
  })
})
