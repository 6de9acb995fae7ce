import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { crateFiles } from '@stern-gate/core/fixtures'
import { beginProject, dropOnto, layFiles, openApplication, type Application } from './testApplication'

/** Sixty files of a project that writes its names its own way. */
const nouns = [
  'Crate',
  'Barrel',
  'Lamp',
  'Anchor',
  'Buoy',
  'Crane',
  'Pier',
  'Mast',
  'Keg',
  'Oar',
  'Net',
  'Hut',
]
export async function customFiles(): Promise<{ path: string; bytes: Uint8Array }[]> {
  const files: { path: string; bytes: Uint8Array }[] = []
  for (const [n, noun] of nouns.entries()) {
    const name = `KIT_Old${noun}`
    const made = await crateFiles({
      name,
      folder: 'models',
      textureName: name,
      ormName: 'Packed',
      slotName: `Wood-${noun}`,
      hull: false,
      grid: 4 + n,
      textureSize: [64, 64],
      slivers: n % 3 === 0 ? 2 : 0,
      ...(n === 5 ? { green: 'down' as const } : {}),
    })
    for (const [path, bytes] of Object.entries(made)) files.push({ path, bytes })
  }
  return files
}

let app: Application,
  page: Page,
  project = ''
beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  project = await beginProject(page, app.url, 'Another custom')
})
afterAll(() => app.stop())

let actions = 0
/** What a person does, counted. */
const click = async (selector: string): Promise<void> => {
  actions++
  await page.waitForSelector(selector, { timeout: 60_000 })
  await page.$eval(selector, (element) => (element as HTMLElement).click())
}
const json = async <T>(path: string, body?: unknown): Promise<T> =>
  (
    await fetch(`${app.url}/api/projects/${project}${path}`, {
      ...(body === undefined
        ? {}
        : { method: 'POST', headers: { 'Content-Type': 'application/json' }, body: JSON.stringify(body) }),
    })
  ).json() as Promise<T>
const rows = (): Promise<
  {
    id: string
    name: string
    verdict: string | null
    state: string
    stops: number
    cautions: number
    waived: number
  }[]
> => json('/assets')
const settled = async (): Promise<void> =>
  expect.poll(async () => (await rows()).every((r) => r.state === 'judged'), { timeout: 90_000 }).toBe(true)

describe('the first hour', () => {
  it('drops a folder named by another custom, fits, sounds, mends and waives, in fewer than fifteen actions', async () => {
    const folder = await layFiles(join(app.folder, 'custom'), await customFiles())
    actions++
    await dropOnto(page, [join(folder, 'models')])
    await expect.poll(async () => (await rows()).length, { timeout: 90_000 }).toBe(nouns.length)
    await settled()
    const before = await rows()
    expect(before.every((r) => r.cautions > 0)).toBe(true)

    // The rulebook may be what does not fit
    await click('[data-first-look] .go')
    await page.waitForSelector('[data-proposal="patterns.mesh"]', { timeout: 60_000 })
    await page.waitForSelector('[data-proposal="classes.models"]')
    // Each says what it would do by itself, and the footer what the chosen ones do together
    const said = (selector: string): Promise<string> =>
      page.$eval(selector, (e) => e.textContent.trim().replace(/\s+/g, ' '))
    await expect
      .poll(() => said('[data-proposal="patterns.mesh"] [data-alone]'), { timeout: 60_000 })
      .toMatch(/^By itself: .*(becomes? (clear|held)|with fewer findings|with other findings)/)
    await expect
      .poll(() => said('[data-together]'), { timeout: 60_000 })
      .toMatch(/^The chosen ones: .*(becomes? (clear|held)|with fewer findings)/)
    await click('[data-take]')
    await page.waitForSelector('[data-band]')

    // One limit is dragged; the band tells of it before it is saved
    await click('[data-rule-line="mesh/triangle-budget"]')
    await page.waitForFunction(() => document.querySelector('[data-band] .sums:not(.waits)'), {
      timeout: 60_000,
    })
    await page.waitForSelector('select[aria-label="Class"]')
    actions++
    await page.select('select[aria-label="Class"]', 'models')
    const pin = '[data-limit="classes.models.triangles.caution"]'
    await page.waitForSelector(pin, { timeout: 60_000 })
    const box = (await (await page.$(`${pin} rect`))!.boundingBox())!
    actions++
    await page.mouse.move(box.x + box.width / 2, box.y + 6)
    await page.mouse.down()
    await page.mouse.move(box.x + box.width / 2 - 60, box.y + 10, { steps: 6 })
    await page.mouse.up()
    await page.waitForSelector('.legend .new')
    await page.waitForFunction(
      () =>
        /become clear|lose some/.test(
          document.querySelector('[data-band] .sums:not(.waits)')?.textContent ?? '',
        ),
      { timeout: 60_000 },
    )
    await page.type('[data-band] input', 'fitted to what is there')
    await click('[data-save]')
    await page.waitForFunction(() => !document.querySelector('[data-band]'), { timeout: 60_000 })
    await settled()

    // What is safe is mended in one act
    await page.goto(`${app.url}/p/${project}/arrivals`)
    await click('[data-mend-all]')
    await page.waitForSelector('[data-safe="mesh/drop-degenerate"]', { timeout: 60_000 })
    await click('[data-mend]')
    await page.waitForFunction(() => !document.querySelector('[data-mend]'), { timeout: 60_000 })
    await settled()
    await expect
      .poll(
        async () => (await json<{ remedies: unknown[] }>('/mend-plan', { assets: null })).remedies.length,
        {
          timeout: 90_000,
        },
      )
      .toBe(0)

    // The one whose green points down is meant so
    const down = (await rows()).find((r) => r.name === 'KIT_OldCrane')!
    expect(down).toMatchObject({ verdict: 'held', stops: 1 })
    await page.goto(`${app.url}/p/${project}/assets/${down.id}/colour`)
    await page.waitForSelector('[data-rule="colour/normal-green"]', { timeout: 60_000 })
    await click('[data-rule="colour/normal-green"] [data-accept]')
    await page.waitForSelector('[data-waiver-reason]')
    await page.type('[data-waiver-reason]', 'seen from far only')
    await click('[data-waiver-give]')
    await page.waitForSelector('[data-waived]', { timeout: 60_000 })
    await settled()
    const after = await rows()
    expect(after.find((r) => r.id === down.id)).toMatchObject({ verdict: 'clear', stops: 0, waived: 1 })
    expect(after.every((r) => r.verdict === 'clear')).toBe(true)
    expect(after.reduce((sum, r) => sum + r.stops + r.cautions, 0)).toBeLessThan(5)
    expect(actions).toBeLessThan(15)
  })
})
