import { rm } from 'node:fs/promises'
import { sql } from 'drizzle-orm'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type {
  BulkChange,
  Facets,
  Found,
  LibraryPage,
  Offers,
  RenamePlan,
  RulebookReply,
} from '@stern-gate/contract'
import { crateFiles, type CrateOptions } from '@stern-gate/core/fixtures'
import { continueBulkChange } from '../src/judging/bulkChange'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>
let project = ''
const crates: [name: string, more: CrateOptions][] = [
  ['harbour_crate_a', {}],
  ['harbour_crate_b', { green: 'down' }],
  ['quay_keg_a', { green: 'down', slivers: 2 }],
  ['quay_keg_b', { slivers: 2 }],
  ['Lamp post', {}],
]
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  project = await api.project()
  const { body: now } = await api.call<RulebookReply>('GET', `/projects/${project}/rulebook`)
  await api.call('PUT', `/projects/${project}/rulebook`, {
    rulebook: { ...now.rulebook, rules: { 'names/characters': { level: 'stop' } } },
    revision: now.revision,
    note: 'no blanks here',
  })
  for (const [name, more] of crates)
    await api.deliver(
      project,
      await crateFiles({ name, textureName: name, textureSize: [512, 512], ...more }),
    )
  await api.waitFor(
    () => api.assets(project),
    (rows) => rows.length === crates.length && rows.every((r) => r.state === 'judged'),
  )
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

const list = async (query: string): Promise<LibraryPage> =>
  (await api.call<LibraryPage>('GET', `/projects/${project}/library?${query}`)).body
const names = async (query: string): Promise<string[]> => (await list(query)).rows.map((r) => r.name)
const facets = async (query = ''): Promise<Facets> =>
  (await api.call<Facets>('GET', `/projects/${project}/facets?${query}`)).body

describe('the library', () => {
  it('is a window of a sorted list, with the number of all', async () => {
    const all = ['Lamp post', 'harbour_crate_a', 'harbour_crate_b', 'quay_keg_a', 'quay_keg_b']
    expect(await names('sort=name')).toEqual(all)
    expect(await list('sort=name&offset=1&limit=2')).toMatchObject({ total: 5, offset: 1 })
    expect(await names('sort=name&offset=1&limit=2')).toEqual(all.slice(1, 3))
    expect(await names('sort=newest')).toEqual(crates.map(([name]) => name).reverse())
    expect(await list('offset=99')).toMatchObject({ total: 5, rows: [] })
  })
  it('shows each line as the plain list does', async () => {
    const plain = await api.assets(project)
    expect((await list('sort=newest')).rows).toEqual(plain)
  })
  it('is filtered by verdict, station, class, family and a text', async () => {
    expect(await names('sort=name&verdict=clear')).toEqual(['harbour_crate_a', 'quay_keg_b'])
    expect(await names('sort=name&station=colour')).toEqual(['harbour_crate_b', 'quay_keg_a'])
    expect(await names('sort=name&station=mesh&verdict=held')).toEqual(['quay_keg_a'])
    expect(await names('sort=name&family=quay')).toEqual(['quay_keg_a', 'quay_keg_b'])
    expect(await names('sort=name&family=other')).toEqual(['Lamp post'])
    expect(await names('sort=name&find=KEG')).toEqual(['quay_keg_a', 'quay_keg_b'])
    expect(await names('sort=name&find=green%20points')).toEqual(['harbour_crate_b', 'quay_keg_a'])
    expect(await names('find=100%25')).toEqual([])
    expect((await list('class=prop')).total + (await list('class=texture-set')).total).toBe(5)
    expect((await list('fresh=true')).total).toBe(5)
    expect(
      (await api.call<string[]>('GET', `/projects/${project}/library/ids?sort=name&family=quay`)).body,
    ).toEqual((await list('sort=name&family=quay')).rows.map((r) => r.id))
  })
  it('counts each facet with the other filters on, and not its own', async () => {
    const all = await facets()
    expect(all).toMatchObject({ all: 5, held: 3, fresh: 5 })
    expect(all.verdict).toEqual([
      { value: 'held', count: 3 },
      { value: 'clear', count: 2 },
    ])
    expect(all.station.map((s) => s.value)).toEqual(['names', 'mesh', 'colour'])
    expect(all.family).toEqual([
      { value: 'harbour', count: 2 },
      { value: 'quay', count: 2 },
      { value: 'other', count: 1 },
    ])
    const held = await facets('verdict=held&family=quay')
    expect(held.verdict).toEqual([
      { value: 'clear', count: 1 },
      { value: 'held', count: 1 },
    ])
    expect(held.family.map((f) => f.value).sort()).toEqual(['harbour', 'other', 'quay'])
    expect(held.station).toEqual([
      { value: 'names', count: 1 },
      { value: 'mesh', count: 1 },
      { value: 'colour', count: 1 },
    ])
    expect(held).toMatchObject({ all: 5, held: 3 })
  })
  it('of another project is empty', async () => {
    const other = await api.project()
    expect((await api.call<LibraryPage>('GET', `/projects/${other}/library`)).body).toMatchObject({
      total: 0,
      rows: [],
    })
  })
})

