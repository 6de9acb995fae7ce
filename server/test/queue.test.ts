import { setTimeout as sleep } from 'node:timers/promises'
import { sql } from 'drizzle-orm'
import { pino } from 'pino'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetRow, Delivery } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { migrateQueue, runWorker, type RunningWorker } from '../src/jobs/queue'
import { sweep } from '../src/jobs/sweep'
import { connect, type Connection } from '../src/store/database'
import { addJobs, freeJobsOf } from '../src/store/jobQueue'
import { createClient, createDatabase, startTestServer, type TestServer } from './testServer'

const log = pino({ level: 'silent' })

describe('a worker that lives', () => {
  let connection: Connection
  const workers: RunningWorker[] = []
  beforeAll(async () => {
    connection = connect(await createDatabase())
    await migrateQueue(connection)
  })
  afterAll(async () => {
    for (const worker of workers) await worker.stop()
    await connection.pool.end()
  })

  it('keeps a job that takes longer than the watch needs to look twice: it runs once', async () => {
    const runs: string[] = []
    const slow = async (payload: unknown): Promise<void> => {
      runs.push((payload as { name: string }).name)
      await sleep(5500)
    }
    for (let i = 0; i < 2; i++) workers.push(runWorker(connection, { slow }, { concurrency: 2, log }))
    await addJobs(
      connection.db,
      'slow',
      ['a', 'b', 'c'].map((name) => ({ payload: { name }, key: name })),
    )
    await sleep(7000)
    expect(runs.sort()).toEqual(['a', 'b', 'c'])
  }, 20_000)

  it('takes its lock again when the connection of the watch was ended', async () => {
    const locks = async (): Promise<number> =>
      (
        await connection.pool.query<{ n: number }>(
          `select count(*)::int as n from pg_locks
           where locktype = 'advisory' and classid = 5417 and granted
             and database = (select oid from pg_database where datname = current_database())`,
        )
      ).rows[0]!.n
    const before = await locks()
    expect(before).toBe(2)
    await connection.pool.query(
      `select pg_terminate_backend(pid) from pg_stat_activity
       where application_name = 'stern-gate watch' and datname = current_database()`,
    )
    for (let i = 0; i < 60 && (await locks()) < before; i++) await sleep(100)
    await sleep(200)
    expect(await locks()).toBe(before)
  }, 20_000)

  it('goes on when every connection to its database was cut', async () => {
    let done = 0
    const worker = runWorker(connection, { quick: async () => void done++ }, { concurrency: 1, log })
    workers.push(worker)
    await sleep(300)
    await connection.pool.query(
      'select pg_terminate_backend(pid) from pg_stat_activity where datname = current_database() and pid <> pg_backend_pid()',
    )
    await addJobs(connection.db, 'quick', [{ payload: {}, key: 'after' }])
    for (let i = 0; i < 100 && done === 0; i++) await sleep(100)
    expect(done).toBe(1)
  }, 20_000)
})

it('a job that is done but could not be reported is given back, though its worker lives', async () => {
  const connection = connect(await createDatabase())
  await migrateQueue(connection)
  let runs = 0
  const worker = runWorker(connection, { once: async () => void runs++ }, { concurrency: 1, log })
  await addJobs(connection.db, 'once', [{ payload: {}, key: 'a' }])
  for (let i = 0; i < 100 && runs < 1; i++) await sleep(50)
  await sleep(300)
  // As it stands when the database goes away between the work and its report
  const { rows } = await connection.pool.query<{ pool: string }>(
    `insert into graphile_worker._private_jobs
       (task_id, payload, key, attempts, max_attempts, locked_by, locked_at)
     select id, '{}', 'b', 1, 3, 'pool-x', now()
     from graphile_worker._private_tasks where identifier = 'once' returning id`,
  )
  expect(rows.length).toBe(1)
  await connection.pool.query('update graphile_worker._private_jobs set locked_by = $1', [
    worker.poolIds()[0],
  ])
  for (let i = 0; i < 100 && runs < 2; i++) await sleep(100)
  expect(runs).toBe(2)
  await worker.stop()
  await connection.pool.end()
}, 20_000)

