import { createWriteStream, readdirSync } from 'node:fs'
import { mkdtemp } from 'node:fs/promises'
import { connect as openSocket, createServer, type Server, type Socket } from 'node:net'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'
import { Readable } from 'node:stream'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { settingsSchema, type Delivery, type Fault, type Health } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { zipOf } from '../../engine/src/zipFixture'
import { startServer, type RunningServer } from '../src/start/startServer'
import { createFolderStore, type BlobStore } from '../src/store/blobStore'
import { createClient, createDatabase, serverFiles, startTestServer, type TestServer } from './testServer'

describe('a full disk', () => {
  let server: TestServer, api: ReturnType<typeof createClient>, project: string
  let full = false,
    puts = 0,
    fullFrom = Infinity
  /** Meets what the operating system says of a full device, in the place of the store's own folder. */
  const meetFullDisk = (): Promise<void> =>
    pipeline(Readable.from([new Uint8Array(1)]), createWriteStream('/dev/full'))
  const openStore = async (folder: string): Promise<BlobStore> => {
    const store = await createFolderStore(folder)
    return {
      ...store,
      putStream: async (source) => {
        if (full || ++puts >= fullFrom) await meetFullDisk()
        return store.putStream(source)
      },
      putBytes: async (bytes) => {
        if (full) await meetFullDisk()
        return store.putBytes(bytes)
      },
      tryWriting: async () => (full ? meetFullDisk() : store.tryWriting()),
    }
  }
  beforeAll(async () => {
    server = await startTestServer({}, openStore)
    api = createClient(server.running.url)
    project = await api.project()
  })
  afterAll(() => server.running.stop())

  it('is said to who sends files; nothing is noted or left half written', async () => {
    const { body } = await api.call<Delivery>('POST', `/projects/${project}/deliveries`, { note: '' })
    full = true
    const sent = await api.send(body.id, await crateFiles({}))
    expect([sent.status, (sent.body as unknown as { fault: Fault }).fault.code]).toEqual([507, 'store/full'])
    expect((await api.call<Delivery>('GET', `/deliveries/${body.id}`)).body.files).toBe(0)
    expect(readdirSync(join(server.data, 'store/incoming'))).toEqual([])
    full = false
  })
  it('is no damage of an archive that comes just then', async () => {
    const { body } = await api.call<Delivery>('POST', `/projects/${project}/deliveries`, { note: '' })
    const zip = zipOf(
      Object.entries(await crateFiles({})).map(([name, bytes]) => ({ name, body: Buffer.from(bytes) })),
    )
    puts = 0
    fullFrom = 2
    const sent = await api.send(body.id, { 'all.zip': zip })
    fullFrom = Infinity
    expect([sent.status, (sent.body as unknown as { fault: Fault }).fault.code]).toEqual([507, 'store/full'])
    expect((await api.call<Delivery>('GET', `/deliveries/${body.id}`)).body.files).toBe(0)
  })
  it('lets measuring wait, refuses nothing, and it goes on when there is room', async () => {
    const { body } = await api.call<Delivery>('POST', `/projects/${project}/deliveries`, { note: '' })
    await api.send(body.id, await crateFiles({ name: 'harbour_crate_a' }))
    full = true
    await api.call('POST', `/deliveries/${body.id}/close`)
    const health = await api.waitFor(
      async () => (await api.call<Health>('GET', '/health')).body,
      (h) => h.waitsFor !== null,
    )
    expect(health).toMatchObject({ ok: false, store: 'store/full', database: 'ok', waitsFor: 'store/full' })
    const waiting = (await api.call<Delivery>('GET', `/deliveries/${body.id}`)).body
    expect([waiting.state, waiting.refused]).toEqual(['measuring', []])
    full = false
    const done = await api.waitDone(body.id)
    expect([done.state, done.refused, done.done]).toEqual(['done', [], done.files])
    const after = await api.waitFor(
      async () => (await api.call<Health>('GET', '/health')).body,
      (h) => h.ok,
    )
    expect(after.waitsFor).toBeNull()
  }, 40_000)
})

describe('a database that goes away', () => {
  let proxy: Server, running: RunningServer | undefined, api: ReturnType<typeof createClient>, project: string
  const sockets = new Set<Socket>()
  let away = false
  beforeAll(async () => {
    const url = new URL(await createDatabase())
    const [port, host] = [Number(url.port), url.hostname]
    // Between the server and its database, to be cut like a database that is stopped
    proxy = createServer((near) => {
      if (away) return void near.destroy()
      const far = openSocket(port, host)
      for (const socket of [near, far]) {
        sockets.add(socket)
        socket.on('error', () => undefined)
        socket.on('close', () => {
          near.destroy()
          far.destroy()
          sockets.delete(socket)
        })
      }
      near.pipe(far).pipe(near)
    })
    await new Promise<void>((resolve) => proxy.listen(0, '127.0.0.1', resolve))
    url.port = String((proxy.address() as { port: number }).port)
    running = await startServer(
      settingsSchema.parse({
        STERN_DATABASE_URL: url.href,
        STERN_DATA: await mkdtemp(join(tmpdir(), 'stern-away-')),
        STERN_PORT: '0',
        STERN_LOG: 'silent',
      }),
      serverFiles,
    )
    api = createClient(running.url)
    project = await api.project()
  })
  afterAll(async () => {
    await running?.stop()
    proxy.close()
  })
  const cut = () => {
    away = true
    for (const socket of sockets) socket.destroy()
  }

  it('is outlived: requests are answered, work waits and goes on when it is back', async () => {
    const { body } = await api.call<Delivery>('POST', `/projects/${project}/deliveries`, { note: '' })
    const names = ['a', 'b', 'c', 'd', 'e', 'f'].map((v) => `harbour_crate_${v}`)
    for (const name of names) await api.send(body.id, await crateFiles({ name, textureName: name }))
    await api.call('POST', `/deliveries/${body.id}/close`)
    cut()
    for (const path of ['/projects', `/projects/${project}/assets`, `/deliveries/${body.id}`]) {
      const { status, body: answer } = await api.call<{ fault: Fault }>('GET', path)
      expect([status, answer.fault.code]).toEqual([503, 'database/away'])
    }
    const health = await api.call<Health>('GET', '/health')
    expect([health.status, health.body.database, health.body.store]).toEqual([503, 'database/away', 'ok'])
    await new Promise((resolve) => setTimeout(resolve, 2500))
    away = false
    const done = await api.waitDone(body.id)
    expect([done.state, done.refused]).toEqual(['done', []])
    expect((await api.assets(project)).filter((a) => a.kind === 'mesh').map((a) => a.state)).toEqual(
      names.map(() => 'judged'),
    )
    expect((await api.call<Health>('GET', '/health')).status).toBe(200)
  }, 60_000)
})
