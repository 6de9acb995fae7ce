import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Delivery, Fault, IntakePreset, Rulebook } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer,
  api: ReturnType<typeof createClient>,
  project = ''
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  project = await api.project()
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

const save = (body: object) =>
  api.call<IntakePreset & { fault: Fault }>('PUT', `/projects/${project}/intake-presets`, body)
const hugeCrate = (name: string, folder = 'props') =>
  crateFiles({ name, textureName: name, folder, size: 100, textureSize: [512, 512] })
const longest = async (id: string): Promise<number> =>
  (await api.asset(id)).output.mesh!.nodes![0]!.bounds!.max[1]
const rowOf = async (name: string) => (await api.assets(project)).find((a) => a.name === name)!

describe('an intake preset', () => {
  it('is saved under its name with all its options, and refused with one that there is not', async () => {
    const { body } = await save({
      name: 'yard, centimetres',
      options: { unit: 'centimetre' },
      folder: 'yard',
    })
    expect(body).toMatchObject({
      name: 'yard, centimetres',
      folder: 'yard',
      generator: '',
      options: { unit: 'centimetre', up: '+Y', strays: true, textures: 'as files' },
    })
    expect((await save({ name: 'x', options: { unit: 'cubit' } })).body.fault.code).toBe('remedy/bad-options')
    await save({ name: 'yard, centimetres', options: { unit: 'centimetre' }, folder: 'yards' })
    expect(
      (await api.call<IntakePreset[]>('GET', `/projects/${project}/intake-presets`)).body.map(
        (p) => p.folder,
      ),
    ).toEqual(['yards'])
  })
  it('stands in the rulebook, each change a revision of it that judges nothing anew', async () => {
    const rulebook = async (): Promise<Rulebook> =>
      (await api.call<{ rulebook: Rulebook }>('GET', `/projects/${project}/rulebook`)).body.rulebook
    expect((await rulebook()).intake['yard, centimetres']).toMatchObject({ options: { unit: 'centimetre' } })
    const revisions = (await api.call<{ note: string }[]>('GET', `/projects/${project}/rulebook/revisions`))
      .body
    expect(revisions[0]!.note).toBe('Intake preset yard, centimetres')
  })
  it('may mend what is safe on arrival, once', async () => {
    const preset = (await save({ name: 'mends', options: { unit: 'metre' }, mend: true })).body
    expect(preset.mend).toBe(true)
    const bring = async (name: string): Promise<void> => {
      const { body: open } = await api.call<Delivery>('POST', `/projects/${project}/deliveries`, {
        preset: preset.name,
      })
      expect(open.intake).toMatchObject({ name: 'mends', mend: true })
      await api.send(open.id, await crateFiles({ name, textureName: name, slivers: 2, green: 'down' }))
      await api.call('POST', `/deliveries/${open.id}/close`)
      await api.waitDone(open.id)
    }
    await bring('harbour_tub_a')
    const steps = async (): Promise<string[]> =>
      (await api.asset((await rowOf('harbour_tub_a')).id)).recipe.steps.map((s) => s.remedy)
    await api.waitFor(steps, (s) => s.includes('mesh/drop-degenerate'))
    // What needs a person is left to one
    expect(await steps()).toEqual(['files/intake', 'mesh/drop-degenerate'])
    await api.waitFor(
      () => rowOf('harbour_tub_a'),
      (r) => r.state === 'judged' && r.steps === 2,
    )
    const { id } = await rowOf('harbour_tub_a')
    expect((await api.asset(id)).output.findings.map((f) => f.rule)).not.toContain('mesh/degenerate')
    // Taken back it stays taken back
    const { recipeRevision } = await api.asset(id)
    await api.call('POST', `/assets/${id}/undo`, { revision: recipeRevision })
    await api.waitFor(
      () => rowOf('harbour_tub_a'),
      (r) => r.state === 'judged',
    )
    expect(await steps()).toEqual(['files/intake'])
  })
  it('chosen for a delivery is the first step of every recipe, and the output is judged', async () => {
    const preset = (
      await save({ name: 'yard, centimetres', options: { unit: 'centimetre' }, folder: 'yard' })
    ).body
    const { body: open } = await api.call<Delivery>('POST', `/projects/${project}/deliveries`, {
      preset: preset.name,
    })
    expect(open.intake).toMatchObject({ name: 'yard, centimetres' })
    await api.send(open.id, await hugeCrate('harbour_crate_a'))
    await api.call('POST', `/deliveries/${open.id}/close`)
    await expect
      .poll(async () => (await api.call<Delivery>('GET', `/deliveries/${open.id}`)).body.state, {
        timeout: 30_000,
      })
      .toBe('done')
    const row = await rowOf('harbour_crate_a'),
      detail = await api.asset(row.id)
    expect(detail.recipe.steps).toMatchObject([{ remedy: 'files/intake', why: 'preset yard, centimetres' }])
    expect([await longest(row.id), detail.output.verdict]).toEqual([1, 'clear'])
  })
  it('that fits the folder is suggested; taken afterwards it takes the assets in anew, and is taken back the same way', async () => {
    const done = (await api.deliver(project, await hugeCrate('harbour_box_a', 'from yard/props'))) as Delivery
    expect((await api.call<Delivery>('GET', `/deliveries/${done.id}`)).body.suggested).toBe(
      'yard, centimetres',
    )
    const { suggested } = (await api.call<Delivery>('GET', `/deliveries/${done.id}`)).body
    const row = await rowOf('harbour_box_a')
    expect(await longest(row.id)).toBe(100)
    const taken = await api.call<Delivery>('PUT', `/deliveries/${done.id}/intake`, { preset: suggested })
    expect(taken.body).toMatchObject({ suggested: null, intake: { name: 'yard, centimetres' } })
    await expect.poll(() => longest(row.id), { timeout: 30_000 }).toBe(1)
    await api.call('PUT', `/deliveries/${done.id}/intake`, { preset: null })
    await expect.poll(async () => (await api.asset(row.id)).recipe.steps.length).toBe(0)
  })
  it('taken out leaves the recipes as they are', async () => {
    const [preset] = (await api.call<IntakePreset[]>('GET', `/projects/${project}/intake-presets`)).body
    const path = `/projects/${project}/intake-presets/${encodeURIComponent(preset!.name)}`
    expect((await api.call('DELETE', path)).status).toBe(200)
    expect((await api.call('DELETE', path)).status).toBe(404)
    expect((await api.asset((await rowOf('harbour_crate_a')).id)).recipe.steps).toHaveLength(1)
  })
})
