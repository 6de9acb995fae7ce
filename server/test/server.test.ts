import { rm } from 'node:fs/promises'
import { setTimeout as sleep } from 'node:timers/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import {
  assetDetailSchema,
  deliverySchema,
  type AssetDetail,
  type Fault,
  type Found,
  type Project,
  type Recipe,
} from '@stern-gate/contract'
import { readGltfContainer } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { zipOf } from '../../engine/src/zipFixture'
import { connect } from '../src/store/database'
import { tellProgress } from '../src/store/eventLog'
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

const step = (
  remedy: string,
  options: Recipe['steps'][number]['options'],
  on = true,
): Recipe['steps'][number] => ({ id: crypto.randomUUID(), remedy, options, on, why: 'test' })
const settled = (id: string) =>
  api.waitFor(
    () => api.asset(id),
    (a) => !a.making,
  )

describe('a delivery', () => {
  it('is measured, assembled and judged; the answers follow the schemas', async () => {
    const project = await api.project()
    const done = await api.deliver(project, {
      ...(await crateFiles({ textureSize: [512, 512] })),
      ...(await crateFiles({
        name: 'harbour_box_a',
        textureName: 'harbour_box_a',
        slotName: 'box-wood',
        green: 'down',
        textureSize: [512, 512],
      })),
    })
    const { all, ...delivery } = done as typeof done & { all: unknown[] }
    expect(all).toHaveLength(8)
    expect(deliverySchema.parse(delivery)).toMatchObject({ state: 'done', files: 8, done: 8, refused: [] })
    const rows = await api.assets(project)
    expect(rows.map((r) => [r.name, r.verdict, r.class, r.version]).sort()).toEqual([
      ['harbour_box_a', 'held', 'prop', 1],
      ['harbour_crate_a', 'clear', 'prop', 1],
    ])
    const held = rows.find((r) => r.verdict === 'held')!
    expect(held.headline).toContain('Green points down')
    const detail = assetDetailSchema.parse(await api.asset(held.id))
    expect(detail.source.findings.map((f) => f.rule)).toEqual(['colour/normal-green'])
    expect(detail.output).toEqual(detail.source)
    const thumbnail = await fetch(`${server.running.url}/api/blobs/${held.thumbnail}`)
    expect(thumbnail.headers.get('content-type')).toBe('image/png')
  })
  it('with bad files refuses each by code, place and hint; the others go on', async () => {
    const project = await api.project()
    const text = (value: unknown) => new TextEncoder().encode(JSON.stringify(value))
    const done = await api.deliver(project, {
      ...(await crateFiles()),
      '../escape.png': new Uint8Array(4),
      'cut.glb': (await crateFiles({ embed: true }))['props/harbour_crate_a.glb']!.subarray(0, 900),
      'none.png': new Uint8Array(0),
      'passwd.gltf': text({
        asset: { version: '2.0' },
        buffers: [{ byteLength: 4, uri: '../../etc/passwd' }],
      }),
    })
    expect(Object.fromEntries(done.refused.map((f) => [f.path, f.fault!.code]))).toEqual({
      '../escape.png': 'file/unsafe-path',
      'cut.glb': 'gltf/truncated',
      'none.png': 'file/empty',
      'passwd.gltf': 'gltf/unsafe-reference',
    })
    for (const file of done.refused) expect(file.fault!.hint).not.toBe('')
    expect((await api.assets(project)).map((a) => a.verdict)).toEqual(['clear'])
  })
  it('in a zip is unpacked into the delivery; what may not come out of it is refused by name', async () => {
    const project = await api.project(),
      files = await crateFiles({ textureSize: [512, 512] })
    const entries = Object.entries(files).map(([name, body]) => ({
      name,
      body: Buffer.from(body),
      packed: true,
    }))
    const done = await api.deliver(project, {
      'from ada/crate.zip': zipOf([
        ...entries,
        { name: '../out.png', body: Buffer.from('x') },
        { name: 'notes.zip', body: Buffer.from('x') },
      ]),
      'broken.zip': new TextEncoder().encode('PK\u0003\u0004 no'),
    })
    expect(Object.fromEntries(done.refused.map((f) => [f.path, f.fault!.code]))).toEqual({
      'broken.zip': 'archive/damaged',
      'from ada/crate.zip: ../out.png': 'file/unsafe-path',
      'from ada/crate.zip: notes.zip': 'archive/nested',
    })
    const [row, ...more] = await api.assets(project)
    expect([row!.name, row!.verdict, more.length]).toEqual(['harbour_crate_a', 'clear', 0])
    expect((await api.asset(row!.id)).source.files.map((f) => f.path)).toContain(
      'from ada/props/harbour_crate_a.glb',
    )
  })
  it('in OBJ is judged, shown and mended into a GLB', async () => {
    const project = await api.project()
    const obj =
      'mtllib plank.mtl\no harbour_plank_a\nv -50 0 -50\nv 50 0 -50\nv 50 0 50\nv -50 0 50\nv 0 100 0\nusemtl wood\nf 1 2 3 4\nf 2 1 5\nf 3 2 5\nf 4 3 5\nf 1 4 5\n'
    await api.deliver(project, {
      'harbour_plank_a.obj': new TextEncoder().encode(obj),
      'plank.mtl': new TextEncoder().encode('newmtl wood\nKd 0.5 0.3 0.1\n'),
    })
    const [row] = await api.assets(project)
    const detail = await api.asset(row!.id)
    expect(detail.source.mesh!.file).toMatchObject({ format: 'obj', declared: { unitMetres: null } })
    expect(detail.source.files.map((f) => f.path)).toEqual(['harbour_plank_a.obj', 'plank.mtl'])
    const model = await fetch(`${server.running.url}/api/assets/${row!.id}/model`)
    expect(readGltfContainer(new Uint8Array(await model.arrayBuffer())).ok).toBe(true)
    await api.call('PUT', `/assets/${row!.id}/recipe`, {
      revision: detail.recipeRevision,
      recipe: { steps: [step('scale/rescale', { factor: 0.01 })] },
    })
    const mended = await settled(row!.id)
    expect(mended.output.files.map((f) => f.path)).toEqual(['harbour_plank_a.glb'])
    expect(mended.output.mesh!.nodes![0]!.bounds!.max).toEqual([0.5, 1, 0.5])
  })
  it('the same bytes again are not measured again, and make the next version with the recipe kept', async () => {
    const project = await api.project()
    await api.deliver(project, await crateFiles({ size: 100, textureSize: [512, 512] }))
    const [row] = await api.assets(project)
    const detail = await api.asset(row!.id)
    await api.call('PUT', `/assets/${row!.id}/recipe`, {
      revision: detail.recipeRevision,
      recipe: { steps: [step('scale/rescale', { factor: 0.01 })] },
    })
    await settled(row!.id)
    // What the validator says comes later, and is not meant
    const measured = async (): Promise<unknown> =>
      (
        await server.running.services.connection.pool.query(
          `select measure, count(*) from facts where measure <> 'standard' group by measure order by measure`,
        )
      ).rows
    const before = await measured()
    await api.deliver(project, await crateFiles({ size: 100, textureSize: [512, 512] }))
    expect(await measured()).toEqual(before)
    const [next] = await api.assets(project)
    expect(next).toMatchObject({ id: row!.id, version: 2, verdict: 'clear', cautions: 0 })
    expect((await api.asset(row!.id)).versions).toHaveLength(2)
  })
  it('that completes an asset makes its next version with all that it had, the mesh read anew', async () => {
    const project = await api.project()
    const gltf = JSON.stringify({
      asset: { version: '2.0' },
      scene: 0,
      scenes: [{ nodes: [0] }],
      nodes: [{ mesh: 0, name: 'harbour_plate_a' }],
      meshes: [{ primitives: [{ attributes: { POSITION: 0 } }] }],
      accessors: [
        { bufferView: 0, componentType: 5126, count: 3, type: 'VEC3', min: [0, 0, 0], max: [1, 1, 0] },
      ],
      bufferViews: [{ buffer: 0, byteLength: 36 }],
      buffers: [{ uri: 'plate.bin', byteLength: 36 }],
    })
    await api.deliver(project, { 'props/harbour_plate_a.gltf': new TextEncoder().encode(gltf) })
    const [row] = await api.assets(project)
    expect((await api.asset(row!.id)).source).toMatchObject({
      mesh: { nodes: null },
      references: [{ asked: 'props/plate.bin', resolved: null }],
    })
    const { body: more } = await api.call<{ id: string }>('POST', `/assets/${row!.id}/deliveries`, {})
    await api.send(more.id, {
      'props/plate.bin': new Uint8Array(new Float32Array([0, 0, 0, 1, 0, 0, 0, 1, 0]).buffer),
    })
    await api.call('POST', `/deliveries/${more.id}/close`)
    await expect.poll(async () => (await api.assets(project))[0]!.version, { timeout: 30_000 }).toBe(2)
    const detail = await api.asset(row!.id)
    expect(detail.source.mesh!.nodes![0]!.primitives[0]!.triangles).toBe(1)
    expect(detail.source.files.map((f) => f.path)).toEqual(['props/harbour_plate_a.gltf', 'props/plate.bin'])
  })
  it('a version that stands elsewhere than the one before is held against it', async () => {
    const project = await api.project()
    await api.deliver(project, await crateFiles({ textureSize: [512, 512] }))
    await api.deliver(project, await crateFiles({ textureSize: [512, 512], at: [0.3, 0, 0] }))
    await expect.poll(async () => (await api.assets(project))[0]!.version, { timeout: 30_000 }).toBe(2)
    const detail = await api.asset((await api.assets(project))[0]!.id)
    const moved = detail.output.findings.find((f) => f.rule === 'scale/moved-since-last-version')!
    expect(moved).toMatchObject({ data: { version: 1 }, remedies: [{ remedy: 'scale/shift' }] })
    expect(moved.data['distance']).toBeCloseTo(0.3, 5)
    await api.call<AssetDetail>('PUT', `/assets/${detail.id}/recipe`, {
      revision: detail.recipeRevision,
      recipe: { steps: [step('scale/shift', moved.remedies[0]!.options)] },
    })
    expect((await settled(detail.id)).output.findings.filter((f) => f.station === 'scale')).toEqual([])
  })
  it('takes nothing more once it is closed or cancelled', async () => {
    const project = await api.project()
    const { body: open } = await api.call<{ id: string }>('POST', `/projects/${project}/deliveries`, {})
    await api.send(open.id, { 'a.png': new Uint8Array(3) })
    expect((await api.call<{ state: string }>('POST', `/deliveries/${open.id}/cancel`)).body.state).toBe(
      'cancelled',
    )
    expect(await api.send(open.id, { 'b.png': new Uint8Array(3) })).toMatchObject({
      status: 409,
      body: { fault: { code: 'delivery/cancelled' } },
    })
    expect((await api.call('POST', `/deliveries/${open.id}/close`)).status).toBe(409)
  })
  it('with nothing in it is done at once', async () => {
    expect(await api.deliver(await api.project(), {})).toMatchObject({ state: 'done', files: 0 })
  })
  it('keeps names of any script', async () => {
    const done = await api.deliver(await api.project(), { 'Früchte/Äpfel 苹果.png': new Uint8Array(0) })
    expect(done.refused[0]!.path).toBe('Früchte/Äpfel 苹果.png')
  })
})

