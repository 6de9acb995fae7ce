import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail, Fault, ProjectMemory, ProjectSurface, SharedSurface } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>, project: string, ids: string[]
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  project = await api.project()
  await api.deliver(project, {
    ...(await crateFiles({ name: 'harbour_crate_a', textureName: 'harbour_crate_a' })),
    ...(await crateFiles({ name: 'harbour_crate_b', textureName: 'harbour_crate_b' })),
  })
  const rows = await api.assets(project)
  ids = rows.sort((a, b) => (a.name < b.name ? -1 : 1)).map((a) => a.id)
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

const put = (name: string, surface: Partial<SharedSurface> | null) =>
  api.call<{ fault: Fault }>('PUT', `/projects/${project}/surfaces/${encodeURIComponent(name)}`, { surface })
const list = async () => (await api.call<ProjectSurface[]>('GET', `/projects/${project}/surfaces`)).body
async function follow(id: string, options: object): Promise<void> {
  const { recipeRevision: revision } = await api.asset(id)
  const step = {
    id: 's1',
    remedy: 'slots/surface',
    options: { slot: 'crate-wood', ...options },
    on: true,
    why: '',
  }
  const { status } = await api.call('PUT', `/assets/${id}/recipe`, { revision, recipe: { steps: [step] } })
  expect(status).toBe(200)
}
const made = async (id: string): Promise<AssetDetail> =>
  api.waitFor(
    () => api.asset(id),
    (a) => !a.making && a.state === 'judged',
  )
const roughnessOf = async (id: string): Promise<number> => (await made(id)).output!.mesh!.slots![0]!.roughness

describe('a surface of the project', () => {
  it('is followed by slots of two assets, and both change when it does, but for what they say themselves', async () => {
    expect((await put('harbour paint', { preset: 'paint', values: { roughness: 0.4 } })).status).toBe(200)
    await follow(ids[0]!, { shared: 'harbour paint' })
    await follow(ids[1]!, { shared: 'harbour paint', metallic: 0.5 })
    expect([await roughnessOf(ids[0]!), await roughnessOf(ids[1]!)]).toEqual([0.4, 0.4])
    expect((await made(ids[0]!)).output!.mesh!.slots![0]!.surface).toBe('harbour paint')
    await put('harbour paint', { preset: 'paint', values: { roughness: 0.9, metallic: 0.1 } })
    expect([await roughnessOf(ids[0]!), await roughnessOf(ids[1]!)]).toEqual([0.9, 0.9])
    const slots = await Promise.all(ids.map(async (id) => (await made(id)).output!.mesh!.slots![0]!))
    expect(slots.map((s) => s.metallic)).toEqual([0.1, 0.5])
  })
  it('can follow another, whose change reaches what follows it', async () => {
    await put('worn paint', { follows: 'harbour paint', values: { roughness: 0.95 } })
    await follow(ids[0]!, { shared: 'worn paint' })
    expect(await roughnessOf(ids[0]!)).toBe(0.95)
    await put('harbour paint', { preset: 'paint', values: { roughness: 0.2, metallic: 0.3 } })
    const slot = (await made(ids[0]!)).output!.mesh!.slots![0]!
    expect([slot.roughness, slot.metallic]).toEqual([0.95, 0.3])
    expect(await roughnessOf(ids[1]!)).toBe(0.2)
  })
  it('says who follows it, and is kept as long as somebody does', async () => {
    expect((await list()).map((s) => [s.name, s.users.map((u) => u.name), s.followers, s.values])).toEqual([
      ['harbour paint', ['harbour_crate_b'], ['worn paint'], { roughness: 0.2, metallic: 0.3 }],
      ['worn paint', ['harbour_crate_a'], [], { roughness: 0.95, metallic: 0.3 }],
    ])
    const refused = await put('worn paint', null)
    expect([refused.status, refused.body.fault.code]).toEqual([409, 'request/conflict'])
    await follow(ids[0]!, { shared: 'harbour paint' })
    expect((await put('worn paint', null)).status).toBe(200)
    expect((await list()).map((s) => s.name)).toEqual(['harbour paint'])
  })
  it('is refused where it would follow itself, or says what no surface has', async () => {
    expect((await put('harbour paint', { follows: 'harbour paint' })).body.fault.code).toBe(
      'rulebook/invalid',
    )
    expect((await put('shiny', { values: { shine: 3 } })).body.fault.code).toBe('rulebook/invalid')
    expect((await list()).map((s) => s.name)).toEqual(['harbour paint'])
  })
})

