import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { Delivery } from '@stern-gate/contract'
import { boxOf, crateFiles } from '@stern-gate/core/fixtures'
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

/** The crate of a metre as an STL, which knows triangles and nothing else. */
function stl(): Uint8Array {
  const box = boxOf(1, [0, 0, 0], 1)
  const lines = ['solid crate']
  for (let t = 0; t < box.indices.length; t += 3) {
    lines.push('facet normal 0 0 0', 'outer loop')
    for (const v of box.indices.slice(t, t + 3))
      lines.push(`vertex ${box.positions.slice(v * 3, v * 3 + 3).join(' ')}`)
    lines.push('endloop', 'endfacet')
  }
  return new TextEncoder().encode([...lines, 'endsolid crate'].join('\n'))
}

it('files of one name: the same model is set aside with why, another one is an asset of its own', async () => {
  const delivery: Delivery = await api.deliver(project, {
    ...(await crateFiles({ folder: 'a', name: 'crate', textureName: 'crate' })),
    ...(await crateFiles({ folder: 'b', name: 'crate', textureName: 'crate' })),
    ...(await crateFiles({ folder: 'c', name: 'crate', textureName: 'crate', grid: 3 })),
    'd/crate.stl': stl(),
    'a/crate.blend': new TextEncoder().encode('what no one opens'),
    'a/other.blend': new TextEncoder().encode('what no one opens'),
  })
  expect(
    (await api.assets(project))
      .filter((a) => a.kind === 'mesh')
      .map((a) => [a.name, a.state])
      .sort(),
  ).toEqual([
    ['b_crate', 'judged'],
    ['c_crate', 'judged'],
    ['crate', 'judged'],
  ])
  expect(delivery.setAside.map((f) => [f.path, f.fault!.why])).toEqual([
    ['a/crate.blend', 'It is the working file of crate.glb, by its name.'],
    [
      'd/crate.stl',
      'It is the same model as crate.glb, which also carries collision, a UV channel, normals, its unit.',
    ],
  ])
  expect(delivery.refused.map((f) => [f.path, f.fault!.code])).toEqual([
    ['a/other.blend', 'file/working-file'],
  ])
})

it('an export without the clip and the collision of the one before says so, until that is accepted', async () => {
  const names = { folder: 'a', name: 'harbour_hatch_a', textureName: 'harbour_hatch_a' }
  await api.deliver(project, await crateFiles({ ...names, clip: 'hatch@open' }))
  await api.deliver(project, await crateFiles({ ...names, hull: false }))
  const { id } = (await api.assets(project)).find((a) => a.name === 'harbour_hatch_a')!
  const less = async () =>
    (await api.asset(id)).output.findings
      .filter((f) => f.rule === 'files/less-than-before')
      .map((f) => f.text)
  expect(await less()).toEqual([
    'Version 1 had 1 clip (hatch@open); this one has none of it. Deliver it, or accept that it is gone.',
    'Version 1 had 1 collision mesh; this one has none of it. Deliver it, or accept that it is gone.',
  ])
  // What belongs to no other mesh is taken over, and stands where it stood
  const kept = await api.call<Delivery>('POST', `/assets/${id}/keep`)
  expect(kept.status).toBe(201)
  await api.waitDone(kept.body.id)
  await api.waitFor(
    () => api.asset(id),
    (a) => a.version === 3 && a.state === 'judged',
  )
  // The clip belongs to the mesh that it moves: it goes on being asked for
  expect(await less()).toEqual([
    'Version 1 had 1 clip (hatch@open); this one has none of it. Deliver it, or accept that it is gone.',
  ])
  const { output } = await api.asset(id)
  expect(output.collision).toHaveLength(1)
  expect(output.files.map((f) => f.path)).toContain('a/harbour_hatch_a/harbour_hatch_a_hull.glb')
  expect((await api.call('POST', `/assets/${id}/keep`)).status).toBe(409)
})

