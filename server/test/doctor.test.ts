import { rm, utimes, writeFile, mkdir } from 'node:fs/promises'
import { dirname } from 'node:path'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail, Preview } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { collect, examine } from '../src/care/doctor'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>
let id = ''
const services = () => {
  const { connection, store } = server.running.services
  return { db: connection.db, store }
}
const DAY_MS = 86_400_000
const flip = (on = true) => ({
  steps: [
    {
      id: '1',
      remedy: 'colour/flip-green',
      options: { texture: 'harbour_crate_a_normal.png' },
      on,
      why: 'test',
    },
  ],
})
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  const project = await api.project()
  await api.deliver(project, await crateFiles({ green: 'down', embed: false, textureSize: [256, 256] }))
  await api.deliver(project, await crateFiles({ name: 'quay_box_a', textureName: 'quay_box_a', embed: true }))
  const rows = await api.waitFor(
    () => api.assets(project),
    (all) => all.length === 2 && all.every((r) => r.state === 'judged'),
  )
  id = rows.find((r) => r.name === 'harbour_crate_a')!.id
  await api.call<AssetDetail>('PUT', `/assets/${id}/recipe`, {
    revision: (await api.asset(id)).recipeRevision,
    recipe: flip(),
  })
  await api.waitFor(
    () => api.asset(id),
    (a) => !a.making,
  )
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

describe('the doctor', () => {
  it('finds nothing amiss in what deliveries, outputs and packages left, however old it is', async () => {
    const later = Date.now() + 40 * DAY_MS
    expect(await examine(services(), later)).toMatchObject({ orphans: [], missing: [] })
    expect((await examine(services(), later)).stored).toBeGreaterThan(12)
    const before = await api.asset(id)
    expect(await collect(services(), later)).toEqual({ outputs: 0, events: 0, facts: 0, files: 0, bytes: 0 })
    expect(await api.asset(id)).toEqual(before)
  })
  it('takes a file away that nothing refers to, once it is a day old, and no sooner', async () => {
    const { store } = services()
    const { sha256 } = await store.putBytes(new TextEncoder().encode('nobody’s'))
    expect((await examine(services())).orphans).toEqual([])
    expect(await collect(services())).toMatchObject({ files: 0 })
    const old = new Date(Date.now() - 2 * DAY_MS)
    await utimes(store.localFile(sha256), old, old)
    expect((await examine(services())).orphans).toEqual([{ sha256, sizeBytes: 10 }])
    // Stored once more it is young again
    await store.putBytes(new TextEncoder().encode('nobody’s'))
    expect(await collect(services())).toMatchObject({ files: 0 })
    await utimes(store.localFile(sha256), old, old)
    expect(await collect(services())).toMatchObject({ files: 1, bytes: 10 })
    expect(await store.has(sha256)).toBe(false)
  })
  it('lets outputs that no recipe makes expire after a week, with their files', async () => {
    const { db } = services()
    const preview = await api.call<Preview>('POST', `/assets/${id}/preview`, {
      recipe: {
        steps: [
          ...flip().steps,
          { id: '2', remedy: 'scale/rescale', options: { factor: 2 }, on: true, why: 'test' },
        ],
      },
    })
    expect(preview.status).toBe(200)
    const count = async (): Promise<number> =>
      (await db.execute<{ n: number }>(sql`select count(*)::int as n from outputs`)).rows[0]!.n
    expect(await count()).toBe(2)
    expect(await collect(services())).toMatchObject({ outputs: 0 })
    await db.execute(sql`update outputs set created = now() - interval '8 days'`)
    await db.execute(sql`update facts set created = now() - interval '8 days'`)
    expect(await collect(services(), Date.now() + 2 * DAY_MS)).toMatchObject({
      outputs: 1,
      facts: 1,
    })
    expect(await count()).toBe(1)
    expect((await api.asset(id)).making).toBe(false)
  })
  it('says what is missing', async () => {
    const { store } = services(),
      { sha256 } = (await api.asset(id)).source.files[0]!
    await store.remove(sha256)
    expect((await examine(services())).missing).toEqual([{ sha256, owner: 'delivery' }])
    await mkdir(dirname(store.localFile(sha256)), { recursive: true })
    await writeFile(store.localFile(sha256), 'x')
  })
  it('old events go, and the newer stay', async () => {
    const { db } = services()
    const all = async (): Promise<number> =>
      (await db.execute<{ n: number }>(sql`select count(*)::int as n from events`)).rows[0]!.n
    const before = await all()
    await db.execute(
      sql`update events set created = now() - interval '31 days' where id in (select id from events order by id limit 3)`,
    )
    expect(await collect(services())).toMatchObject({ events: 3 })
    expect(await all()).toBe(before - 3)
  })
})
