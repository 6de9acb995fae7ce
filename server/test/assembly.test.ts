import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, expect, it } from 'vitest'
import { crateFiles } from '@stern-gate/core/fixtures'
import { addAssembly, countOpenJobs } from '../src/store/jobQueue'
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

it('a delivery with a file that is not measured yet is not put together, however often that is asked for', async () => {
  const { db, pool } = server.running.services.connection
  const project = await api.project()
  await api.deliver(project, await crateFiles({ name: 'harbour_crate_a', textureName: 'harbour_crate_a' }))
  const { rows } = await pool.query<{ id: string }>('select id from deliveries')
  const delivery = rows[0]!.id
  // As it stands while the parts of a scene are still to be measured, and a second job was queued behind the first
  await pool.query('delete from assets')
  await pool.query(`update deliveries set state = 'measuring'`)
  const setMesh = (state: string) =>
    pool.query(`update delivery_files set state = $1 where path like '%.glb'`, [state])
  const assembled = async (): Promise<string> => {
    await addAssembly(db, delivery)
    await api.waitFor(
      () => countOpenJobs(db, [`assemble:${delivery}`]),
      (open) => open === 0,
    )
    return (await pool.query<{ state: string }>('select state from deliveries')).rows[0]!.state
  }
  for (const open of ['waiting', 'measuring']) {
    await setMesh(open)
    expect(await assembled()).toBe('measuring')
    expect(await api.assets(project)).toEqual([])
  }
  await setMesh('measured')
  expect(await assembled()).toBe('done')
  expect((await api.assets(project)).map((a) => a.name)).toEqual(['harbour_crate_a'])
})
