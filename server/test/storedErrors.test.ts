import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail, Finding, RulebookReply, StoredError } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>, project: string, id: string
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  project = await api.project()
  await api.deliver(project, await crateFiles({ hull: false }))
  id = (await api.assets(project))[0]!.id
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

/** Has losses measured at every target, or not, with so many dB wanted. */
async function haveLosses(measuresError: boolean, decibels: number): Promise<void> {
  const { revision, rulebook } = (await api.call<RulebookReply>('GET', `/projects/${project}/rulebook`)).body
  for (const target of Object.values(rulebook.targets)) target.measuresError = measuresError
  rulebook.rules['compression/error'] = { options: { decibels, degrees: 45, mostDegrees: 90 } }
  const { status } = await api.call('PUT', `/projects/${project}/rulebook`, { rulebook, revision })
  expect(status).toBe(200)
}
const judgedWith = async (good: (findings: Finding[]) => boolean): Promise<Finding[]> => {
  const findingsOf = ({ output, source }: AssetDetail): Finding[] =>
    (output ?? source).findings.filter((f) => f.rule === 'compression/error')
  const detail = await api.waitFor(
    () => api.asset(id),
    (d) => d.state === 'judged' && good(findingsOf(d)),
  )
  return findingsOf(detail)
}
const kept = async (): Promise<{ scope: string; body: StoredError }[]> =>
  (
    await server.running.services.connection.pool.query<{ scope: string; body: StoredError }>(
      `select scope, body from facts where scope like 'stored:%' order by scope`,
    )
  ).rows

describe('what textures lose in the formats of their target', () => {
  it('is not measured before the rulebook asks for it', async () => {
    expect(await judgedWith(() => true)).toEqual([])
    expect(await kept()).toEqual([])
  })
  it('is measured, kept and found once the rulebook asks', async () => {
    await haveLosses(true, 80)
    const found = await judgedWith((all) => all.some((f) => f.message === 'decibels'))
    expect(found.every((f) => f.level === 'caution')).toBe(true)
    const rows = await kept()
    expect(rows).toHaveLength(3)
    const colour = rows.find((r) => r.scope.includes('|basecolor|'))!.body
    expect(found.map((f) => f.data['psnr'])).toContain(Number(colour.psnr!.toFixed(1)))
    expect((await api.assets(project))[0]!.cautions).toBeGreaterThanOrEqual(found.length)
  })
  it('is measured of pictures inside a mesh, too, and of what a step makes', async () => {
    await api.deliver(
      project,
      await crateFiles({
        name: 'harbour_crate_b',
        textureName: 'harbour_crate_b',
        hull: false,
        embed: true,
        green: 'down',
      }),
    )
    const inside = (await api.assets(project)).find((a) => a.name === 'harbour_crate_b')!.id
    const { recipeRevision: revision, source } = await api.asset(inside)
    expect(source.textures.map((t) => t.asStored !== null)).toEqual([true, true, true])
    const texture = source.textures.find((t) => t.role === 'normal')!.name
    const step = { id: 's', remedy: 'colour/flip-green', options: { texture }, on: true, why: '' }
    await api.call('PUT', `/assets/${inside}/recipe`, { revision, recipe: { steps: [step] } })
    const made = await api.waitFor(
      () => api.asset(inside),
      (d) => d.output !== null && !d.making && d.state === 'judged',
    )
    expect(made.output!.textures.map((t) => t.asStored !== null)).toEqual([true, true, true])
  })
  it('holds for other limits without being encoded again, and goes when it is asked for no more', async () => {
    const before = await kept()
    await haveLosses(true, 10)
    await judgedWith((all) => all.length === 0)
    await haveLosses(false, 80)
    await judgedWith((all) => all.length === 0)
    expect(await kept()).toEqual(before)
  })
})
