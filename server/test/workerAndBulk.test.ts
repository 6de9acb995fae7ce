import { fork, type ChildProcess } from 'node:child_process'
import { join } from 'node:path'
import type { Router } from 'express'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail, BulkChange, Delivery, Fault, Offers, RenamePlan } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { allRoutes } from '@stern-gate/contract'
import { apiDocument } from '../src/http/apiDocument'
import { assetRoutes } from '../src/http/assetRoutes'
import { bulkRoutes } from '../src/http/bulkRoutes'
import { dispatchRoutes } from '../src/http/dispatchRoutes'
import { deliveryRoutes } from '../src/http/deliveryRoutes'
import { documentRoutes } from '../src/http/documentRoutes'
import { fileRoutes } from '../src/http/fileRoutes'
import { liveRoutes } from '../src/http/liveRoutes'
import { projectRoutes } from '../src/http/projectRoutes'
import { encodingRoutes } from '../src/http/encodingRoutes'
import { pairingRoutes } from '../src/http/pairingRoutes'
import { sceneRoutes } from '../src/http/sceneRoutes'
import { rulebookRoutes } from '../src/http/rulebookRoutes'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer,
  client: ReturnType<typeof createClient>,
  project = ''
beforeAll(async () => {
  server = await startTestServer()
  client = createClient(server.running.url)
  project = await client.project()
})
afterAll(() => server.running.stop())

const names = ['a', 'b', 'c'].map((v) => `harbour_crate_${v}`)
const greenDown = async (): Promise<Record<string, Uint8Array>> =>
  Object.assign(
    {},
    ...(await Promise.all(
      names.map((name) => crateFiles({ name, textureName: name, green: 'down', textureSize: [512, 512] })),
    )),
  )

describe('one remedy for many', () => {
  it('turns green on three assets at once, and takes it back at once', async () => {
    await client.deliver(project, await greenDown())
    const assets = (await client.assets(project)).map((a) => a.id)
    const offers = (await client.call<Offers>('POST', `/projects/${project}/offers`, { assets })).body
    const flip = offers.remedies.find((s) => s.remedy === 'colour/flip-green')!
    expect(flip).toMatchObject({
      rule: 'colour/normal-green',
      remedyTitle: 'Flip green',
      assets: 3,
      findings: 3,
    })
    const few = await client.call<Offers>('POST', `/projects/${project}/offers`, { assets: assets.slice(1) })
    expect(few.body.remedies.find((s) => s.remedy === 'colour/flip-green')!.assets).toBe(2)
    const made = await client.call<BulkChange>('POST', `/projects/${project}/changes`, {
      rule: flip.rule,
      remedy: flip.remedy,
      assets,
    })
    expect([made.status, made.body.assets, made.body.steps, made.body.skipped]).toEqual([201, 3, 3, 0])
    expect(made.body.open).toBeGreaterThan(0)
    await client.waitFor(
      () => client.assets(project),
      (rows) => rows.every((r) => r.verdict === 'clear' && r.steps === 1),
    )
    await client.waitFor(
      async () => (await client.call<BulkChange[]>('GET', `/projects/${project}/changes`)).body[0]!.open,
      (open) => open === 0,
    )
    // One of them is changed by hand afterwards: undoing leaves it alone
    const touched = (await client.assets(project))[0]!
    const detail = await client.asset(touched.id)
    await client.call<AssetDetail>('PUT', `/assets/${touched.id}/recipe`, {
      revision: detail.recipeRevision,
      recipe: { steps: detail.recipe.steps.map((s) => ({ ...s, on: false })) },
    })
    const undone = await client.call<BulkChange>('POST', `/changes/${made.body.id}/undo`)
    expect(undone.body).toMatchObject({ kept: 1, undone: true, state: 'done' })
    await client.waitFor(
      () => client.assets(project),
      (rows) => rows.every((r) => r.verdict === 'held') && rows.filter((r) => r.steps === 0).length === 2,
    )
    expect((await client.call('POST', `/changes/${made.body.id}/undo`)).status).toBe(409)
  })
  it('renaming is looked over first, with all that goes along, and done as it was changed', async () => {
    const own = await client.project()
    await client.deliver(
      own,
      Object.assign(
        {},
        ...(await Promise.all(
          ['Crate final', 'Barrel copy'].map((name) =>
            crateFiles({ name, textureName: name, textureSize: [512, 512] }),
          ),
        )),
      ) as Record<string, Uint8Array>,
    )
    const rows = await client.assets(own),
      assets = rows.map((r) => r.id)
    const plans = (await client.call<RenamePlan[]>('POST', `/projects/${own}/renames`, { assets })).body
    expect(plans.map((p) => [p.name, p.renames[0]!.what, p.renames[0]!.from])).toEqual([
      ['Barrel copy', 'asset', 'Barrel copy'],
      ['Crate final', 'asset', 'Crate final'],
    ])
    for (const { renames } of plans) {
      expect(renames[0]!.follows.map((f) => f.what)).toEqual(
        expect.arrayContaining(['file', 'node', 'texture', 'reference']),
      )
      // What goes along does not stand by itself
      expect(renames.filter((r) => r.what === 'texture')).toEqual([])
    }
    const steps = plans.map(({ asset, renames: [first] }, i) => ({
      asset,
      rule: first!.rule,
      options: { what: 'asset', from: first!.from, to: `harbour_thing_${'ab'[i]}` },
    }))
    expect(
      (
        await client.call<{ fault: Fault }>('POST', `/projects/${own}/changes`, {
          remedy: 'names/rename',
          steps: [{ ...steps[0], options: { what: 'asset', from: 'x', to: 'a/b' } }],
        })
      ).body.fault.code,
    ).toBe('remedy/bad-options')
    const made = await client.call<BulkChange>('POST', `/projects/${own}/changes`, {
      remedy: 'names/rename',
      steps,
    })
    expect([made.status, made.body.assets, made.body.steps]).toEqual([201, 2, 2])
    await client.waitFor(
      () => client.assets(own),
      (now) =>
        now
          .map((r) => r.name)
          .sort()
          .join() === 'harbour_thing_a,harbour_thing_b',
    )
    await client.call('POST', `/changes/${made.body.id}/undo`)
    await client.waitFor(
      () => client.assets(own),
      (now) => now.every((r) => r.steps === 0 && !r.name.startsWith('harbour_thing')),
    )
  })
  it('says so when nobody has the finding, and knows only its own project', async () => {
    const rows = await client.assets(project)
    const other = await client.project()
    expect(
      (
        await client.call('POST', `/projects/${project}/changes`, {
          rule: 'mesh/degenerate',
          remedy: 'mesh/drop-degenerate',
          assets: rows.map((r) => r.id),
        })
      ).status,
    ).toBe(409)
    expect(
      (
        await client.call('POST', `/projects/${other}/changes`, {
          rule: 'colour/normal-green',
          remedy: 'colour/flip-green',
          assets: rows.map((r) => r.id),
        })
      ).status,
    ).toBe(409)
  })
})

