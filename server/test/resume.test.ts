import { fork, type ChildProcess } from 'node:child_process'
import { mkdtemp, rm } from 'node:fs/promises'
import { availableParallelism, tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, describe, expect, it } from 'vitest'
import { settingsSchema } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { readSettings } from '../src/start/settings'
import { startServer } from '../src/start/startServer'
import { connect, migrateDatabase } from '../src/store/database'
import { createClient, createDatabase, serverFiles } from './testServer'

const children: ChildProcess[] = []
afterAll(() => {
  for (const child of children) child.kill('SIGKILL')
})

/** The built server in a process of its own, so that it can be killed. */
async function forkServer(env: Record<string, string>): Promise<{ child: ChildProcess; url: string }> {
  const child = fork(join(import.meta.dirname, '../../dist/server.js'), {
    env: { ...process.env, ...env },
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  })
  children.push(child)
  const url = await new Promise<string>((resolve, reject) => {
    child.on('message', (m) => resolve((m as { ready: string }).ready))
    child.once('exit', (code) => reject(new Error(`ended with ${code}`)))
  })
  return { child, url }
}

it('a server killed half way through a delivery goes on after its restart, and nothing is measured twice into the list', async () => {
  const env = {
    STERN_DATABASE_URL: await createDatabase(),
    STERN_DATA: await mkdtemp(join(tmpdir(), 'stern-resume-')),
    STERN_PORT: '0',
    STERN_LOG: 'error',
    STERN_THREADS: '1',
  }
  const first = await forkServer(env)
  const api = createClient(first.url)
  const project = await api.project()
  const { body: delivery } = await api.call<{ id: string }>('POST', `/projects/${project}/deliveries`, {})
  for (let i = 0; i < 6; i++)
    await api.send(
      delivery.id,
      await crateFiles({
        name: `harbour_crate${i}_a`,
        textureName: `harbour_crate${i}_a`,
        textureSize: [1024, 1024 - i * 4],
        grid: 8,
      }),
    )
  await api.call('POST', `/deliveries/${delivery.id}/close`)
  const half = await api.waitFor(
    () => api.call<{ done: number; state: string }>('GET', `/deliveries/${delivery.id}`),
    ({ body }) => body.done >= 4,
  )
  expect(half.body.state).toBe('measuring')
  first.child.kill('SIGKILL')
  await new Promise((resolve) => first.child.once('exit', resolve))
  const second = await forkServer(env)
  const again = createClient(second.url)
  const done = await again.waitDone(delivery.id)
  expect(done).toMatchObject({ state: 'done', done: 24, files: 24, refused: [] })
  expect((await again.assets(project)).map((a) => [a.version, a.verdict])).toEqual(
    Array.from({ length: 6 }, () => [1, 'clear']),
  )
  second.child.kill('SIGTERM')
  expect(await new Promise((resolve) => second.child.once('exit', resolve))).toBe(0)
  await rm(env.STERN_DATA, { recursive: true, force: true })
})

it('facts of an older measure are measured anew after a start, for source and output', async () => {
  const settings = settingsSchema.parse({
    STERN_DATABASE_URL: await createDatabase(),
    STERN_DATA: await mkdtemp(join(tmpdir(), 'stern-refresh-')),
    STERN_PORT: '0',
    STERN_LOG: 'silent',
  })
  const first = await startServer(settings, serverFiles),
    api = createClient(first.url),
    project = await api.project()
  await api.deliver(project, await crateFiles({ green: 'down', textureSize: [512, 512] }))
  const [row] = await api.assets(project)
  // As an older program would have left it: older facts, and a verdict that the newest measures do not give
  const { pool } = first.services.connection
  await pool.query('update facts set version = version - 1')
  await pool.query('delete from findings')
  await first.stop()
  const second = await startServer(settings, serverFiles),
    again = createClient(second.url)
  const detail = await again.waitFor(
    () => again.asset(row!.id),
    (a) => a.source.mesh !== null && a.source.textures.every((t) => t.facts !== null),
  )
  expect(detail.source.findings.map((f) => f.rule)).toEqual(['colour/normal-green'])
  await again.waitFor(
    () => again.assets(project),
    ([a]) => a!.stops === 1,
  )
  await second.stop()
  const third = await startServer(settings, serverFiles)
  expect(
    (
      await third.services.connection.pool.query(
        'select count(*)::int as n from graphile_worker._private_jobs',
      )
    ).rows[0].n,
  ).toBe(0)
  await third.stop()
  await rm(settings.STERN_DATA, { recursive: true, force: true })
})

it('three servers may migrate one database at the same time', async () => {
  const url = await createDatabase()
  const connections = [1, 2, 3].map(() => connect(url))
  await Promise.all(connections.map((c) => migrateDatabase(c, serverFiles.migrations)))
  expect(
    (
      await connections[0]!.pool.query(
        "select count(*)::int as n from information_schema.tables where table_schema = 'public'",
      )
    ).rows[0].n,
  ).toBeGreaterThan(10)
  await Promise.all(connections.map((c) => c.pool.end()))
})

describe('settings', () => {
  it('have defaults for everything, with a thread more than there are cores', () =>
    expect(readSettings({})).toMatchObject({
      ok: true,
      value: { STERN_PORT: 4520, STERN_THREADS: Math.min(9, availableParallelism() + 1) },
    }))
  it('name the variable that is wrong', () => {
    expect(readSettings({ STERN_PORT: 'seven' })).toMatchObject({
      ok: false,
      fault: { code: 'settings/invalid', where: { part: 'STERN_PORT' } },
    })
    expect(readSettings({ STERN_THREADS: '0' })).toMatchObject({
      ok: false,
      fault: { where: { part: 'STERN_THREADS' } },
    })
  })
  it('are all described', () => {
    for (const field of Object.values(settingsSchema.shape)) expect(field.description).toBeTruthy()
  })
})