it('jobs of a dead worker get their attempt back, up to ten', async () => {
  const connection = connect(await createDatabase())
  await migrateQueue(connection)
  await addJobs(connection.db, 'x', [{ payload: {}, key: 'x' }])
  const job = async () =>
    (
      await connection.pool.query<{ attempts: number; max: number; by: string | null }>(
        'select attempts, max_attempts as max, locked_by as by from graphile_worker._private_jobs',
      )
    ).rows[0]!
  for (let kill = 1; kill <= 12; kill++) {
    await connection.pool.query(
      "update graphile_worker._private_jobs set locked_by = 'pool-gone', locked_at = now(), attempts = attempts + 1",
    )
    await freeJobsOf(connection.db, { workers: ['pool-gone'] })
    expect(await job()).toEqual({ attempts: kill, max: Math.min(10, Math.max(3, kill + 1)), by: null })
  }
  await connection.pool.end()
})

describe('work that is nowhere', () => {
  let server: TestServer, api: ReturnType<typeof createClient>, project: string
  beforeAll(async () => {
    server = await startTestServer()
    api = createClient(server.running.url)
    project = await api.project()
    await server.running.pauseWorker()
  })
  afterAll(() => server.running.stop())
  const db = () => server.running.services.connection.db
  const open = async (name: string): Promise<string> => {
    const { body } = await api.call<Delivery>('POST', `/projects/${project}/deliveries`, { note: name })
    await api.send(body.id, await crateFiles({ name }))
    return body.id
  }
  const keys = async (): Promise<string[]> =>
    (
      await db().execute<{ key: string }>(
        sql`select key from graphile_worker._private_jobs where attempts < max_attempts order by key`,
      )
    ).rows.map((r) => r.key.replace(/:.*/, ''))

  it('closing leaves nothing closed whose jobs could not be put into the queue', async () => {
    const delivery = await open('harbour_crate_a')
    await db().execute(sql`alter function graphile_worker.add_jobs rename to add_jobs_away`)
    expect((await api.call('POST', `/deliveries/${delivery}/close`)).status).toBe(500)
    expect((await api.call<Delivery>('GET', `/deliveries/${delivery}`)).body.state).toBe('receiving')
    await db().execute(sql`alter function graphile_worker.add_jobs_away rename to add_jobs`)
    expect((await api.call<Delivery>('POST', `/deliveries/${delivery}/close`)).body.state).toBe('measuring')
    expect((await keys()).every((k) => k === 'measure')).toBe(true)
    expect((await keys()).length).toBe(Object.keys(await crateFiles({})).length)
  })
  it('is found by the sweep: files, then putting together, then judging', async () => {
    await db().execute(sql`delete from graphile_worker._private_jobs`)
    const files = Object.keys(await crateFiles({})).length
    expect(await sweep(server.running.services)).toBe(files)
    expect(await keys()).toEqual(Array(files).fill('measure'))
    // One is given up for good: it is refused and says so
    await db().execute(
      sql`update graphile_worker._private_jobs set attempts = max_attempts
          where key = (select min(key) from graphile_worker._private_jobs)`,
    )
    await sweep(server.running.services)
    const { rows } = await db().execute<{ code: string }>(
      sql`select fault->>'code' as code from delivery_files where state = 'refused'`,
    )
    expect(rows).toEqual([{ code: 'job/failed' }])
    await db().execute(sql`update delivery_files set state = 'measured' where state = 'waiting'`)
    await db().execute(sql`delete from graphile_worker._private_jobs`)
    expect(await sweep(server.running.services)).toBe(1)
    expect(await keys()).toEqual(['assemble'])
    expect(await sweep(server.running.services)).toBe(0)
  })
})

