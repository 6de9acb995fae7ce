import { rm } from 'node:fs/promises'
import pg from 'pg'
import { afterAll, afterEach, beforeAll, beforeEach, describe, expect, it } from 'vitest'
import type { AssetDetail } from '@stern-gate/contract'
import { findRemedy, JUDGE_VERSION } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { refreshOutdated } from '../src/jobs/refreshAssetJob'
import { findFacts } from '../src/store/factsStore'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>, pool: pg.Pool
let project = '',
  id = ''
const db = () => server.running.services.connection.db
const judged = () =>
  api.waitFor(
    () => api.assets(project),
    (rows) => rows.length > 0 && rows.every((r) => r.state === 'judged'),
  )

beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  pool = new pg.Pool({ connectionString: server.databaseUrl })
  project = await api.project()
  await api.deliver(project, await crateFiles({ green: 'down', textureSize: [512, 512] }))
  id = (await judged())[0]!.id
  const { recipeRevision } = await api.asset(id)
  await api.call<AssetDetail>('PUT', `/assets/${id}/recipe`, {
    revision: recipeRevision,
    recipe: {
      steps: [
        {
          id: '1',
          remedy: 'colour/flip-green',
          options: { texture: 'harbour_crate_a_normal.png' },
          on: true,
          why: 'test',
        },
      ],
    },
  })
  await judged()
})
afterAll(async () => {
  await pool.end()
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

/** Nothing waits or runs: a judgement that began before a version was raised would end after it. */
const idle = () =>
  api.waitFor(
    async () =>
      (await pool.query<{ n: number }>('select count(*)::int as n from graphile_worker._private_jobs'))
        .rows[0]!.n,
    (n) => n === 0,
  )
const outputKeyOf = async (): Promise<string> =>
  (await pool.query<{ key: string }>('select output_key as key from versions where asset_id = $1', [id]))
    .rows[0]!.key

describe('after an update', () => {
  const remedy = findRemedy('colour/flip-green')!,
    unused = findRemedy('mesh/weld')!,
    versions = [remedy.version, unused.version] as const
  beforeEach(idle)
  afterEach(() => {
    remedy.version = versions[0]
    unused.version = versions[1]
  })

  it('nothing is done when nothing has changed', async () => {
    await refreshOutdated(server.running.services)
    expect((await api.assets(project))[0]!.state).toBe('judged')
  })
  it('an output made by an older version of a remedy is made anew, and counts as unjudged until then', async () => {
    const before = await outputKeyOf()
    remedy.version++
    await refreshOutdated(server.running.services)
    await judged()
    expect(await outputKeyOf()).not.toBe(before)
    expect(await api.asset(id)).toMatchObject({ making: false, outputFault: null })
  })
  it('another version of a remedy that it does not use changes nothing', async () => {
    await refreshOutdated(server.running.services)
    await judged()
    const before = await outputKeyOf()
    unused.version++
    await refreshOutdated(server.running.services)
    expect((await api.assets(project))[0]!.state).toBe('judged')
    expect(await outputKeyOf()).toBe(before)
  })
  it('what older rules judged is judged anew', async () => {
    await pool.query('update versions set judged_with = $1', [JUDGE_VERSION - 1])
    await refreshOutdated(server.running.services)
    await judged()
    const { rows } = await pool.query<{ v: number }>('select judged_with as v from versions')
    expect(rows).toEqual([{ v: JUDGE_VERSION }])
  })
  it('facts of an older measure are readable until newer ones replace them', async () => {
    const { rows } = await pool.query<{ key: string }>("select key from facts where measure = 'mesh' limit 1")
    const key = rows[0]!.key
    expect((await findFacts(db(), [key])).get(key)).toMatchObject({ fresh: true })
    await pool.query('update facts set version = version - 1 where key = $1', [key])
    const older = (await findFacts(db(), [key])).get(key)
    expect(older).toMatchObject({ fresh: false, kept: { facts: { kind: 'mesh' } } })
    await pool.query("update facts set body = '{}' where key = $1", [key])
    expect((await findFacts(db(), [key])).has(key)).toBe(false)
  })
  it('facts of meshes going stale leave those of textures as they are', async () => {
    const texturesMeasured = async () =>
      (await pool.query("select key, created from facts where measure = 'texture' order by key")).rows
    const before = await texturesMeasured()
    expect(before.length).toBeGreaterThan(2)
    await pool.query("update facts set version = version - 1 where measure = 'mesh'")
    await refreshOutdated(server.running.services)
    await judged()
    expect(await texturesMeasured()).toEqual(before)
    const { rows } = await pool.query(
      "select 1 from facts where measure = 'mesh' and created > now() - interval '1 minute'",
    )
    expect(rows.length).toBeGreaterThan(0)
  })
})