it('what two exports in a row lacked is kept from the version that had it', async () => {
  const names = { folder: 'd', name: 'harbour_hood_a', textureName: 'harbour_hood_a' }
  await api.deliver(project, await crateFiles(names))
  await api.deliver(project, await crateFiles({ ...names, hull: false }))
  await api.deliver(project, await crateFiles({ ...names, hull: false, grid: 4 }))
  const { id } = (await api.assets(project)).find((a) => a.name === 'harbour_hood_a')!
  expect((await api.asset(id)).output.findings.find((f) => f.rule === 'files/less-than-before')!.text).toBe(
    'Version 1 had 1 collision mesh; this one has none of it. Deliver it, or accept that it is gone.',
  )
  const kept = await api.call<Delivery>('POST', `/assets/${id}/keep`)
  expect(kept.status).toBe(201)
  await api.waitDone(kept.body.id)
  const { output, version } = await api.asset(id)
  expect([version, output.collision.length]).toEqual([4, 1])
})

it('an intake preset may say that what is absent is gone, or that it is kept', async () => {
  const preset = (name: string, absent: string) =>
    api.call('PUT', `/projects/${project}/intake-presets`, { name, options: {}, absent })
  await preset('loses', 'gone')
  await preset('keeps', 'keep')
  const bring = async (name: string, by: string) => {
    const names = { folder: 'c', name, textureName: name }
    await api.deliver(project, await crateFiles({ ...names, clip: 'hatch@open' }))
    const { body: open } = await api.call<Delivery>('POST', `/projects/${project}/deliveries`, { preset: by })
    await api.send(open.id, await crateFiles({ ...names, hull: false }))
    await api.call('POST', `/deliveries/${open.id}/close`)
    return (await api.assets(project)).find((a) => a.name === name)!.id
  }
  const lessOf = async (id: string) =>
    (await api.asset(id)).output.findings.filter((f) => f.rule === 'files/less-than-before')
  const lost = await bring('harbour_flap_a', 'loses')
  await api.waitFor(
    () => lessOf(lost),
    (found) => found.length === 2 && found.every((f) => f.waived !== null),
  )
  expect((await lessOf(lost))[0]!.waived!.reason).toContain('preset loses')
  const kept = await bring('harbour_gate_a', 'keeps')
  await api.waitFor(
    () => api.asset(kept),
    (a) => a.version === 3 && a.state === 'judged',
  )
  expect((await api.asset(kept)).output.collision).toHaveLength(1)
  // A clip belongs to the mesh that it moves: nobody decided that it goes
  expect((await lessOf(kept)).map((f) => f.text)).toEqual([
    'Version 1 had 1 clip (hatch@open); this one has none of it. Deliver it, or accept that it is gone.',
  ])
})

it('levels and a hull that came as files of their own are kept as they were', async () => {
  const names = { folder: 'b', name: 'harbour_lid_a', textureName: 'harbour_lid_a', grid: 4 }
  await api.deliver(project, await crateFiles({ ...names, levels: 3, separate: true }))
  const alone = await crateFiles({ ...names, hull: false })
  await api.deliver(project, alone)
  const { id } = (await api.assets(project)).find((a) => a.name === 'harbour_lid_a')!
  const kept = await api.call<Delivery>('POST', `/assets/${id}/keep`)
  expect(kept.status).toBe(201)
  await api.waitDone(kept.body.id)
  const { output, version } = await api.asset(id)
  expect(version).toBe(3)
  expect(output.levels.map((l) => l.level)).toEqual([0, 1, 2])
  expect(output.collision).toHaveLength(1)
  expect(output.files.map((f) => f.path).filter((f) => f.endsWith('.glb'))).toEqual([
    'b/harbour_lid_a.glb',
    'b/harbour_lid_a_lod1.glb',
    'b/harbour_lid_a_lod2.glb',
    'b/harbour_lid_a_hull.glb',
  ])
})