describe('surface files of an output', () => {
  it('stand among its files, are no mesh and no texture, and change nothing of the verdict', async () => {
    const before = await made(ids[1]!)
    const { recipeRevision: revision, recipe } = before
    const step = { id: 's2', remedy: 'slots/write-surfaces', options: {}, on: true, why: '' }
    await api.call('PUT', `/assets/${ids[1]!}/recipe`, {
      revision,
      recipe: { steps: [...recipe.steps, step] },
    })
    const after = await made(ids[1]!)
    const surfaces = after.output!.files.filter((f) => f.part === 'surface')
    expect(surfaces.map((f) => f.path.split('/').at(-1))).toEqual(['harbour_crate_b_crate-wood.surface.json'])
    expect(after.output!.textures).toHaveLength(before.output!.textures.length)
    expect(after.output!.verdict).toBe(before.output!.verdict)
    const response = await fetch(`${server.running.url}/api/blobs/${surfaces[0]!.sha256}`)
    expect(await response.json()).toMatchObject({
      form: 'stern-gate/surface-1',
      slot: 'crate-wood',
      surface: 'harbour paint',
      values: { metallic: 0.5 },
    })
  })
})

describe('a surface file that is delivered', () => {
  const bytesOf = (surface: object): Uint8Array => new TextEncoder().encode(JSON.stringify(surface))
  const surface = (slot: string, roughness: number): object => ({
    form: 'stern-gate/surface-1',
    slot,
    surface: 'wet wood',
    values: { roughness, twoSided: true },
    textures: [],
    tints: [],
    alphaMeans: null,
    layer: null,
  })
  const FILE = 'props/harbour_crate_c_crate-wood.surface.json'
  const bring = async (roughness: number) => {
    const delivery = await api.deliver(project, {
      ...(await crateFiles({ name: 'harbour_crate_c', textureName: 'harbour_crate_c' })),
      [FILE]: bytesOf(surface('crate-wood', roughness)),
      'props/harbour_crate_c_lid.surface.json': bytesOf(surface('lid', roughness)),
    })
    const { id } = (await api.assets(project)).find((a) => a.name === 'harbour_crate_c')!
    return { delivery, asset: await made(id) }
  }
  it('gives the slot of its name its surface by a step, and is told where it went', async () => {
    const { delivery, asset } = await bring(0.85)
    expect(delivery.setAside.map((f) => [f.path, f.fault?.code])).toEqual([
      [FILE, 'file/surface-taken'],
      ['props/harbour_crate_c_lid.surface.json', 'file/surface-without-slot'],
    ])
    expect(delivery.setAside[0]!.fault!.why).toBe('Slot crate-wood of harbour_crate_c has its surface.')
    expect(asset.recipe.steps).toMatchObject([
      { remedy: 'slots/surface', options: { slot: 'crate-wood', roughness: 0.85 }, on: true },
    ])
    const slot = asset.output!.mesh!.slots!.find((s) => s.name === 'crate-wood')!
    expect([slot.roughness, slot.doubleSided, slot.surface]).toEqual([0.85, true, 'wet wood'])
    // A later one takes the place of the first
    const later = await bring(0.6)
    expect(later.asset.recipe.steps).toHaveLength(1)
    expect(later.asset.output!.mesh!.slots![0]!.roughness).toBe(0.6)
  })
  it('is refused with what is wrong where it is none, and keeps nothing else back', async () => {
    const { refused } = await api.deliver(project, { 'props/x.surface.json': bytesOf({ form: 'any' }) })
    expect(refused.map((f) => f.fault?.code)).toEqual(['file/unsupported'])
    expect(refused[0]!.fault!.why).toContain('It is no surface file')
  })
})

describe('the texture memory of a project', () => {
  it('is told at each target, and of an unknown one not', async () => {
    const memory = async (target: string) =>
      api.call<ProjectMemory & { fault: Fault }>('GET', `/projects/${project}/memory?target=${target}`)
    const { body } = await memory('desk')
    // Three crates have the same pictures
    expect(body).toMatchObject({ target: 'desk', title: 'Desk', textures: 3 })
    expect(body.shared).toBe(2 * body.bytes)
    expect(body.roles.reduce((sum, r) => sum + r.bytes, 0)).toBe(body.bytes)
    expect((await memory('handheld')).body.bytes).toBeLessThan(body.bytes)
    expect((await memory('moon')).body.fault.code).toBe('request/invalid')
  })
})
