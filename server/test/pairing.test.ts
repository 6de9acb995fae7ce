import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { BulkChange, Fault, PairingTable, PairingWaiting } from '@stern-gate/contract'
import { defaultRulebook, pairDelivery } from '@stern-gate/core'
import { crateFiles, pixelsOf, pngOf, rollingNormal } from '@stern-gate/core/fixtures'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>, project: string
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  project = await api.project()
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

const bare = () =>
  crateFiles({ name: 'harbour_crate_c', inputs: [], hull: false, faceSlots: ['crate-pine', 'crate-iron'] })
const colour = (seed: number) =>
  pngOf(pixelsOf(32, 32, 3, (x, y) => [150 + ((x * seed + y) % 40), 100 + ((x * 5) % 30), 60 + seed]))
const maps = (): Record<string, Uint8Array> => ({
  'outside/CratePine_albedo.png': colour(3),
  'outside/CratePine_nrm.png': pngOf(rollingNormal(32, 'down')),
  'outside/iron of crate base.png': colour(9),
  'outside/ref photo 14.png': colour(5),
})

const table = async (query = ''): Promise<PairingTable> =>
  (await api.call<PairingTable>('GET', `/projects/${project}/pairing${query}`)).body
const cellsOf = (found: PairingTable) =>
  pairDelivery(found, defaultRulebook, found.decided).cells.filter((c) => c.state === 'found')
const accept = (cells: ReturnType<typeof cellsOf>) =>
  api.call<BulkChange>('POST', `/projects/${project}/pairing`, {
    cells: cells.map(({ slot, input, texture, preset, layout, inverted }) => ({
      slot,
      input,
      texture,
      preset,
      layout,
      inverted,
    })),
  })
const names = async () => (await api.assets(project)).map((a) => `${a.kind} ${a.name}`).sort()
const crate = async () => (await api.assets(project)).find((a) => a.name === 'harbour_crate_c')!
const judged = (version: number) =>
  api.waitFor(
    async () => api.asset((await crate()).id),
    (a) => a.version === version && a.state === 'judged',
  )

describe('pairing a delivery', () => {
  let change: BulkChange, before: string[], meshes: string

  it('waits: textures for a mesh that has not come, then both, from two deliveries', async () => {
    await api.deliver(project, maps())
    expect((await table()).slots).toEqual([])
    meshes = (await api.deliver(project, await bare())).id
    const found = await table(`?delivery=${meshes}`)
    expect(found.slots.map((s) => s.slot)).toEqual(['crate-pine', 'crate-iron'])
    expect(found.textures).toHaveLength(4)
    expect(Object.keys(found.thumbnails)).toHaveLength(4)
    expect(found.textures[0]!.content.length + found.textures[1]!.content.length).toBeGreaterThan(0)
    expect((await table()).slots).toHaveLength(2)
    const waiting = await api.call<PairingWaiting>('GET', `/projects/${project}/pairing/waiting`)
    expect(waiting.body).toEqual({ meshes: 1, sets: 3 })
  })

  it('is accepted as one act: textures join the mesh, what was mended stays, the emptied sets go', async () => {
    before = await names()
    // The direction of green is mended while the map is still a set of its own
    const set = (await api.assets(project)).find((a) => a.name.startsWith('CratePine'))!
    await api.call('POST', `/projects/${project}/changes`, {
      remedy: 'colour/flip-green',
      steps: [{ asset: set.id, rule: 'colour/normal-green', options: { texture: 'CratePine_nrm.png' } }],
    })
    const cells = cellsOf(await table())
    expect(cells.map((c) => c.name).sort()).toEqual([
      'CratePine_albedo.png',
      'CratePine_nrm.png',
      'iron of crate base.png',
    ])
    const accepted = await accept(cells)
    expect([accepted.status, accepted.body.assets, accepted.body.steps]).toEqual([201, 1, 2])
    change = accepted.body
    const asset = await judged(1)
    expect(asset.recipe.steps.map((s) => s.remedy)).toEqual(['colour/flip-green', 'slots/feed', 'slots/feed'])
    expect(asset.output.mesh!.slots!.map((s) => [s.name, s.textures.map((t) => t.input)])).toEqual([
      ['crate-pine', ['basecolor', 'normal']],
      ['crate-iron', ['basecolor']],
    ])
    expect(await names()).toEqual(['mesh harbour_crate_c', 'texture-set ref photo 14'])
  })

  it('asked anew it knows what was decided', async () => {
    const found = await table(`?delivery=${meshes}`)
    expect(found.decided.map((d) => d.input).sort()).toEqual(['basecolor', 'basecolor', 'normal'])
    // The slot without a normal map waits still; a mesh that waits for nothing is there when it is asked for
    const { id } = await crate()
    expect((await table(`?also=${id}`)).slots.map((s) => s.owner)).toEqual([id, id])
    expect((await api.call('GET', `/projects/${project}/pairing?also=DROP`)).status).toBe(400)
    expect(cellsOf(found)).toEqual([])
  })

  it('a re-export without textures keeps them, one with a newer texture takes that', async () => {
    await api.deliver(project, await bare())
    expect((await judged(2)).output.mesh!.slots!.map((s) => s.textures.length)).toEqual([2, 1])
    const newer = colour(21)
    await api.deliver(project, { ...(await bare()), 'again/CratePine_albedo.png': newer })
    const third = await judged(3)
    expect(third.source.files.map((f) => f.path).sort()).toEqual([
      'again/CratePine_albedo.png',
      'outside/CratePine_nrm.png',
      'outside/iron of crate base.png',
      'props/harbour_crate_c.glb',
    ])
    expect(await names()).toEqual(['mesh harbour_crate_c', 'texture-set ref photo 14'])
  })

  it('is taken back as one act', async () => {
    const undone = await api.call<BulkChange>('POST', `/changes/${change.id}/undo`)
    expect([undone.status, undone.body.undone]).toEqual([200, true])
    await api.waitFor(names, (now) => now.length === before.length)
    expect(await names()).toEqual(before)
    const asset = await judged(3)
    expect(asset.recipe.steps).toEqual([])
  })

  it('refuses what is not there', async () => {
    const [cell] = cellsOf(await table())
    const gone = await api.call<Fault>('POST', `/projects/${project}/pairing`, {
      cells: [{ ...cell, slot: cell!.slot.replace(/^.{8}/, '00000000') }].map(
        ({ slot, input, texture, preset, layout, inverted }) => ({
          slot,
          input,
          texture,
          preset,
          layout,
          inverted,
        }),
      ),
    })
    expect(gone.status).toBe(409)
    // What is no id at all never comes to the database
    for (const slot of ['x', 'x › crate-pine', `${cell!.slot.slice(0, 36)}`]) {
      const bad = await api.call<Fault>('POST', `/projects/${project}/pairing`, {
        cells: [
          { slot, input: 'normal', texture: cell!.texture, preset: null, layout: null, inverted: false },
        ],
      })
      expect([slot, bad.status]).toEqual([slot, 400])
    }
  })
})