describe('names', () => {
  it('are found by any part, whatever its case and whatever they are names of', async () => {
    const project = await api.project(),
      other = await api.project()
    await api.deliver(
      project,
      await crateFiles({ textureSize: [64, 64], levels: 2, slotName: 'crate-oak_50%' }),
    )
    await api.deliver(
      other,
      await crateFiles({ name: 'harbour_keg_a', textureName: 'harbour_keg_a', textureSize: [64, 64] }),
    )
    const find = async (text: string, what?: string) =>
      (
        await api.call<Found[]>(
          'GET',
          `/projects/${project}/names?find=${encodeURIComponent(text)}${what ? `&what=${what}` : ''}`,
        )
      ).body
    const all = await find('CRATE')
    expect(new Set(all.map((f) => f.what))).toEqual(new Set(['asset', 'texture', 'slot', 'node', 'file']))
    expect(all.every((f) => f.assetName === 'harbour_crate_a')).toBe(true)
    // What begins with it stands first
    expect(all[0]).toMatchObject({ what: 'slot', name: 'crate-oak_50%' })
    expect((await find('crate', 'texture')).map((f) => f.name).sort()).toEqual(
      ['basecolor', 'normal', 'orm'].map((r) => `harbour_crate_a_${r}.png`),
    )
    // Signs that the database would take for patterns are letters
    expect((await find('oak_5')).length).toBe(1)
    expect(await find('oak%5')).toEqual([])
    expect(await find('keg')).toEqual([])
    expect((await api.call('GET', `/projects/${project}/names?find=`)).status).toBe(400)
  })
})

