import { mkdtemp, readFile, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { expect, it } from 'vitest'
import { settingsSchema, type AssetRow } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { ArchiveFailed, backup, restore } from '../../tools/archive.mjs'
import { startServer } from '../src/start/startServer'
import { createClient, createDatabase, serverFiles, startTestServer } from './testServer'

it('an installation that was backed up while it ran is restored with everything in it', async () => {
  const server = await startTestServer()
  const api = createClient(server.running.url)
  const project = await api.project()
  await api.deliver(project, await crateFiles({ name: 'harbour_crate_a', green: 'down' }))
  // The validator looks at it in the background; what it says would come between the two looks
  await api.waitFor(
    async () =>
      (await server.running.services.connection.pool.query('select 1 from graphile_worker._private_jobs'))
        .rowCount,
    (left) => left === 0,
  )
  const before = await api.assets(project)
  const detail = await api.asset(before[0]!.id)
  const folder = await mkdtemp(join(tmpdir(), 'stern-backup-')),
    file = join(folder, 'gate.tar')
  backup({ url: server.databaseUrl, data: server.data, file })
  await server.running.stop()

  const place = { url: await createDatabase(), data: join(folder, 'data'), file }
  restore(place)
  expect(() => restore(place)).toThrow(ArchiveFailed)
  restore({ ...place, replace: true })
  const again = await startServer(
    settingsSchema.parse({
      STERN_DATABASE_URL: place.url,
      STERN_DATA: place.data,
      STERN_PORT: '0',
      STERN_LOG: 'silent',
    }),
    serverFiles,
  )
  const client = createClient(again.url)
  expect((await client.call<AssetRow[]>('GET', `/projects/${project}/assets`)).body).toEqual(before)
  expect(await client.asset(before[0]!.id)).toEqual(detail)
  for (const { sha256, sizeBytes } of detail.source.files)
    expect((await readFile(again.services.store.localFile(sha256))).length).toBe(sizeBytes)
  await client.deliver(project, await crateFiles({ name: 'harbour_crate_b' }))
  await again.stop()
}, 60_000)

it('what is no backup is refused before anything is thrown away', async () => {
  const folder = await mkdtemp(join(tmpdir(), 'stern-backup-')),
    file = join(folder, 'x.tar')
  await writeFile(file, 'no archive')
  expect(() => restore({ url: 'postgres://nobody@127.0.0.1:1/x', data: join(folder, 'data'), file })).toThrow(
    /Unpacking failed/,
  )
})