describe('a version has a verdict only when it was judged', () => {
  let server: TestServer, api: ReturnType<typeof createClient>, project: string, asset: AssetRow
  beforeAll(async () => {
    server = await startTestServer()
    api = createClient(server.running.url)
    project = await api.project()
    await api.deliver(project, await crateFiles({ name: 'harbour_crate_a', textureName: 'harbour_crate_a' }))
    asset = (await api.assets(project)).find((a) => a.kind === 'mesh')!
  })
  afterAll(() => server.running.stop())

  it('judged it says so; after a change of its recipe it waits, in lists, search and detail', async () => {
    expect(asset.state).toBe('judged')
    expect(asset.verdict).not.toBeNull()
    await server.running.pauseWorker()
    const saved = await api.call('PUT', `/assets/${asset.id}/recipe`, {
      revision: 0,
      recipe: {
        steps: [{ id: '1', remedy: 'scale/rescale', options: { factor: 2 }, on: true, why: 'by hand' }],
      },
    })
    expect(saved.body).toMatchObject({ state: 'waiting', making: true })
    expect((await api.assets(project)).find((a) => a.id === asset.id)).toMatchObject({
      state: 'waiting',
      verdict: null,
    })
    const found = await api.call<{ asset: string; verdict: string | null }[]>(
      'GET',
      `/projects/${project}/names?find=crate`,
    )
    expect(found.body.filter((f) => f.asset === asset.id).every((f) => f.verdict === null)).toBe(true)
  })
  it('where judging breaks off it is failed with a fault, and others of the same job are judged', async () => {
    const { db } = server.running.services.connection
    const { judgeAssets } = await import('../src/judging/judgeAsset')
    await api.call('POST', `/assets/${asset.id}/undo`, { revision: 1 })
    const other = (await api.assets(project)).find((a) => a.id !== asset.id)
    // Facts that no version of the application wrote
    await db.execute(
      sql`update facts set body = '{"kind":"mesh"}'
          where key = (
            select facts_key from version_files vf join versions v on v.id = vf.version_id
            where v.asset_id = ${asset.id} and vf.part = 'mesh'
          )`,
    )
    await judgeAssets(server.running.services, [asset.id, ...(other ? [other.id] : [])])
    const { body } = await api.call<AssetRow[]>('GET', `/projects/${project}/assets`)
    expect(body.find((a) => a.id === asset.id)).toMatchObject({ state: 'failed', verdict: null })
    if (other) expect(body.find((a) => a.id === other.id)).toMatchObject({ state: 'judged' })
  })
})

it("the open standard's validator looks behind the verdict, at source and output, and is judged once more", async () => {
  const server = await startTestServer()
  const api = createClient(server.running.url)
  const project = await api.project()
  await api.deliver(project, await crateFiles({ name: 'harbour_crate_a', textureName: 'harbour_crate_a' }))
  const row = (await api.assets(project)).find((a) => a.kind === 'mesh')!
  const looked = await api.waitFor(
    () => api.asset(row.id),
    (d) => d.source.standard.every((s) => s.facts !== null),
  )
  expect(looked.source.standard).toEqual([
    { file: expect.stringMatching(/glb$/) as string, facts: { errors: [], all: true } },
  ])
  await api.call('PUT', `/assets/${row.id}/recipe`, {
    revision: 0,
    recipe: {
      steps: [{ id: '1', remedy: 'scale/rescale', options: { factor: 2 }, on: true, why: 'by hand' }],
    },
  })
  const made = await api.waitFor(
    () => api.asset(row.id),
    (d) => d.state === 'judged' && d.output !== d.source && d.output.standard.every((s) => s.facts !== null),
  )
  expect(made.output.standard.map((s) => s.facts)).toEqual([{ errors: [], all: true }])
  // Nothing is left to be looked at: it does not go round and round
  await api.waitFor(
    async () =>
      (
        await server.running.services.connection.pool.query(
          "select 1 from graphile_worker._private_jobs where key like 'validate:%'",
        )
      ).rowCount,
    (n) => n === 0,
  )
  await server.running.stop()
}, 40_000)