describe('sizes to compare by', () => {
  it('are kept as a revision of the rulebook; what is not named stays', async () => {
    const project = await api.project()
    const first = await api.call<Project>('PATCH', `/projects/${project}/sizes`, {
      personHeight: 1.2,
      gridStep: 0.25,
    })
    expect(first.body).toMatchObject({ personHeight: 1.2, gridStep: 0.25, rulebookRevision: 2 })
    expect(
      (await api.call<Project>('PATCH', `/projects/${project}/sizes`, { gridStep: null })).body,
    ).toMatchObject({ personHeight: 1.2, gridStep: null, rulebookRevision: 3 })
    expect((await api.call('PATCH', `/projects/${project}/sizes`, { personHeight: 0 })).status).toBe(400)
  })
})

describe('requests that make no sense', () => {
  it.each([
    ['GET', '/projects/nonsense', 404],
    ['GET', '/assets/00000000-0000-0000-0000-000000000000', 404],
    ['GET', '/nowhere', 404],
    ['POST', '/projects', 400],
    ['GET', '/blobs/..%2f..%2fetc%2fpasswd', 404],
    ['GET', `/blobs/${'0'.repeat(64)}`, 404],
  ])('%s %s answers %i with a fault', async (method, path, status) => {
    const reply = await api.call<{ fault: Fault }>(method, path, method === 'POST' ? { name: '' } : undefined)
    expect(reply.status).toBe(status)
    expect(reply.body.fault.hint).toBeTruthy()
  })
  it('from another site are refused', async () => {
    const response = await fetch(`${server.running.url}/api/projects`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json', 'Sec-Fetch-Site': 'cross-site' },
      body: '{"name":"x"}',
    })
    expect(response.status).toBe(403)
  })
  it('broken JSON and plain text are named as such', async () => {
    const response = await fetch(`${server.running.url}/api/projects`, {
      method: 'POST',
      headers: { 'Content-Type': 'application/json' },
      body: '{',
    })
    expect([response.status, ((await response.json()) as { fault: Fault }).fault.code]).toEqual([
      400,
      'request/invalid',
    ])
  })
})

