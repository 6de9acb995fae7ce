import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Delivery } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer,
  api: ReturnType<typeof createClient>,
  project = ''
beforeAll(async () => {
  server = await startTestServer({ STERN_UPLOAD_MAX_MB: '2' })
  api = createClient(server.running.url)
  project = await api.project()
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

const tus = { 'Tus-Resumable': '1.0.0' }
const base64 = (text: string): string => Buffer.from(text).toString('base64')
const begin = (delivery: string, path: string, length: number) =>
  fetch(`${server.running.url}/api/uploads`, {
    method: 'POST',
    headers: {
      ...tus,
      'Upload-Length': String(length),
      'Upload-Metadata': `delivery ${base64(delivery)},path ${base64(path)}`,
    },
  })
const piece = (address: string, offset: number, bytes: Uint8Array) =>
  fetch(`${server.running.url}${address}`, {
    method: 'PATCH',
    headers: { ...tus, 'Content-Type': 'application/offset+octet-stream', 'Upload-Offset': String(offset) },
    body: bytes as Uint8Array<ArrayBuffer>,
  })
const open = async (): Promise<string> =>
  (await api.call<Delivery>('POST', `/projects/${project}/deliveries`, {})).body.id

describe('a large file', () => {
  it('comes in pieces, goes on where it stopped, and is measured like any other', async () => {
    const delivery = await open(),
      files = await crateFiles({ textureSize: [512, 512] })
    const [path, bytes] = Object.entries(files).find(([p]) => p.endsWith('.glb'))!
    const made = await begin(delivery, path, bytes.length),
      address = new URL(made.headers.get('location')!, server.running.url).pathname
    expect([made.status, (await piece(address, 0, bytes.slice(0, 1000))).status]).toEqual([201, 204])
    const head = await fetch(`${server.running.url}${address}`, { method: 'HEAD', headers: tus })
    expect(head.headers.get('upload-offset')).toBe('1000')
    expect((await piece(address, 400, bytes.slice(400))).status).toBe(409)
    const last = await piece(address, 1000, bytes.slice(1000))
    expect((await last.json()) as object[]).toMatchObject([
      { path, sizeBytes: bytes.length, state: 'waiting' },
    ])
    await api.send(delivery, Object.fromEntries(Object.entries(files).filter(([p]) => p !== path)))
    await api.call('POST', `/deliveries/${delivery}/close`)
    expect(await api.waitDone(delivery)).toMatchObject({ files: 4, refused: [] })
    expect((await api.assets(project)).map((a) => a.verdict)).toEqual(['clear'])
  })
  it('over the limit, for no delivery, or for a closed one is refused', async () => {
    const delivery = await open()
    expect((await begin(delivery, 'a.glb', 3_000_000)).status).toBe(413)
    const none = await begin('00000000-0000-4000-8000-000000000000', 'a.glb', 10)
    expect([none.status, await none.json()]).toMatchObject([404, { fault: { code: 'request/not-found' } }])
    await api.call('POST', `/deliveries/${delivery}/cancel`)
    expect([(await begin(delivery, 'a.glb', 10)).status]).toEqual([409])
  })
  it('whose path leaves the delivery is refused by name; an address that is none of ours finds nothing', async () => {
    const delivery = await open(),
      made = await begin(delivery, '../../etc/x.glb', 4)
    const done = await piece(
      new URL(made.headers.get('location')!, server.running.url).pathname,
      0,
      new Uint8Array(4),
    )
    expect(await done.json()).toMatchObject([{ state: 'refused', fault: { code: 'file/unsafe-path' } }])
    expect(
      (await fetch(`${server.running.url}/api/uploads/..%2F..%2Fstore`, { method: 'HEAD', headers: tus }))
        .status,
    ).toBe(404)
  })
})
