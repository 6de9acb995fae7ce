import { join } from 'node:path'
import type { ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { openDemoProject } from './demoProject'
import { type Application, jsonAt, layFiles, madeAsset, press, until } from './testApplication'

let app: Application,
  page: Page,
  id = '',
  project = ''
const json = <T>(path: string): Promise<T> => jsonAt<T>(app, path)
const text = (selector: string): Promise<string> =>
  page.$eval(selector, (e) => e.textContent.replace(/\s+/g, ' ').trim())

beforeAll(async () => {
  const opened = await openDemoProject('Levels', ['bollard'])
  ;({ app, page, project } = opened)
  id = opened.ids[0]!
}, 120_000)
afterAll(() => app.stop())

describe('levels at the bench', () => {
  it('stand in a row, each with its triangles and its distances, smaller the later they come', async () => {
    await page.goto(`${app.url}/p/${project}/assets/${id}/lods`)
    await page.waitForSelector('.pane canvas[data-ready]')
    const columns = await page.$$eval('[data-column]', (all) =>
      all.map((e) => e.textContent.replace(/\s+/g, ' ')),
    )
    expect(columns).toHaveLength(3)
    expect(columns[0]).toMatch(/LOD 0.*4 016/)
    // Something is drawn over each of them, and less of it the further it is
    const drawn = await page.$eval('.pane canvas', (canvas) => {
      const own = canvas as HTMLCanvasElement,
        copy = document.createElement('canvas')
      copy.width = own.width
      copy.height = own.height
      const context = copy.getContext('2d')!
      context.drawImage(own, 0, 0)
      const { data } = context.getImageData(0, 0, copy.width, copy.height)
      const box = own.getBoundingClientRect()
      return [...document.querySelectorAll('[data-column]')].map((e) => {
        const { left, right } = e.getBoundingClientRect()
        const [from, to] = [left - box.left, right - box.left].map((v) =>
          Math.round((Math.max(0, v) / box.width) * copy.width),
        ) as [number, number]
        let count = 0
        for (let y = 0; y < copy.height; y++)
          for (let x = from; x < to; x++) {
            const k = (y * copy.width + x) * 4
            if (
              Math.abs(data[k]! - 0x77) + Math.abs(data[k + 1]! - 0x77) + Math.abs(data[k + 2]! - 0x77) >
              24
            )
              count++
          }
        return count
      })
    })
    expect(drawn[0]!).toBeGreaterThan(drawn[1]! * 1.5)
    expect(drawn[1]!).toBeGreaterThan(drawn[2]! * 1.5)
    expect(drawn[2]!).toBeGreaterThan(0)
  })
  it('are compared where they are switched: some pixels differ, of fewer the further away', async () => {
    const share = async (): Promise<number> => {
      const [, differing, drawn] = /([\d ]+) of ([\d ]+) pixels/.exec(await text('[data-differing]'))!
      return Number(differing!.replace(/\D/g, '')) / Number(drawn!.replace(/\D/g, ''))
    }
    await page.click('[data-pin="1"]')
    await page.waitForSelector('[data-differing]')
    const near = await share()
    expect(near).toBeGreaterThan(0)
    expect(near).toBeLessThan(0.3)
    const drawn = async (): Promise<number> =>
      Number(/of ([\d ]+) pixels/.exec(await text('[data-differing]'))![1]!.replace(/\D/g, ''))
    const before = await drawn()
    await page.$eval('[data-pin="1"]', (pin) => (pin as SVGElement).focus())
    for (let n = 0; n < 20; n++) await page.keyboard.press('ArrowRight')
    // 1.05 to the twentieth is 2.65 times as far, and the square of it fewer pixels
    const after = await until(drawn, (n) => n < before / 5)
    expect(before / after).toBeLessThan(10)
  })
  it('are switched where a pin was put, written as a step that the output carries', async () => {
    await page.$eval('[data-pin="0"]', (pin) => (pin as SVGElement).focus())
    for (let n = 0; n < 5; n++) await page.keyboard.press('ArrowRight')
    await page.waitForSelector('[data-write-switches]:not([disabled])')
    await page.click('[data-write-switches]')
    const detail = await until(
      () => json<AssetDetail>(`/assets/${id}`),
      (d) => d.state === 'judged' && !d.making && d.output !== null,
    )
    const [step] = detail.recipe.steps
    expect(step!.remedy).toBe('lods/set-switches')
    const coverages = step!.options['coverages'] as number[]
    expect(coverages).toHaveLength(3)
    expect([...coverages].sort((a, b) => b - a)).toEqual(coverages)
    expect(detail.output!.mesh!.chain!.coverages).toEqual(coverages)
    expect(detail.output!.findings.filter((f) => f.station === 'lods')).toEqual([])
  })
  it('a step may have a list of numbers, which grows, shrinks and adds nothing by itself', async () => {
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
    await page.keyboard.press('a')
    await page.waitForSelector('.picker input')
    await page.type('.picker input', 'make levels')
    await press(page, '[data-remedy="lods/make"]')
    const values = (): Promise<string[]> =>
      page.$$eval('[data-field="metres"] input', (inputs) => inputs.map((i) => i.value))
    for (const wanted of [1, 2]) {
      await press(page, '[data-add-number]')
      await page.waitForFunction(
        (n) => document.querySelectorAll('[data-field="metres"] input').length === n,
        {},
        wanted,
      )
    }
    expect(await values()).toEqual(['0.01', '0.01'])
    await press(page, '[data-field="metres"] input', { count: 3 })
    await page.keyboard.type('0.002')
    await page.keyboard.press('Tab')
    await page.waitForFunction(
      () => document.querySelector<HTMLInputElement>('[data-field="metres"] input')!.value === '0.002',
    )
    await page.$$eval('[data-field="metres"] .out', (buttons) => (buttons.at(-1) as HTMLElement).click())
    await page.waitForFunction(() => document.querySelectorAll('[data-field="metres"] input').length === 1)
    expect(await values()).toEqual(['0.002'])
    expect(await page.$$eval('.step .word', (words) => words.map((w) => w.textContent))).not.toContain(
      'Levels within 0.002 m',
    )
    await press(page, '.picker h2 .btn')
    await page.waitForSelector('.findings')
  })
})

describe('a level that comes as a file of another name', () => {
  it('is given to the asset by hand, and makes its next version', async () => {
    const files = await crateFiles({ grid: 2, hull: false, inputs: [] }),
      [mesh] = Object.entries(files).find(([path]) => path.endsWith('.glb'))!
    const folder = await layFiles(join(app.folder, 'given'), [
      { path: 'bollard from far (2).glb', bytes: files[mesh]! },
    ])
    await page.goto(`${app.url}/p/${project}/assets/${id}/files`)
    await page.waitForSelector('[data-give-as]')
    await page.select('[data-give-as]', 'lod3')
    const input = (await page.$('[data-give-file]')) as ElementHandle<HTMLInputElement>
    await input.uploadFile(join(folder, 'bollard from far (2).glb'))
    const detail = await madeAsset(app, id, (d) => d.version === 2)
    expect(detail.source.levels.map((l) => l.level)).toEqual([0, 1, 2, 3])
    expect(detail.source.files.map((f) => f.path)).toContain(
      detail.source.files.find((f) => f.part === 'mesh')!.path.replace('.glb', '_lod3.glb'),
    )
  })
})

describe('collision at the bench', () => {
  it('is tried by balls, which rest where the surface is within the stated gap', async () => {
    await page.goto(`${app.url}/p/${project}/assets/${id}/collision`)
    await page.waitForSelector('[data-drop]:not([disabled])')
    await page.click('[data-drop]')
    await page.waitForSelector('[data-dropped]', { timeout: 60_000 })
    const counts = (await text('[data-dropped]')).match(/\d+(?= (?:rest|float|sunk|on))/g)!.map(Number)
    expect(counts.reduce((a, b) => a + b, 0)).toBe(49)
    // Its head is round and its hull is not: most rest, or roll off
    expect(counts[0]! + counts[3]!).toBeGreaterThan(20)
    expect(counts[0]!).toBeGreaterThan(5)
  })
})
