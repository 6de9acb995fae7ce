import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Encoding, Fault } from '@stern-gate/contract'
import { readTextureHeader } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { collect } from '../src/care/doctor'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>, id: string, base: string
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  const project = await api.project()
  await api.deliver(project, await crateFiles({ textureSize: [64, 64] }))
  id = (await api.assets(project))[0]!.id
  base = (await api.asset(id)).output!.textures.find((t) => t.role === 'basecolor')!.name
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

const encode = (plan: object, texture = base) =>
  api.call<Encoding & { fault: Fault }>('POST', `/assets/${id}/encodings`, { texture, plan })
const bytesAt = async (address: string): Promise<Uint8Array> =>
  new Uint8Array(await (await fetch(`${server.running.url}${address}`)).arrayBuffer())

describe('a texture encoded for an asset', () => {
  it('is a file of the format, with a picture of what is read back', async () => {
    const { status, body } = await encode({ format: 'BC7', quality: 'fast', role: 'basecolor' })
    expect(status).toBe(200)
    expect(body.facts).toMatchObject({ width: 64, height: 64, levels: 7 })
    expect(body.facts.psnrAll!).toBeGreaterThan(30)
    expect(readTextureHeader(await bytesAt(body.file), 'a.ktx2')).toMatchObject({
      value: { format: 'ktx2', blockFormat: 'BC7', colourSpace: 'srgb' },
    })
    expect(readTextureHeader(await bytesAt(body.picture), 'a.png')).toMatchObject({
      value: { format: 'png' },
    })
  })
  it('is encoded once: the same plan comes again with the time that it took at first', async () => {
    const first = await encode({ format: 'ASTC 8×8', role: 'basecolor', quality: 'fast' })
    const again = await encode({ format: 'ASTC 8×8', role: 'basecolor', quality: 'fast' })
    expect(again.body).toEqual(first.body)
    const other = await encode({ format: 'ASTC 8×8', role: 'basecolor', quality: 'fast', mips: false })
    expect(other.body.facts.levels).toBe(1)
    const { body } = await api.call<Encoding[]>(
      'GET',
      `/assets/${id}/encodings?texture=${encodeURIComponent(base)}`,
    )
    expect(body.map((e) => [e.texture, e.facts.plan.format, e.facts.levels])).toEqual([
      [base, 'BC7', 7],
      [base, 'ASTC 8×8', 7],
      [base, 'ASTC 8×8', 1],
    ])
    const { rows } = await server.running.services.connection.pool.query('select 1 from encodings')
    expect(rows.length).toBe(3)
  })
  it('is refused in words where container, texture or format are none', async () => {
    const dds = await encode({ format: 'ASTC 4×4', container: 'dds' })
    expect([dds.status, dds.body.fault.code]).toEqual([422, 'encode/refused'])
    expect((await encode({ format: 'BC7' }, 'nobody.png')).status).toBe(404)
    expect((await encode({ format: 'JPEG' })).status).toBe(400)
  })
  it('is kept from the sweep while it is young, and made again when it is gone', async () => {
    const { connection, store } = server.running.services
    await connection.pool.query(`update encodings set created = now() - interval '8 days'`)
    await collect({ db: connection.db, store })
    expect((await connection.pool.query('select 1 from encodings')).rows.length).toBe(0)
    expect((await encode({ format: 'BC7', quality: 'fast', role: 'basecolor' })).status).toBe(200)
    await collect({ db: connection.db, store }, Date.now() + 3 * 86_400_000)
    const { body } = await encode({ format: 'BC7', quality: 'fast', role: 'basecolor' })
    expect((await bytesAt(body.file)).length).toBe(body.facts.fileBytes)
  })
})
