import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { BenchTexture, Preview } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
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

const sharesOf = (textures: readonly BenchTexture[]) =>
  textures.map((t) => (t.facts?.used == null ? null : Math.round(t.facts.used * 100))).sort()

describe('textures of which islands use a quarter', () => {
  const bring = async (name: string, embed: boolean) => {
    await api.deliver(
      project,
      await crateFiles({ name, textureName: name, hull: false, uvScale: 0.5, embed, green: 'down' }),
    )
    return (await api.assets(project)).find((a) => a.name === name)!.id
  }
  it('are judged by the figures over that quarter, in files of their own and inside the mesh', async () => {
    for (const [name, embed] of [
      ['harbour_crate_a', false],
      ['harbour_crate_b', true],
    ] as const) {
      const { source } = await api.asset(await bring(name, embed))
      expect(sharesOf(source.textures)).toEqual([25, 25, 25])
    }
  })
  it('and so is what a step makes of them, tried and kept', async () => {
    const id = await bring('harbour_crate_c', false)
    const { recipeRevision: revision, source } = await api.asset(id)
    const texture = source.textures.find((t) => t.role === 'normal')!.name
    const step = { id: 's', remedy: 'colour/flip-green', options: { texture }, on: true, why: '' }
    const tried = await api.call<Preview>('POST', `/assets/${id}/preview`, { recipe: { steps: [step] } })
    expect(sharesOf(tried.body.state.textures)).toEqual([25, 25, 25])
    await api.call('PUT', `/assets/${id}/recipe`, { revision, recipe: { steps: [step] } })
    const made = await api.waitFor(
      () => api.asset(id),
      (d) => d.output !== null && !d.making && d.state === 'judged',
    )
    expect(sharesOf(made.output!.textures)).toEqual([25, 25, 25])
    expect(made.output!.textures.find((t) => t.role === 'normal')!.facts!.normal!.green.direction).toBe('up')
  })
})