it('live events come as they happen, and what was missed comes after Last-Event-ID', async () => {
  const project = await api.project()
  const follow = async (lastId: string | null, until: (text: string) => boolean): Promise<string> => {
    const stop = new AbortController()
    const response = await fetch(`${server.running.url}/api/projects/${project}/events`, {
      signal: stop.signal,
      headers: lastId === null ? {} : { 'Last-Event-ID': lastId },
    })
    const reader = response.body!.getReader()
    let text = ''
    const end = setTimeout(() => stop.abort(), 15_000)
    while (!until(text)) {
      const { value, done } = await reader.read()
      if (done) break
      text += new TextDecoder().decode(value)
    }
    clearTimeout(end)
    stop.abort()
    return text
  }
  const live = follow(null, (t) => t.includes('"state":"done"'))
  await sleep(200)
  const connection = connect(server.databaseUrl)
  await tellProgress(connection.db, project, {
    kind: 'progress',
    delivery: project,
    file: 'a.png',
    doing: 'Reading',
  })
  await connection.pool.end()
  await api.deliver(project, await crateFiles({ name: 'harbour_live_a' }))
  const text = await live
  expect(text).toMatch(/\n\ndata: {"kind":"progress"/)
  const ids = [...text.matchAll(/^id: (\d+)$/gm)].map((m) => Number(m[1]))
  expect(ids.length).toBeGreaterThan(4)
  const missed = await follow(String(ids[2]), (t) => t.includes('"state":"done"'))
  const again = [...missed.matchAll(/^id: (\d+)$/gm)].map((m) => Number(m[1]))
  // What the validator brings comes after them, sooner or later
  expect(again.slice(0, ids.length - 3)).toEqual(ids.slice(3))
})

it('pages of assets that changed at one moment hold each of them once', async () => {
  const project = await api.project()
  const files = Object.assign(
    {},
    ...(await Promise.all(
      Array.from({ length: 9 }, (_, i) => crateFiles({ name: `harbour_page${i}_a`, inputs: [] })),
    )),
  )
  await api.deliver(project, files)
  await server.running.services.connection.pool.query(
    'update assets set updated = now() where project_id = $1',
    [project],
  )
  const seen: string[] = []
  for (let before = ''; ;) {
    const page = (await (
      await fetch(`${server.running.url}/api/projects/${project}/assets?limit=4${before}`)
    ).json()) as { id: string; name: string; updated: string }[]
    seen.push(...page.map((row) => row.name))
    const end = page.at(-1)
    if (page.length < 4 || !end) break
    before = `&before=${encodeURIComponent(`${end.updated}|${end.id}`)}`
  }
  expect([...seen].sort()).toEqual(Array.from({ length: 9 }, (_, i) => `harbour_page${i}_a`))
})

it('the listening connection, cut, comes back and loses nothing', async () => {
  const project = await api.project()
  const { pool } = server.running.services.connection
  const heard: string[] = []
  const leave = server.running.services.hub.subscribe((m) => {
    if (m.projectId === project) heard.push(m.event.kind)
  })
  const back = new Promise<void>((resolve) => {
    server.running.services.hub.onGap(resolve)
  })
  await pool.query(
    "select pg_terminate_backend(pid) from pg_stat_activity where query like 'listen %' and datname = current_database()",
  )
  await back
  await api.deliver(project, await crateFiles({ name: 'harbour_back_a' }))
  leave()
  expect(heard).toContain('asset')
})
