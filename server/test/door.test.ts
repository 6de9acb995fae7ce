import { readdirSync } from 'node:fs'
import { request as httpRequest } from 'node:http'
import { connect as openSocket } from 'node:net'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import {
  findInvalidText,
  type AssetDetail,
  type Delivery,
  type DeliveryFile,
  type Fault,
} from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>, project: string
beforeAll(async () => {
  server = await startTestServer({ STERN_STALL_SECONDS: '1', STERN_NAMES: 'gate.example' })
  api = createClient(server.running.url)
  project = await api.project()
})
afterAll(() => server.running.stop())

const newDelivery = async (): Promise<string> =>
  (await api.call<Delivery>('POST', `/projects/${project}/deliveries`, { note: '' })).body.id

/** Status and fault code of a request with just these headers. */
const ask = (method: string, path: string, headers: Record<string, string>) =>
  new Promise<[number, string | null]>((resolve, reject) => {
    const call = httpRequest(server.running.url + path, { method, headers }, (response) => {
      let text = ''
      response.on('data', (chunk) => (text += chunk))
      response.on('end', () => {
        const code = /"code":"([^"]+)"/.exec(text)?.[1] ?? null
        resolve([response.statusCode!, code])
      })
    })
    call.on('error', reject)
    call.end()
  })

describe('who may ask', () => {
  const own = () => new URL(server.running.url).host
  it.each([
    ['a name that was bound to this address', 'GET', '/api/projects', { Host: 'evil.example' }, 403],
    ['the same for what is read', 'GET', '/', { Host: 'evil.example:4520' }, 403],
    ['a name that was set', 'GET', '/api/projects', { Host: 'gate.example' }, 200],
    ['another name of loopback', 'GET', '/api/projects', { Host: 'localhost:1' }, 200],
    ['the sixth version', 'GET', '/api/projects', { Host: '[::1]:9' }, 200],
    ['a number that is none of loopback', 'GET', '/api/projects', { Host: '10.0.0.1' }, 403],
    ['a name that begins like loopback', 'GET', '/api/projects', { Host: '127.0.0.1.evil.example' }, 403],
  ] as const)('%s', async (_, method, path, headers, status) => {
    const [got, code] = await ask(method, path, headers)
    // Without a built page the address / is nowhere, but never foreign
    expect(got).toBe(status)
    expect(code).toBe(status === 403 ? 'request/foreign' : null)
  })
  it.each(['http://evil.example', 'null', 'http://localhost:1'])(
    'a page of origin %s gets nothing, large uploads included',
    async (origin) => {
      for (const [method, path] of [
        ['GET', '/api/projects'],
        ['POST', '/api/uploads'],
        ['OPTIONS', '/api/uploads'],
      ] as const)
        expect(await ask(method, path, { Host: own(), Origin: origin })).toEqual([403, 'request/foreign'])
    },
  )
  it('its own page is answered', async () => {
    expect((await ask('GET', '/api/projects', { Host: own(), Origin: `http://${own()}` }))[0]).toBe(200)
  })
})

