import { rm } from 'node:fs/promises'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail, Fault, NodeFacts, PaintedPart, RecipeStep } from '@stern-gate/contract'
import { packPainted } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { listReferences } from '../src/care/blobReferences'
import { createClient, startTestServer, type TestServer } from './testServer'

let server: TestServer, api: ReturnType<typeof createClient>, project: string, id: string
beforeAll(async () => {
  server = await startTestServer()
  api = createClient(server.running.url)
  project = await api.project()
  await api.deliver(project, await crateFiles({ levels: 1, hull: false }))
  id = (await api.assets(project))[0]!.id
})
afterAll(async () => {
  await server.running.stop()
  await rm(server.data, { recursive: true, force: true })
})

/** The crate's top, a square at its height, painted from nothing at one end to all of it at the other. */
function painted(node: NodeFacts): PaintedPart {
  const { min, max } = node.bounds!,
    y = max[1]
  return packPainted({
    node: node.path,
    positions: Float32Array.from([
      ...[min[0], y, min[2]],
      ...[max[0], y, min[2]],
      ...[min[0], y, max[2]],
      ...[max[0], y, max[2]],
    ]),
    indices: Uint32Array.from([0, 2, 1, 1, 2, 3]),
    values: Float32Array.from([0, 1, 0, 1]),
    rest: 0,
  })
}
const step = (data: string): RecipeStep => ({
  id: 's1',
  remedy: 'mesh/paint-colours',
  options: { data, slot: 'crate-wood' },
  on: true,
  why: '',
})
async function made(steps: RecipeStep[]): Promise<AssetDetail> {
  const { recipeRevision: revision } = await api.asset(id)
  const { status } = await api.call('PUT', `/assets/${id}/recipe`, { revision, recipe: { steps } })
  expect(status).toBe(200)
  return settled()
}
const settled = () =>
  api.waitFor(
    () => api.asset(id),
    (a) => !a.making && a.state === 'judged',
  )
const coloursOf = (asset: AssetDetail) => asset.output!.mesh!.nodes!.flatMap((n) => n.primitives)[0]!.colours

describe('what a step keeps outside its options', () => {
  let sha256: string
  it('is stored once, by its content, and read when the output is made', async () => {
    const node = (await api.asset(id)).source.mesh!.nodes!.find((n) => n.primitives.length > 0)!
    const data = { kind: 'painted', parts: [painted(node)] }
    const replies = await Promise.all(
      [0, 1].map(() => api.call<{ sha256: string }>('POST', '/step-data', data)),
    )
    expect(replies.map((r) => r.status)).toEqual([200, 200])
    sha256 = replies[0]!.body.sha256
    expect(replies[1]!.body.sha256).toBe(sha256)
    const asset = await made([step(sha256)])
    expect(coloursOf(asset)).toHaveLength(2)
    expect(coloursOf(asset)[1]).toMatchObject({ min: [0, 0, 0, 1], max: [1, 0, 0, 1] })
  })
  it('stays with the asset when a re-export has other vertices', async () => {
    await api.deliver(project, await crateFiles({ levels: 1, hull: false, grid: 3 }))
    const asset = await api.waitFor(
      () => api.asset(id),
      (a) => a.versions.length === 2 && !a.making && a.state === 'judged',
    )
    expect(coloursOf(asset)[1]).toMatchObject({ min: [0, 0, 0, 1], max: [1, 0, 0, 1] })
  })
  it('counts as referred to as long as a recipe, or one that can be gone back to, names it', async () => {
    const owner = async () => (await listReferences(server.running.services.connection.db)).get(sha256)
    expect(await owner()).toBe('recipe')
    await made([])
    expect(await owner()).toBe('recipe')
  })
  it('is told as missing where it is not there, and refused where it is none', async () => {
    const asset = await made([step('0'.repeat(64))])
    expect(asset.outputFault).toMatchObject({ code: 'remedy/data-missing' })
    const { status, body } = await api.call<{ fault: Fault }>('POST', '/step-data', {
      kind: 'painted',
      parts: [{ node: 'a', rest: 2, points: '?', values: '', triangles: '' }],
    })
    expect([status, body.fault.code]).toEqual([400, 'request/invalid'])
    await made([])
  })
})
