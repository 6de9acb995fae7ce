import { cp, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { connect, migrateDatabase, type Connection } from '../src/store/database'
import { createDatabase, serverFiles } from './testServer'

/** The first migration that knows enums. */
const ENUMS = '0016_enums'
let connection: Connection, before: string
beforeAll(async () => {
  connection = connect(await createDatabase())
  before = await mkdtemp(join(tmpdir(), 'stern-migrations-'))
  await cp(serverFiles.migrations, before, { recursive: true })
  const journal = join(before, 'meta/_journal.json')
  const { entries, ...rest } = JSON.parse(await readFile(journal, 'utf8')) as { entries: { tag: string }[] }
  const older = entries.filter(({ tag }) => tag < ENUMS)
  await writeFile(journal, JSON.stringify({ ...rest, entries: older }))
})
afterAll(async () => {
  await connection.pool.end()
  await rm(before, { recursive: true, force: true })
})

it('a database of before keeps its words, and takes no other from then on', async () => {
  await migrateDatabase(connection, before)
  const one = async (text: string): Promise<Record<string, unknown>> =>
    (await connection.pool.query<Record<string, unknown>>(text)).rows[0]!
  await one(`with project as (insert into projects (name, target) values ('Gullwick', 'desk') returning id),
    delivery as (insert into deliveries (project_id, number, by, state) select id, 1, 'a', 'done' from project returning id),
    file as (insert into delivery_files (delivery_id, path, size_bytes, state) select id, 'a.glb', 1, 'set-aside' from delivery),
    asset as (insert into assets (project_id, name, kind, current_version) select id, 'a', 'texture-set', 1 from project returning id),
    names as (insert into asset_names (asset_id, what, name) select id, 'slot', 'hull' from asset),
    version as (insert into versions (asset_id, number, delivery_id, main, by, shown_name, class_name, tally, verdict)
      select asset.id, 1, delivery.id, 'a.glb', 'a', 'a', 'prop', '{}', 'held' from asset, delivery returning id),
    files as (insert into version_files (version_id, position, path, part, sha256, size_bytes, kind)
      select id, 0, 'a.glb', 'buffer', 'x', 1, 'buffer' from version)
    insert into findings (version_id, rule, station, level, fingerprint, body)
      select id, 'lods/missing', 'lods', 'caution', 'f', '{}' from version`)
  await one(`with preset as (insert into intake_presets (project_id, name, options, folder, apart)
      select id, 'yard', '{"unit": "centimetre"}', 'yards', 'top' from projects returning id, project_id),
    rulebook as (insert into rulebook_revisions (project_id, number, author, body)
      select project_id, 1, 'a', '{"name": "own"}' from preset)
    update deliveries set suggested = preset.id from preset returning 1`)
  await migrateDatabase(connection, serverFiles.migrations)
  const words = await one(`select d.state as delivery, f.state as file, a.kind, v.state as version, v.verdict,
      p.part, n.what, x.station, x.level
    from deliveries d join delivery_files f on f.delivery_id = d.id join versions v on v.delivery_id = d.id
    join assets a on a.id = v.asset_id join version_files p on p.version_id = v.id
    join asset_names n on n.asset_id = a.id join findings x on x.version_id = v.id`)
  expect(words).toEqual({
    ...{ delivery: 'done', file: 'set-aside', kind: 'texture-set', version: 'waiting', verdict: 'held' },
    ...{ part: 'buffer', what: 'slot', station: 'lods', level: 'caution' },
  })
  for (const [table, column] of [
    ['deliveries', 'state'],
    ['delivery_files', 'state'],
    ['assets', 'kind'],
    ['versions', 'state'],
    ['versions', 'verdict'],
    ['version_files', 'part'],
    ['asset_names', 'what'],
    ['findings', 'station'],
    ['findings', 'level'],
  ])
    await expect(one(`update ${table} set ${column} = 'clean'`)).rejects.toThrow(
      /invalid input value for enum/,
    )
})

it('its intake presets stand in the rulebook that is in force, and deliveries name them', async () => {
  const { rows } = await connection.pool.query<Record<string, unknown>>(
    'select d.suggested, r.body from deliveries d join rulebook_revisions r on r.project_id = d.project_id',
  )
  const way = { options: { unit: 'centimetre' }, generator: '', folder: 'yards', mend: false, apart: 'top' }
  expect(rows).toEqual([{ suggested: 'yard', body: { name: 'own', intake: { yard: way } } }])
})

it('what waits to be judged is still found by its index', async () => {
  const { rows } = await connection.pool.query<{ indexdef: string }>(
    "select indexdef from pg_indexes where indexname = 'versions_unjudged'",
  )
  expect(rows[0]!.indexdef).toMatch(/WHERE \(state <> 'judged'::version_state\)/)
})