describe('a delivery', () => {
  it('may be from an earlier day, never from a later one', async () => {
    const arrived = new Date(Date.now() - 3 * 86_400_000).toISOString()
    const own = await client.project()
    const { body } = await client.call<Delivery>('POST', `/projects/${own}/deliveries`, {
      note: 'then',
      arrived,
    })
    expect(
      (
        await client.call('POST', `/projects/${own}/deliveries`, {
          note: '',
          arrived: '0000-01-01T00:00:00Z',
        })
      ).status,
    ).toBe(400)
    expect(
      (await client.call('GET', `/projects/${own}/assets?before=0000-01-01T00:00:00Z|${own}`)).status,
    ).toBe(400)
    expect(body.created).toBe(arrived)
    await client.send(body.id, await crateFiles())
    await client.call('POST', `/deliveries/${body.id}/close`)
    await client.waitDone(body.id)
    expect((await client.assets(own))[0]!.updated).toBe(arrived)
    expect(
      (
        await client.call('POST', `/projects/${own}/deliveries`, {
          arrived: new Date(Date.now() + 60_000).toISOString(),
        })
      ).status,
    ).toBe(400)
  })
  it('of levels and a hull in files of their own makes one asset, and its recipe one file', async () => {
    const own = await client.project()
    await client.deliver(
      own,
      await crateFiles({ levels: 2, grid: 4, separate: true, slivers: 2, textureSize: [512, 512] }),
    )
    const [row, ...others] = await client.assets(own)
    expect([row!.name, others.length]).toEqual(['harbour_crate_a', 0])
    const detail = await client.asset(row!.id)
    expect(detail.source.levels.map((l) => [l.level, l.nodes])).toEqual([
      [0, ['harbour_crate_a_lod0']],
      [1, ['harbour_crate_a_lod1/harbour_crate_a_lod1']],
    ])
    expect(detail.source.collision).toEqual(['harbour_crate_a_hull/harbour_crate_a_hull'])
    const finding = detail.source.findings.find((f) => f.rule === 'mesh/degenerate')!
    await client.call('PUT', `/assets/${row!.id}/recipe`, {
      revision: detail.recipeRevision,
      recipe: {
        steps: [
          {
            id: '1',
            on: true,
            why: finding.rule,
            remedy: finding.remedies[0]!.remedy,
            options: finding.remedies[0]!.options,
          },
        ],
      },
    })
    const mended = await client.waitFor(
      () => client.asset(row!.id),
      (d) => !d.making,
    )
    expect(mended.output.files.filter((f) => f.part === 'mesh').map((f) => f.path)).toEqual([
      'props/harbour_crate_a.glb',
    ])
    expect(mended.output.findings.filter((f) => f.rule === 'mesh/degenerate')).toEqual([])
    expect(mended.output.levels.map((l) => l.level)).toEqual([0, 1])
  })
})

