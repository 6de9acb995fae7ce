import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail } from '@stern-gate/contract'
import { openDemoProject } from './demoProject'
import { type Application, jsonAt, madeAsset, until } from './testApplication'

let app: Application, page: Page, project: string
const ids = new Map<string, string>()
const detailOf = (name: string): Promise<AssetDetail> => jsonAt(app, `/assets/${ids.get(name)!}`)
const made = (name: string, good: (d: AssetDetail) => boolean): Promise<AssetDetail> =>
  madeAsset(app, ids.get(name)!, good)

beforeAll(async () => {
  const names = ['dune_marram_a', 'harbour_sinker_a'],
    opened = await openDemoProject('Dunes', names)
  ;({ app, page, project } = opened)
  names.forEach((name, n) => ids.set(name, opened.ids[n]!))
}, 120_000)
afterAll(() => app.stop())

/** The first figure of the panel: triangles in view. */
const inView = async (): Promise<number> =>
  Number((await page.$eval('[data-cost] b', (b) => b.textContent)).replace(/\D/g, ''))
const slide = (slider: string, value: string): Promise<void> =>
  page.$eval(
    slider,
    (e, to) => {
      ;(e as HTMLInputElement).value = to
      e.dispatchEvent(new Event('input', { bubbles: true }))
    },
    value,
  )
const picture = (): Promise<string> =>
  page.$eval('canvas[data-ready]', (c) => (c as HTMLCanvasElement).toDataURL())

describe('a tuft that is held for want of levels', () => {
  it('is clear with a card, which the finding offers', async () => {
    await page.goto(`${app.url}/p/${project}/assets/${ids.get('dune_marram_a')!}/lods`)
    const held = await detailOf('dune_marram_a')
    expect(held.source.verdict).toBe('held')
    const offers = held.source.findings.find((f) => f.rule === 'lods/missing')!.remedies
    expect(offers.map((o) => o.remedy)).toContain('lods/make-card')
    const label = offers.find((o) => o.remedy === 'lods/make-card')!.label
    await page.waitForSelector(`::-p-text(${label})`)
    await page.click(`::-p-text(${label})`)
    const detail = await made('dune_marram_a', (d) => d.output?.levels.length === 2)
    expect(detail.output!.verdict).toBe('clear')
    expect(detail.output!.levels[1]!.triangles).toBe(6)
  })
  it('stands on a ground in many copies, which cost what their levels do', async () => {
    await page.goto(`${app.url}/p/${project}/assets/${ids.get('dune_marram_a')!}/lods?view=many`)
    await page.waitForSelector('canvas[data-ready]')
    await page.waitForSelector('[data-cost]')
    await slide('[data-copies]', '4')
    // Far enough apart that cards take over before the last of them
    await slide('[aria-label="Distance from copy to copy"]', '6')
    await page.waitForFunction(() => /10.000/.test(document.querySelector('.tools.second')!.textContent))
    const switched = await until(inView, (n) => n > 0)
    await page.click('[data-switching]')
    // Without levels every copy in view has all of its 280 triangles
    const full = await until(inView, (n) => n !== switched)
    expect(full % 280).toBe(0)
    expect(full).toBeGreaterThan(switched)
  })
  it('is walked through by keys', async () => {
    const before = await picture()
    await page.focus('canvas[data-ready]')
    await page.keyboard.press('w')
    await page.keyboard.press('w')
    const after = await until(picture, (now) => now !== before)
    expect(after).not.toBe(before)
  })
})

describe('the islands of a texture', () => {
  it('are outlined, what lies beside them is dimmed, and mip levels are stepped through', async () => {
    await page.goto(`${app.url}/p/${project}/assets/${ids.get('harbour_sinker_a')!}/colour`)
    await page.waitForSelector('canvas[data-ready]')
    await page.waitForSelector('[data-islands]')
    const plain = await until(picture, (p) => p.length > 0)
    await page.click('[data-islands]')
    const outlined = await until(picture, (now) => now !== plain)
    expect(new URL(page.url()).searchParams.get('islands')).toBe('yes')
    await slide('[data-mip]', '4')
    await until(picture, (now) => now !== outlined)
    expect(new URL(page.url()).searchParams.get('mip')).toBe('4')
  })
  it('are grown by the remedy that the finding offers', async () => {
    await page.waitForSelector('::-p-text(Grow islands by 4 texels)')
    await page.click('::-p-text(Grow islands by 4 texels)')
    const detail = await made('harbour_sinker_a', (d) => d.recipe.steps.length === 1)
    expect(detail.output!.findings.map((f) => f.rule)).not.toContain('colour/padding')
  })
})