describe('text', () => {
  const glb = (json: object): Uint8Array => {
    const text = new TextEncoder().encode(JSON.stringify(json))
    const padded = new Uint8Array(Math.ceil(text.length / 4) * 4).fill(0x20)
    padded.set(text)
    const out = new Uint8Array(20 + padded.length),
      view = new DataView(out.buffer)
    view.setUint32(0, 0x46546c67, true)
    view.setUint32(4, 2, true)
    view.setUint32(8, out.length, true)
    view.setUint32(12, padded.length, true)
    view.setUint32(16, 0x4e4f534a, true)
    out.set(padded, 20)
    return out
  }
  const triangle = (nodeName: string, slotName: string) => ({
    asset: { version: '2.0', generator: `maker \ud83d\ude00 ${'long '.repeat(80)}\u0000\ud800` },
    scenes: [{ nodes: [0] }],
    nodes: [{ name: nodeName, mesh: 0 }],
    meshes: [{ name: nodeName, primitives: [{ attributes: { POSITION: 0 }, material: 0 }] }],
    materials: [{ name: slotName }],
    animations: [{ name: `${nodeName}\udc00`, channels: [], samplers: [] }],
    accessors: [
      { bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] },
    ],
    bufferViews: [{ buffer: 0, byteLength: 36 }],
    buffers: [
      {
        byteLength: 36,
        uri: `data:application/octet-stream;base64,${Buffer.from(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer).toString('base64')}`,
      },
    ],
  })
  it.each([
    ['characters outside the first plane', 'crate 🧭𠀋', 'slot 🧱', 'crate 🧭𠀋', 'slot 🧱'],
    [
      'halves of characters and NUL',
      'crate \ud83d',
      'slot \u0000\udc00',
      'crate \uFFFD',
      'slot \uFFFD\uFFFD',
    ],
  ])(
    '%s in the names of a file: it is judged, and keeps what is valid',
    async (_, node, slot, shownNode, shownSlot) => {
      const done = await api.deliver(project, { 'names 🧭.glb': glb(triangle(node, slot)) })
      expect(done).toMatchObject({ state: 'done', refused: [] })
      const row = (await api.assets(project)).find((a) => a.name.includes('🧭'))!
      expect(row).toMatchObject({ state: 'judged', verdict: 'held' })
      const { source } = await api.asset(row.id)
      expect(source.mesh!.nodes!.map((n) => n.name)).toEqual([shownNode])
      expect(source.mesh!.slots!.map((s) => s.name)).toEqual([shownSlot])
      expect(source.findings.length).toBeGreaterThan(3)
      for (const { text } of source.findings) expect(findInvalidText(text), text).toBeNull()
    },
  )
  it('that is none is refused in bodies and addresses, with its place', async () => {
    const body = await api.call<{ fault: Fault }>('POST', '/projects', { name: 'a\u0000b' })
    expect([body.status, body.body.fault.code, body.body.fault.where.part]).toEqual([
      400,
      'request/invalid-text',
      'name',
    ])
    expect(await ask('GET', '/api/blobs/%00', {})).toEqual([400, 'request/invalid-text'])
    expect(await ask('GET', '/api/%E0%A4%A', {})).toEqual([400, 'request/invalid-text'])
  })
})

describe('uploads', () => {
  const BOUNDARY = 'tide'
  const head = (path: string): string =>
    `--${BOUNDARY}\r\nContent-Disposition: form-data; name="file"; filename="${path}"\r\n\r\n`
  /** A request that is sent bit by bit. */
  const startUpload = (delivery: string) => {
    const { hostname, port, host } = new URL(server.running.url)
    const socket = openSocket(Number(port), hostname)
    let answer = ''
    socket.on('data', (chunk) => (answer += chunk.toString()))
    socket.on('error', () => undefined)
    socket.write(
      `POST /api/deliveries/${delivery}/files HTTP/1.1\r\nHost: ${host}\r\nContent-Type: multipart/form-data; boundary=${BOUNDARY}\r\nTransfer-Encoding: chunked\r\nConnection: close\r\n\r\n`,
    )
    const write = (text: string) => socket.write(`${Buffer.byteLength(text).toString(16)}\r\n${text}\r\n`)
    const ended = new Promise<string>((resolve) => socket.on('close', () => resolve(answer)))
    return { write, finish: () => socket.write('0\r\n\r\n'), ended, socket }
  }
  const filesOf = async (delivery: string): Promise<DeliveryFile[]> =>
    (await api.call<Delivery & { all: DeliveryFile[] }>('GET', `/deliveries/${delivery}`)).body.all

  it('that end after the delivery was closed are refused, and leave nothing waiting', async () => {
    const delivery = await newDelivery()
    await api.send(delivery, await crateFiles({ name: 'harbour_crate_b' }))
    const late = startUpload(delivery)
    late.write(`${head('late.png')}half of it`)
    await sleep(150)
    expect((await api.call('POST', `/deliveries/${delivery}/close`)).status).toBe(200)
    late.write(` and the rest\r\n--${BOUNDARY}--\r\n`)
    late.finish()
    expect(await late.ended).toMatch(/^HTTP\/1.1 409 [^]*delivery\/closed/)
    expect((await api.waitDone(delivery)).state).toBe('done')
    expect((await filesOf(delivery)).some((f) => f.path === 'late.png' || f.state === 'waiting')).toBe(false)
  })
  it('that send nothing more are ended, and what was half written is cleared up', async () => {
    const delivery = await newDelivery()
    const stalled = startUpload(delivery)
    stalled.write(`${head('stalled.png')}${'x'.repeat(50_000)}`)
    await stalled.ended
    await sleep(100)
    expect(readdirSync(join(server.data, 'store/incoming'))).toEqual([])
    expect(await filesOf(delivery)).toEqual([])
  }, 10_000)
  it('without a boundary are named as such', async () => {
    const delivery = await newDelivery()
    expect(
      await ask('POST', `/api/deliveries/${delivery}/files`, { 'Content-Type': 'multipart/form-data' }),
    ).toEqual([400, 'request/invalid'])
  })
})

