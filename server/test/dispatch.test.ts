import { createHash } from 'node:crypto'
import { rm } from 'node:fs/promises'
import pg from 'pg'
import { unzipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import {
  manifestSchema,
  type AssetDetail,
  type Dispatch,
  type DispatchDetail,
  type DispatchPlan,
  type Fault,
  type Rulebook,
} from '@stern-gate/contract'
import { readTextureHeader } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { sweep } from '../src/jobs/sweep'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>, pool: pg.Pool
let project = ''
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  pool = new pg.Pool({ connectionString: server.databaseUrl })
  project = await api.project()
  const size = { textureSize: [512, 512] as [number, number] }
  await api.deliver(project, {
    ...(await crateFiles({ ...size })),
    ...(await crateFiles({ ...size, name: 'harbour_box_a', textureName: 'harbour_box_a', green: 'down' })),
    ...(await crateFiles({ ...size, name: 'harbour_keg_a', textureName: 'harbour_keg_a', green: 'down' })),
  })
  await api.waitFor(
    () => api.assets(project),
    (rows) => rows.length === 3 && rows.every((r) => r.state === 'judged'),
  )
  // One of the two that are held is mended
  const keg = (await api.assets(project)).find((a) => a.name === 'harbour_keg_a')!
  const { recipeRevision } = await api.asset(keg.id)
  await api.call<AssetDetail>('PUT', `/assets/${keg.id}/recipe`, {
    revision: recipeRevision,
    recipe: {
      steps: [
        {
          id: '1',
          remedy: 'colour/flip-green',
          options: { texture: 'harbour_keg_a_normal.png' },
          on: true,
          why: 'colour/normal-green',
        },
      ],
    },
  })
  await api.waitFor(
    () => api.assets(project),
    (rows) => rows.find((r) => r.id === keg.id)?.verdict === 'clear',
  )
})
afterAll(async () => {
  await pool.end()
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

const pack = async (body: object): Promise<DispatchDetail> => {
  const made = await api.call<DispatchDetail>('POST', `/projects/${project}/dispatches`, body)
  expect(made.status).toBe(201)
  return finished(made.body.id)
}
const finished = (id: string): Promise<DispatchDetail> =>
  api.waitFor(
    async () => (await api.call<DispatchDetail>('GET', `/dispatches/${id}`)).body,
    (d) => d.state === 'done' || d.state === 'failed',
  )
const packageOf = async (id: string): Promise<Uint8Array> => {
  const response = await fetch(`${server.running.url}/api/dispatches/${id}/package`)
  expect(response.headers.get('content-disposition')).toMatch(/dispatch-\d+-(desk|other)\.zip/)
  return new Uint8Array(await response.arrayBuffer())
}

describe('a dispatch', () => {
  it('is planned: what would go, what would stay and why', async () => {
    const { body } = await api.call<DispatchPlan>('POST', `/projects/${project}/dispatch-plan`, {
      target: 'desk',
      assets: null,
    })
    expect(body).toMatchObject({ clear: 2, elsewhere: 0, held: 1, waiting: 0 })
    expect(body.leftBehind).toMatchObject([{ name: 'harbour_box_a', stops: 1 }])
    expect(body.leftBehind[0]!.why).toMatch(/^Green points down/)
  })
  it('holds what is clear, source or output, each with its hash, and says what stayed behind', async () => {
    const done = await pack({ target: 'desk', assets: null, note: 'first' })
    expect(done).toMatchObject({
      state: 'done',
      number: 1,
      note: 'first',
      assets: 2,
      held: 1,
      packed: 3,
      total: 3,
      fault: null,
    })
    expect(done.leftBehind).toMatchObject([{ name: 'harbour_box_a', kind: 'mesh', stops: 1 }])
    const bytes = await packageOf(done.id)
    expect(createHash('sha256').update(bytes).digest('hex')).toBe(done.sha256)
    expect(bytes.length).toBe(done.sizeBytes)
    const files = unzipSync(bytes)
    const manifest = manifestSchema.parse(JSON.parse(new TextDecoder().decode(files['manifest.json'])))
    expect(manifest).toMatchObject({ dispatch: 1, target: 'desk', rulebook: { revision: 1 } })
    expect(manifest.assets.map((a) => [a.name, a.version, a.recipe.map((s) => s.remedy)])).toEqual([
      ['harbour_crate_a', 1, []],
      ['harbour_keg_a', 1, ['colour/flip-green']],
    ])
    const listed = manifest.assets.flatMap((a) => a.files)
    expect(Object.keys(files).sort()).toEqual(['manifest.json', ...listed.map((f) => f.path)].sort())
    for (const { path, sha256 } of listed)
      expect([path, createHash('sha256').update(files[path]!).digest('hex')]).toEqual([path, sha256])
    // What came is what leaves, where no step made anything
    const source = await crateFiles({ textureSize: [512, 512] })
    expect(files['desk/meshes/harbour_crate_a/harbour_crate_a.glb']).toEqual(
      new Uint8Array(source['props/harbour_crate_a.glb']!),
    )
  })
  it('of the same assets has the same bytes but for its number', async () => {
    const one = await pack({ target: 'desk', assets: null, note: 'first' }),
      other = await pack({ target: 'desk', assets: null, note: 'another note' })
    const [a, b] = [unzipSync(await packageOf(one.id)), unzipSync(await packageOf(other.id))]
    delete a['manifest.json']
    delete b['manifest.json']
    expect(b).toEqual(a)
    // Packed once more, as after a worker's end, it is the very same file
    await pool.query("update dispatches set state = 'packing', sha256 = null where id = $1", [other.id])
    await sweep(server.running.services)
    expect(await finished(other.id)).toMatchObject({ state: 'done', sha256: other.sha256 })
  })
  it('of chosen assets holds no others; one of which none is clear fails with the reasons', async () => {
    const rows = await api.assets(project),
      idOf = (name: string): string => rows.find((r) => r.name === name)!.id
    const one = await pack({ target: 'desk', assets: [idOf('harbour_crate_a')] })
    expect(one.contents.map((a) => a.name)).toEqual(['harbour_crate_a'])
    expect(one.leftBehind).toEqual([])
    const none = await pack({ target: 'desk', assets: [idOf('harbour_box_a')] })
    expect(none).toMatchObject({ state: 'failed', fault: { code: 'dispatch/empty' }, sha256: null, held: 1 })
    const missing = await fetch(`${server.running.url}/api/dispatches/${none.id}/package`)
    expect(missing.status).toBe(404)
  })
  it('is judged for its own target, whatever the asset is judged for', async () => {
    const plan = (
      await api.call<DispatchPlan>('POST', `/projects/${project}/dispatch-plan`, {
        target: 'browser',
        assets: null,
      })
    ).body
    expect(plan).toMatchObject({ clear: 2, elsewhere: 2 })
    const done = await pack({ target: 'browser', assets: null })
    expect(done.contents.every((a) => a.files[0]!.path.startsWith('browser/meshes/'))).toBe(true)
  })
  it('leaves behind what is not judged', async () => {
    await pool.query("update versions set state = 'failed' where shown_name = 'harbour_crate_a'")
    const done = await pack({ target: 'desk', assets: null })
    expect(done.leftBehind.map((l) => [l.name, l.why, l.stops])).toContainEqual([
      'harbour_crate_a',
      'It could not be judged.',
      0,
    ])
    expect(done.contents.map((a) => a.name)).toEqual(['harbour_keg_a'])
  })
  it('is listed, newest first; an unknown target or project is refused', async () => {
    const { body } = await api.call<Dispatch[]>('GET', `/projects/${project}/dispatches`)
    expect(body.map((d) => d.number)).toEqual([...body.map((d) => d.number)].sort((a, b) => b - a))
    expect(body.at(-1)).toMatchObject({ number: 1, assets: 2, files: 8, held: 1 })
    const wrong = await api.call<{ fault: Fault }>('POST', `/projects/${project}/dispatches`, {
      target: 'moon',
      assets: null,
    })
    expect(wrong).toMatchObject({ status: 400, body: { fault: { code: 'request/invalid' } } })
  })
})

describe('a dispatch with its textures encoded', () => {
  it('holds each texture in the format of its role, read back by its header, with what that loses', async () => {
    const done = await pack({ target: 'desk', assets: null, note: 'encoded', encode: true })
    expect(done).toMatchObject({ state: 'done', encode: true })
    const [crate] = done.contents
    expect(crate!.notEncoded).toEqual([])
    expect(crate!.encoded.map((e) => [e.of.split('/').at(-1), e.path.split('/').at(-1), e.format])).toEqual([
      [`${crate!.name}_basecolor.png`, `${crate!.name}_basecolor.ktx2`, 'BC7'],
      [`${crate!.name}_normal.png`, `${crate!.name}_normal.ktx2`, 'BC5'],
      [`${crate!.name}_orm.png`, `${crate!.name}_orm.ktx2`, 'BC7'],
    ])
    const files = unzipSync(await packageOf(done.id))
    for (const { path, sha256, sizeBytes, format } of crate!.encoded) {
      const bytes = files[path]!
      expect([bytes.length, createHash('sha256').update(bytes).digest('hex')]).toEqual([sizeBytes, sha256])
      expect(readTextureHeader(bytes, path)).toMatchObject({
        value: { format: 'ktx2', blockFormat: format },
      })
    }
    const [base, normal] = crate!.encoded
    expect(base!.psnr!).toBeGreaterThan(35)
    expect(normal!.degrees!).toBeLessThan(3)
    // The mesh and what it asks for are as without
    expect(crate!.files.map((f) => f.part)).toEqual(['mesh', 'texture', 'texture', 'texture'])
  }, 60_000)
})

describe('a dispatch to a target with sizes and conventions of its own', () => {
  it('holds what is made for it behind the recipe; the asset stays as it is, and nothing is made twice', async () => {
    const { body: now } = await api.call<{ rulebook: Rulebook; revision: number }>(
      'GET',
      `/projects/${project}/rulebook`,
    )
    const desk = now.rulebook.targets['desk']!
    const other = { ...desk, makesSizes: true, conventions: { ...desk.conventions, green: 'down' } }
    const targets = { ...now.rulebook.targets, other: { ...other, largestSide: 128 } }
    const saved = await api.call('PUT', `/projects/${project}/rulebook`, {
      ...{ rulebook: { ...now.rulebook, targets }, revision: now.revision, note: '' },
    })
    expect(saved.status).toBe(200)
    await api.waitFor(
      () => api.assets(project),
      (rows) => rows.find((r) => r.name === 'harbour_keg_a')?.state === 'judged',
    )
    const outputs = async (): Promise<number> =>
      (await pool.query<{ n: number }>('select count(*)::int as n from outputs')).rows[0]!.n
    const before = await outputs()
    const done = await pack({ target: 'other', assets: null, note: '' })
    expect([done.fault, done.state]).toEqual([null, 'done'])
    const keg = done.contents.find((a) => a.name === 'harbour_keg_a')!
    expect(keg.recipe.map((s) => s.remedy)).toEqual(['colour/flip-green'])
    expect(keg.made.map((s) => [s.remedy, s.options['texture']])).toEqual([
      ['compression/resize', 'harbour_keg_a_basecolor.png'],
      ['colour/flip-green', 'harbour_keg_a_normal.png'],
    ])
    const files = unzipSync(await packageOf(done.id))
    const base = keg.files.find((f) => f.path.endsWith('_basecolor.png'))!.path
    expect(readTextureHeader(files[base]!, base)).toMatchObject({ value: { width: 128, height: 128 } })
    const detail = await api.asset((await api.assets(project)).find((a) => a.name === 'harbour_keg_a')!.id)
    expect(Math.max(...detail.output!.textures.map((t) => t.facts!.header.width))).toBe(512)
    const after = await outputs()
    expect(after).toBe(before + done.contents.length)
    await pack({ target: 'other', assets: null, note: '' })
    expect(await outputs()).toBe(after)
  }, 60_000)
})