describe('a name', () => {
  const find = async (text: string, what = ''): Promise<string[]> =>
    (
      await api.call<Found[]>('GET', `/projects/${project}/names?find=${encodeURIComponent(text)}${what}`)
    ).body.map((f) => `${f.what} ${f.name} of ${f.assetName}`)
  it('is found by any part of three letters, by its beginning with fewer', async () => {
    expect(await find('KEG_B')).toContain('asset quay_keg_b of quay_keg_b')
    expect(await find('keg_b_normal')).toEqual([
      'texture quay_keg_b_normal.png of quay_keg_b',
      'file props/quay_keg_b_normal.png of quay_keg_b',
    ])
    expect((await find('la', '&what=asset')).join()).toBe('asset Lamp post of Lamp post')
    expect(await find('mp', '&what=asset')).toEqual([])
    expect(await find('mp_', '&what=asset')).toEqual([])
    expect(await find('amp', '&what=asset')).toEqual(['asset Lamp post of Lamp post'])
  })
  it('of an asset that was renamed is found, and the old one no more', async () => {
    const row = (await list('find=Lamp')).rows[0]!
    const { recipeRevision } = await api.asset(row.id)
    await api.call('PUT', `/assets/${row.id}/recipe`, {
      revision: recipeRevision,
      recipe: {
        steps: [
          {
            id: '1',
            remedy: 'names/rename',
            options: { what: 'asset', from: 'Lamp post', to: 'quay_lamp_a' },
            on: true,
            why: 'test',
          },
        ],
      },
    })
    await api.waitFor(
      () => names('find=quay_lamp'),
      (found) => found.length === 1,
    )
    expect(await find('quay_lamp_a', '&what=asset')).toEqual(['asset quay_lamp_a of quay_lamp_a'])
    expect(await find('lamp post', '&what=asset')).toEqual([])
    expect((await facets()).family.find((f) => f.value === 'quay')!.count).toBe(3)
  })
})

describe('two assets of one delivery', () => {
  it('are never offered the same new name', async () => {
    const own = await api.project()
    await api.deliver(own, {
      ...(await crateFiles({ name: 'Harbour-Box', textureName: 'Harbour-Box', folder: 'one' })),
      ...(await crateFiles({ name: 'HARBOUR BOX', textureName: 'HARBOUR BOX', folder: 'two' })),
    })
    const rows = await api.waitFor(
      () => api.assets(own),
      (all) => all.length === 2 && all.every((r) => r.state === 'judged'),
    )
    const assets = rows.map((r) => r.id)
    const plans = (await api.call<RenamePlan[]>('POST', `/projects/${own}/renames`, { assets })).body
    const names = plans.flatMap((p) => p.renames.filter((r) => r.what === 'asset').map((r) => r.to))
    expect(names).toHaveLength(2)
    expect(new Set(names).size).toBe(2)
  })
})

describe('an act on more assets than one slice', () => {
  it('is gone on with in the background, tells how far it is, and is taken back the same way', async () => {
    const { db } = server.running.services.connection
    const own = await api.project(),
      name = 'harbour_crate_a'
    await api.deliver(own, await crateFiles({ name, textureName: name, green: 'down' }))
    await api.waitFor(
      () => api.assets(own),
      (rows) => rows[0]?.state === 'judged',
    )
    await db.execute(sql`
      with one as (select * from assets where project_id = ${own}),
      copies as (insert into assets (project_id, name, kind, current_version)
        select ${own}, 'copy_' || n, kind, 1 from one, generate_series(1, 1200) as n returning id),
      made as (insert into versions (asset_id, number, delivery_id, main, by, shown_name, class_name, tally, state, verdict, judged_with)
        select c.id, 1, v.delivery_id, v.main, v.by, v.shown_name, v.class_name, v.tally, 'judged', v.verdict, v.judged_with
        from copies c, (select v.* from versions v join one on one.id = v.asset_id) as v returning id, asset_id),
      notes as (insert into recipes (asset_id, body) select id, '{"steps":[]}' from copies)
      insert into findings (version_id, rule, station, level, fingerprint, offers, body)
      select m.id, f.rule, f.station, f.level, f.fingerprint, f.offers, f.body
      from made m, findings f join versions v on v.id = f.version_id join one on one.id = v.asset_id`)
    const ids = (await api.call<string[]>('GET', `/projects/${own}/library/ids`)).body
    expect(ids).toHaveLength(1201)
    const offers = (await api.call<Offers>('POST', `/projects/${own}/offers`, { assets: ids })).body
    expect(offers.remedies.find((r) => r.remedy === 'colour/flip-green')).toMatchObject({ assets: 1201 })
    await server.running.pauseWorker()
    const made = await api.call<BulkChange>('POST', `/projects/${own}/changes`, {
      rule: 'colour/normal-green',
      remedy: 'colour/flip-green',
      assets: ids,
    })
    expect(made.body).toMatchObject({ state: 'working', total: 1201, done: 500, assets: 500 })
    const signal = new AbortController().signal
    await continueBulkChange(db, made.body.id, signal)
    const now = async (): Promise<BulkChange> =>
      (await api.call<BulkChange[]>('GET', `/projects/${own}/changes`)).body[0]!
    expect(await now()).toMatchObject({ state: 'done', done: 1201, assets: 1201, steps: 1201, open: 1201 })
    const steps = async (): Promise<unknown> =>
      (
        await db.execute(
          sql`select jsonb_array_length(body->'steps') as steps, count(*)::int as n from recipes r join assets a on a.id = r.asset_id where a.project_id = ${own} group by 1`,
        )
      ).rows
    expect(await steps()).toEqual([{ steps: 1, n: 1201 }])
    // Done twice over it changes nothing more
    await continueBulkChange(db, made.body.id, signal)
    expect(await steps()).toEqual([{ steps: 1, n: 1201 }])
    const undone = await api.call<BulkChange>('POST', `/changes/${made.body.id}/undo`)
    expect(undone.body).toMatchObject({ state: 'undoing', undone: false })
    await continueBulkChange(db, made.body.id, signal)
    expect(await now()).toMatchObject({ state: 'done', undone: true, kept: 0 })
    expect(await steps()).toEqual([{ steps: 0, n: 1201 }])
  })
})