describe('many at once', () => {
  it('recipes saved while they are judged never deadlock', async () => {
    const names = ['a', 'b', 'c', 'd'].map((v) => `harbour_barrel_${v}`)
    await api.deliver(
      project,
      Object.assign({}, ...(await Promise.all(names.map((name) => crateFiles({ name, textureName: name }))))),
    )
    const rows = (await api.assets(project)).filter((r) => names.includes(r.name) && r.kind === 'mesh')
    expect(rows.length).toBe(4)
    const statuses = new Map<number, number>()
    await Promise.all(
      rows.map(async (row) => {
        for (let i = 0; i < 25; i++) {
          const { recipeRevision: revision } = await api.asset(row.id)
          const steps = [
            { id: 's', remedy: 'scale/rescale', options: { factor: 1 + i / 100 }, on: i % 2 === 0, why: '' },
          ]
          const saves = await Promise.all([
            api.call('PUT', `/assets/${row.id}/recipe`, { revision, recipe: { steps } }),
            api.call('PATCH', `/assets/${row.id}`, { target: i % 2 ? 'handheld' : 'desk' }),
          ])
          for (const { status } of saves) statuses.set(status, (statuses.get(status) ?? 0) + 1)
        }
      }),
    )
    expect([...statuses.keys()].filter((s) => s >= 500)).toEqual([])
    expect(statuses.get(200)).toBeGreaterThan(150)
    await api.waitFor(
      () => api.assets(project),
      (all) => all.filter((r) => names.includes(r.name)).every((r) => r.state === 'judged'),
    )
  }, 60_000)
  it('a class or target that the rulebook does not have is refused by name', async () => {
    const [row] = await api.assets(project)
    for (const choice of [{ class: 'starship' }, { target: 'toaster' }, { class: 'constructor' }]) {
      const { status, body } = await api.call<AssetDetail & { fault: Fault }>(
        'PATCH',
        `/assets/${row!.id}`,
        choice,
      )
      expect([status, body.fault.code, body.fault.where.part]).toEqual([
        400,
        'request/invalid',
        Object.keys(choice)[0],
      ])
    }
  })
  it('broken downloads and dropped event streams leave no file and no timer open', async () => {
    const big = new Uint8Array(8_000_000).map((_, i) => (i * 2654435761) >>> 24)
    const { sha256 } = await server.running.services.store.putBytes(big)
    const drop = (path: string) =>
      new Promise<void>((resolve) => {
        const call = httpRequest(server.running.url + path, (response) => {
          response.once('data', () => {
            call.destroy()
            resolve()
          })
          response.on('error', () => resolve())
        })
        call.on('error', () => resolve())
        call.end()
      })
    const open = () => readdirSync('/proc/self/fd').length
    const timers = () => process.getActiveResourcesInfo().filter((r) => r === 'Timeout').length
    for (let i = 0; i < 5; i++) await drop(`/api/blobs/${sha256}`)
    await sleep(300)
    const [files, ticking] = [open(), timers()]
    for (let i = 0; i < 100; i++) await drop(`/api/blobs/${sha256}`)
    for (let i = 0; i < 100; i++) await drop(`/api/projects/${project}/events`)
    // Gone before the first answer
    await Promise.all(
      Array.from({ length: 50 }, async () => {
        const call = httpRequest(`${server.running.url}/api/projects/${project}/events`)
        call.on('error', () => undefined)
        call.end()
        await sleep(1)
        call.destroy()
      }),
    )
    await api.waitFor(
      async () => [open() - files, timers() - ticking],
      ([more, late]) => more! <= 10 && late! <= 10,
    )
  }, 60_000)
})
