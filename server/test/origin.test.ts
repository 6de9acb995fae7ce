import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { Delivery, DispatchDetail, Fault, RulebookReply } from '@stern-gate/contract'
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
const bring = (name: string, folder = 'props') =>
  crateFiles({ name, textureName: name, folder }).then((files) => api.deliver(project, files))
const row = async (name: string) => (await api.assets(project)).find((a) => a.name === name)!
const put = (body: object) =>
  api.call<{ assets: number; fault: Fault }>('PUT', `/projects/${project}/origins`, body)
const origin = (terms: string, author = '') => ({ terms, author, source: '', link: '' })
const judged = (name: string, verdict: string) =>
  api.waitFor(
    () => row(name),
    (r) => r.state === 'judged' && r.verdict === verdict,
  )

it('terms that may not be handed over hold an asset, also its next version; taken back it is clear', async () => {
  const delivery: Delivery = await bring('harbour_keg_a')
  expect((await row('harbour_keg_a')).verdict).toBe('clear')
  expect((await put({ assets: null, delivery: delivery.id, origin: origin('practice') })).body.assets).toBe(1)
  await judged('harbour_keg_a', 'held')
  await bring('harbour_keg_a')
  await judged('harbour_keg_a', 'held')
  const { id } = await row('harbour_keg_a')
  const detail = await api.asset(id)
  expect(detail.origin).toMatchObject({ by: 'asset', terms: { handOver: 'refused' } })
  expect(detail.output.findings.filter((f) => f.level === 'stop').map((f) => f.text)).toEqual([
    'Its terms are “for practice only”: it may not be handed over.',
  ])
  await put({ assets: [id], origin: null })
  await judged('harbour_keg_a', 'clear')
})
it('terms that the rulebook does not have are refused', async () => {
  const refused = await put({ assets: [(await row('harbour_keg_a')).id], origin: origin('stolen') })
  expect([refused.status, refused.body.fault.where.part]).toEqual([400, 'origin.terms'])
})
it('a folder has the origin that the rulebook says, and a package its credits', async () => {
  const { body } = await api.call<RulebookReply>('GET', `/projects/${project}/rulebook`)
  await api.call('PUT', `/projects/${project}/rulebook`, {
    rulebook: {
      ...body.rulebook,
      origins: [{ files: 'props/free/**', origin: origin('credit', 'M. Quay') }],
    },
    revision: body.revision,
  })
  await bring('harbour_tub_a', 'props/free')
  await judged('harbour_keg_a', 'clear')
  await judged('harbour_tub_a', 'clear')
  const { id } = await row('harbour_tub_a')
  expect((await api.asset(id)).origin).toMatchObject({ by: 'rulebook', given: { author: 'M. Quay' } })
  const made = (
    await api.call<DispatchDetail>('POST', `/projects/${project}/dispatches`, {
      target: 'desk',
      assets: null,
    })
  ).body
  await api.waitFor(
    async () => (await api.call<DispatchDetail>('GET', `/dispatches/${made.id}`)).body,
    (d) => d.state === 'done',
  )
  const credits = (format: string) =>
    fetch(`${server.running.url}/api/dispatches/${made.id}/credits?format=${format}`).then((r) => r.text())
  expect(await credits('md')).toContain('- **harbour\\_tub\\_a**: by M. Quay, free with a credit')
  expect((await credits('csv')).split('\r\n')).toEqual([
    'asset,author,source,terms,hand-over,link',
    'harbour_keg_a,,,,,',
    'harbour_tub_a,M. Quay,,free with a credit,with credit,',
    '',
  ])
})
