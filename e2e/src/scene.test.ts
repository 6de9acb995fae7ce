import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { demoAssets, makeAsset, type DemoFile } from '@stern-gate/demo'
import type { SceneList } from '@stern-gate/contract'
import {
  type Application,
  beginProject,
  dropOnto,
  jsonAt,
  layFiles,
  openApplication,
} from './testApplication'

let app: Application,
  page: Page,
  project = '',
  files: DemoFile[]
beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  project = await beginProject(page, app.url, 'A shed')
  files = await makeAsset(demoAssets.find((a) => a.name === 'harbour_shed_set')!)
}, 120_000)
afterAll(() => app.stop())

let actions = 0
/** What a person does, counted. */
const click = async (selector: string): Promise<void> => {
  actions++
  await page.waitForSelector(selector, { timeout: 60_000 })
  await page.$eval(selector, (element) => (element as HTMLElement).click())
}
const json = <T>(path: string): Promise<T> => jsonAt<T>(app, path)
const rows = (): Promise<{ id: string; name: string; state: string; steps: number }[]> =>
  json(`/projects/${project}/assets`)
async function settled(count: number): Promise<string[]> {
  for (let n = 0; n < 300; n++) {
    const all = await rows()
    if (all.length === count && all.every((r) => r.state === 'judged')) return all.map((r) => r.name).sort()
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
  throw new Error(`not settled: ${JSON.stringify(await rows())}`)
}
const things = [
  'harbour_barrel_a',
  'harbour_net_rack_a',
  'harbour_sea_chest_a',
  'harbour_shed_a',
  'harbour_shed_door_a',
  'harbour_shed_lamp_a',
  'harbour_stool_a',
  'harbour_workbench_a',
]
async function bring(name: string): Promise<void> {
  await layFiles(join(app.folder, name), files)
  await dropOnto(page, [join(app.folder, name, 'gullwick')])
}

describe('a scene of many objects', () => {
  it('is taken apart, its figure left out and its door made whole, in fewer than eight actions', async () => {
    await bring('first')
    await settled(1)
    await click('[data-several="harbour_shed_set"] .go')
    await page.waitForSelector('[data-part="scale_figure"].out')
    expect(await page.$$eval('[data-part]', (all) => all.length)).toBe(9)
    await click('[data-apart]')
    expect(await settled(8)).toEqual(things)
    const door = (await rows()).find((r) => r.name === 'harbour_shed_door_a')!
    await click(`[data-asset="${door.id}"]`)
    await page.waitForSelector('.facts')
    await page.keyboard.press('4')
    actions++
    await click('[data-rule="mesh/half-model"] .do .go')
    for (let n = 0; n < 100 && (await rows()).find((r) => r.id === door.id)!.steps === 0; n++)
      await new Promise((resolve) => setTimeout(resolve, 200))
    await settled(8)
    expect(actions).toBeLessThan(8)
    const detail = await json<{ output: { findings: { rule: string }[] } }>(`/assets/${door.id}`)
    expect(detail.output.findings.map((f) => f.rule)).not.toContain('mesh/half-model')
  }, 420_000)
  it('keeps all of that for a second export', async () => {
    await page.goto(`${app.url}/p/${project}/arrivals`)
    await page.waitForSelector('[data-asset]')
    const { id } = (await rows()).find((r) => r.name === 'harbour_shed_door_a')!
    await bring('second')
    for (let n = 0; n < 1200; n++) {
      if ((await json<{ version: number }>(`/assets/${id}`)).version === 2) break
      await new Promise((resolve) => setTimeout(resolve, 200))
    }
    expect(await settled(8)).toEqual(things)
    const door = (await rows()).find((r) => r.name === 'harbour_shed_door_a')!
    const detail = await json<{ version: number; output: { findings: { rule: string }[] } }>(
      `/assets/${door.id}`,
    )
    expect(detail.version).toBe(2)
    expect(detail.output.findings.map((f) => f.rule)).not.toContain('mesh/half-model')
  }, 420_000)
  it('parts are joined, named and undone on the page, by keys too', async () => {
    const { scenes } = await json<SceneList>(`/projects/${project}/scenes`)
    await page.goto(`${app.url}/p/${project}/scenes/${scenes[0]!.id}`)
    await page.waitForSelector('[data-part="harbour_barrel_a"]')
    const parts = () => page.$$eval('[data-part]', (all) => all.map((e) => e.getAttribute('data-part')))
    await page.click('[data-part="harbour_barrel_a"] input[type=checkbox]')
    await page.click('[data-part="harbour_sea_chest_a"] input[type=checkbox]')
    await page.keyboard.press('j')
    expect(await parts()).not.toContain('harbour_sea_chest_a')
    await page.keyboard.down('Control')
    await page.keyboard.press('z')
    await page.keyboard.up('Control')
    expect(await parts()).toContain('harbour_sea_chest_a')
    await page.click('[data-part="harbour_workbench_a"]', { count: 2 })
    // Keys go where the focus is: it comes a moment after the field
    await page.waitForSelector('.words input:focus')
    await page.keyboard.type('harbour_bench_a')
    await page.keyboard.press('Enter')
    await page.waitForSelector('[data-part="harbour_bench_a"]')
    expect(await parts()).toContain('harbour_bench_a')
    expect(app.complaints).toEqual([])
  }, 120_000)
})