it('a connection may rest longer than a page or a proxy keeps it', async () => {
  const seconds = /timeout=(\d+)/.exec(
    (await fetch(`${server.running.url}/api/health`)).headers.get('keep-alive') ?? '',
  )?.[1]
  expect(Number(seconds)).toBeGreaterThan(60)
})

describe('the API description', () => {
  it('names every route, and no other', () => {
    const services = server.running.services
    const routers: Router[] = [
      projectRoutes(services),
      deliveryRoutes(services),
      assetRoutes(services),
      bulkRoutes(services),
      dispatchRoutes(services),
      rulebookRoutes(services),
      sceneRoutes(services),
      encodingRoutes(services),
      pairingRoutes(services),
      fileRoutes(services),
      liveRoutes(services),
      documentRoutes(''),
    ]
    const there = routers.flatMap((r) =>
      (r.stack as unknown as { route?: { path: string; methods: Record<string, boolean> } }[]).flatMap((l) =>
        l.route
          ? Object.keys(l.route.methods).map((m) => `${m} ${l.route!.path.replace(/:(\w+)/g, '{$1}')}`)
          : [],
      ),
    )
    expect(allRoutes.map((r) => `${r.method} ${r.path}`).sort()).toEqual([...there, 'get /health'].sort())
  })
  it('is served as OpenAPI 3.1 and as a page', async () => {
    expect((await client.call<{ openapi: string }>('GET', '/openapi.json')).body.openapi).toBe('3.1.0')
    expect(Object.keys(apiDocument().paths!)).toContain('/api/assets/{asset}/recipe')
    const page = await fetch(`${server.running.url}/api/docs`)
    expect([page.status, page.headers.get('content-type')]).toEqual([
      200,
      expect.stringContaining('text/html'),
    ])
    expect(await page.text()).toContain('/api/projects/{project}/changes')
  })
})

describe('two workers', () => {
  const start = async (settings: Record<string, string>): Promise<ChildProcess> => {
    const child = fork(join(import.meta.dirname, '../../dist/worker.js'), {
      env: { ...process.env, ...settings },
      stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
    })
    await new Promise<void>((resolve, reject) => {
      child.once('message', () => resolve())
      child.once('exit', (code) => reject(new Error(`the worker ended with ${code}`)))
    })
    return child
  }
  it('share a delivery; one is killed, and the other finishes it', async () => {
    const own = await startTestServer()
    const there = createClient(own.running.url)
    const workers = await Promise.all([
      start({ ...own.settings, STERN_THREADS: '1' }),
      start({ ...own.settings, STERN_THREADS: '1' }),
    ])
    try {
      // The server's own worker is taken out, so that only the two are left
      await own.running.pauseWorker()
      const id = await there.project()
      const { body } = await there.call<Delivery>('POST', `/projects/${id}/deliveries`, { note: 'much' })
      const all = await Promise.all(
        Array.from({ length: 10 }, (_, i) =>
          crateFiles({
            name: `harbour_crate${i}_a`,
            textureName: `harbour_crate${i}_a`,
            textureSize: [512, 512],
            grid: 40,
          }),
        ),
      )
      for (const files of all) await there.send(body.id, files)
      await there.call('POST', `/deliveries/${body.id}/close`)
      await there.waitFor(
        async () => (await there.call<Delivery>('GET', `/deliveries/${body.id}`)).body,
        (d) => d.done > 2,
      )
      const holders = await own.running.services.connection.pool.query<{ locked_by: string }>(
        'select distinct locked_by from graphile_worker._private_jobs where locked_by is not null',
      )
      expect(holders.rows.length).toBeGreaterThan(0)
      workers[0]!.kill('SIGKILL')
      const done = await there.waitDone(body.id)
      expect([done.state, done.done, done.refused]).toEqual(['done', 40, []])
      expect((await there.assets(id)).length).toBe(10)
    } finally {
      for (const worker of workers) worker.kill('SIGKILL')
      await own.running.stop()
    }
  }, 90_000)
})
