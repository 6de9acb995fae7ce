import { readFile, readdir } from 'node:fs/promises'
import { join } from 'node:path'
import { setTimeout as sleep } from 'node:timers/promises'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { demoAssets, makeAsset } from '@stern-gate/demo'
import { judge } from '@stern-gate/core'
import { subjectsOf } from '@stern-gate/core/fixtures'
import {
  beginProject,
  dropOnto,
  layFiles,
  openApplication,
  press,
  waitForText,
  type Application,
} from './testApplication'

let app: Application,
  page: Page,
  files = ''
const plan = (name: string) => demoAssets.find((a) => a.name === name)!

beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  const made = [
    ...(await makeAsset(plan('harbour_lantern_a'))),
    ...(await makeAsset(plan('harbour_skiff_a'))),
  ]
  files = await layFiles(join(app.folder, 'files'), [
    ...made,
    { path: 'gullwick/props/harbour_broken_a.glb', bytes: made[0]!.bytes.slice(0, 5000) },
  ])
})
afterAll(() => app.stop())

const station = (name: string): Promise<string | null> =>
  page.$eval(`[data-station="${name}"]`, (e) => e.getAttribute('data-state'))

describe('from drop to verdict to mended file', () => {
  it('the first page asks for a name, the next one for files', async () => {
    await beginProject(page, app.url, 'Gullwick Harbour')
    await waitForText(page, 'h1', 'Gullwick Harbour')
    expect(await page.$eval('.empty', (e) => e.textContent)).toContain('Drop meshes and textures here')
  })

  it('a dropped folder is measured with progress; what is broken is refused, the rest is judged', async () => {
    const seen = page.waitForSelector('[role="progressbar"]', { timeout: 30_000 })
    await dropOnto(page, [join(files, 'gullwick')])
    expect(await (await seen)!.evaluate((e) => e.getAttribute('aria-label'))).toContain('Delivery 1')
    await page.waitForFunction(() => document.querySelectorAll('[data-asset]').length === 2, {
      timeout: 60_000,
    })
    await waitForText(page, '.refused', 'gltf/truncated')
    expect(
      await page.$$eval('[data-asset]', (lines) => lines.map((l) => l.textContent!.replace(/\s+/g, ' '))),
    ).toEqual(
      expect.arrayContaining([expect.stringContaining('harbour_lantern_a'), expect.stringContaining('Held')]),
    )
  })

  it('finding by name, by the keyboard', async () => {
    await page.keyboard.press('/')
    await page.keyboard.type('lantern')
    await page.waitForFunction(() => document.querySelectorAll('[data-asset]').length === 1)
    expect(page.url()).toContain('find=lantern')
    await page.keyboard.press('Escape')
    await page.keyboard.press('ArrowDown')
    await page.keyboard.press('Enter')
    await page.waitForSelector('.rail')
  })

  it('opens where the findings are, figures go to stations, and N goes to the next finding', async () => {
    await waitForText(page, '.findings h2', 'Files: 3 findings')
    await page.keyboard.press('6')
    await waitForText(page, '.findings h2', 'Colour: 2 findings')
    await page.keyboard.press('n')
    await page.waitForSelector('.find.chosen')
    expect(page.url()).toMatch(/finding=/)
    expect(await page.$eval('.find.chosen', (e) => e.getAttribute('data-rule'))).toBe('colour/normal-green')
  })

  it('pointing at a remedy previews it and changes nothing', async () => {
    await page.waitForSelector('canvas[data-ready]')
    await page.hover('.find.chosen .btn.go')
    await waitForText(page, '.badge', 'preview')
    await page.waitForSelector('.handle')
    await page.mouse.move(640, 500)
    await page.waitForFunction(() => !document.querySelector('.badge')?.textContent?.includes('preview'))
    expect(await page.$$('.step')).toHaveLength(0)
  })

  it('applying the remedies turns the station clear', async () => {
    await press(page, '[data-rule="colour/normal-green"] .btn.go')
    await page.waitForFunction(() => document.querySelectorAll('.find').length === 1, { timeout: 30_000 })
    await press(page, '[data-rule="colour/space"] .btn.go')
    await page.waitForFunction(
      () => document.querySelector('[data-station="colour"]')?.getAttribute('data-state') === 'clear',
      { timeout: 30_000 },
    )
    await waitForText(page, '[data-verdict]', 'Clear')
    expect(await page.$$('.step')).toHaveLength(2)
  })

  it('still so after a reload, at the same address', async () => {
    const address = page.url()
    await page.reload()
    await page.waitForSelector('.rail')
    expect(page.url()).toBe(address)
    expect(await station('colour')).toBe('clear')
    expect(await page.$$('.step')).toHaveLength(2)
  })

  it('source and output stand against each other; a step can be switched off and undone', async () => {
    await page.keyboard.press('b')
    await page.waitForFunction(
      () => document.querySelector('[data-station="colour"]')?.getAttribute('data-state') === 'stop',
    )
    await page.keyboard.press('b')
    await page.waitForFunction(
      () => document.querySelector('[data-station="colour"]')?.getAttribute('data-state') === 'clear',
    )
    await press(page, '.step .sw')
    await page.waitForFunction(
      () => document.querySelector('[data-station="colour"]')?.getAttribute('data-state') === 'stop',
      { timeout: 30_000 },
    )
    await page.keyboard.down('Control')
    await page.keyboard.press('z')
    await page.keyboard.up('Control')
    await page.waitForFunction(
      () => document.querySelector('[data-station="colour"]')?.getAttribute('data-state') === 'clear',
      { timeout: 30_000 },
    )
  })

  it('the downloaded output reads with the fault gone', async () => {
    const session = await page.createCDPSession()
    const target = join(app.folder, 'taken')
    await session.send('Browser.setDownloadBehavior', { behavior: 'allow', downloadPath: target })
    await press(page, 'header a[download]')
    let names: string[] = []
    for (let i = 0; i < 100 && !names.some((n) => n.endsWith('.glb')); i++) {
      await sleep(100)
      names = await readdir(target).catch(() => [])
    }
    const bytes = new Uint8Array(await readFile(join(target, 'harbour_lantern_a.glb')))
    const [subject] = await subjectsOf({ 'gullwick/props/harbour_lantern_a.glb': bytes })
    expect(judge(subject!).findings.map((f) => f.rule)).toEqual([
      'files/embedded-texture',
      'files/embedded-texture',
      'files/embedded-texture',
    ])
    expect(subject!.textures.find((t) => t.role === 'normal')!.facts!.normal!.green.direction).toBe('up')
    expect(subject!.textures.find((t) => t.role === 'orm')!.facts!.header.colourSpace).toBe('linear')
  })

  it('in Arrivals the lantern is clear now, the skiff is held', async () => {
    await page.keyboard.press('Escape')
    await page.waitForSelector('[data-asset]')
    await page.waitForFunction(() =>
      [...document.querySelectorAll('[data-asset]')].some(
        (l) => l.textContent!.includes('lantern') && l.textContent!.includes('Clear'),
      ),
    )
    const held = await page.$$eval('[data-asset]', (lines) =>
      lines.filter((l) => l.textContent!.includes('Held')).map((l) => l.querySelector('b')!.textContent),
    )
    expect(held).toEqual(['harbour_skiff_a'])
  })

  it('scaling the skiff is seen in the stage with its true length', async () => {
    const to = await page.$$eval('[data-asset]', (lines) =>
      lines.find((l) => l.textContent!.includes('skiff'))!.getAttribute('href'),
    )
    await page.goto(`${app.url}${to}/scale`)
    await page.waitForSelector('canvas[data-ready]', { timeout: 60_000 })
    await waitForText(page, '.label', '426 m')
    await press(page, '[data-rule="scale/expected-size"] .btn.go')
    await waitForText(page, '.label', '4.26 m')
    await page.waitForSelector('[data-rule="scale/axes"] .btn.go:not([disabled])')
    await press(page, '[data-rule="scale/axes"] .btn.go')
    await page.waitForFunction(
      () => document.querySelector('[data-station="scale"]')?.getAttribute('data-state') === 'clear',
      { timeout: 30_000 },
    )
    expect(await station('scale')).toBe('clear')
  })

  it('before and after stand on one stage, with a divider that keys and the hand move', async () => {
    const columns = (): Promise<string> => page.$eval('canvas', (c) => (c as HTMLCanvasElement).toDataURL())
    const whole = await columns()
    await page.keyboard.press('d')
    await page.waitForSelector('.handle')
    await page.waitForFunction(
      (before) => document.querySelector('canvas')!.toDataURL() !== before,
      { timeout: 30_000 },
      whole,
    )
    expect(page.url()).toContain('divider=yes')
    await page.waitForFunction(() => document.querySelector('.hud.word')?.textContent === 'source')
    const halves = await columns()
    await page.focus('.handle')
    await page.keyboard.press('ArrowRight')
    await page.waitForFunction(
      (before) => document.querySelector('canvas')!.toDataURL() !== before,
      { timeout: 10_000 },
      halves,
    )
    expect(await page.$eval('.handle', (h) => h.getAttribute('aria-valuenow'))).toBe('52')
    await page.keyboard.press('d')
    await page.waitForFunction(() => !document.querySelector('.handle'))
  })

  it('another asset and a person of another height stand beside the model', async () => {
    const canvas = (): Promise<string> => page.$eval('canvas', (c) => (c as HTMLCanvasElement).toDataURL())
    const changed = (before: string): Promise<unknown> =>
      page.waitForFunction(
        (old) => document.querySelector('canvas')!.toDataURL() !== old,
        { timeout: 30_000 },
        before,
      )
    const alone = await canvas()
    await page.focus('[data-field="beside"]')
    await page.waitForSelector('#beside option[value="harbour_lantern_a"]')
    await page.keyboard.type('harbour_lantern_a')
    await page.waitForFunction(() => location.search.includes('beside='))
    await changed(alone)
    const aside = await canvas()
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLElement>('.bar button')]
        .find((b) => b.textContent === 'Same origin')!
        .click(),
    )
    await changed(aside)
    await press(page, '[data-measure-clearance]')
    // Both stand on their origin: one reaches into the other
    await page.waitForFunction(
      () =>
        /goes in by [\d.]+ (mm|cm|m), [\d.]+ % of its vertices|touches or crosses it/.test(
          document.querySelector('[data-clearance]')?.textContent ?? '',
        ),
      { timeout: 30_000 },
    )
    await press(page, '[data-field="person"]', { count: 3 })
    await page.keyboard.type('1.2')
    await page.keyboard.press('Enter')
    await waitForText(page, '.label', '1.2 m')
    await press(page, '[data-field="beside"]', { count: 3 })
    await page.keyboard.press('Backspace')
    await page.waitForFunction(() => !location.search.includes('beside='))
    await page.evaluate(() => (document.activeElement as HTMLElement).blur())
  })

  it('figures and brackets go to stations, and every station shows something', async () => {
    for (const [key, name] of [
      ['1', 'files'],
      ['2', 'names'],
      ['4', 'mesh'],
      ['5', 'slots'],
      ['7', 'compression'],
      ['8', 'uvs'],
      ['9', 'lods'],
      ['0', 'collision'],
    ] as const) {
      await page.keyboard.press(key)
      await page.waitForFunction((s) => location.pathname.endsWith(`/${s}`), {}, name)
      // Two stations have something to do beside the stage; their facts stand behind a tab
      await page.waitForSelector('.facts dl, [data-tab="facts"]')
      const tab = await page.$('[data-tab="facts"]')
      await tab?.click()
      await page.waitForSelector('.facts dl')
    }
    const last = await page.$$eval(
      '[data-station]',
      (all) =>
        all
          .filter((s) => s.getAttribute('data-state') !== 'clear')
          .map((s) => s.getAttribute('data-station')!)
          .filter((s) => s !== 'collision')
          .at(-1) ?? 'collision',
    )
    await page.keyboard.press('[')
    await page.waitForFunction((s) => location.pathname.endsWith(`/${s}`), {}, last)
  })

  it('any name of the project is found from the bench, and leads to where it is seen', async () => {
    await page.keyboard.press('/')
    await page.waitForSelector('[role="combobox"]')
    await page.keyboard.type('NORMAL')
    await page.waitForFunction(() => document.querySelectorAll('[data-found="texture"]').length > 1)
    await page.keyboard.press('ArrowDown')
    const wanted = await page.$eval('[aria-selected="true"] .name', (e) => e.textContent!)
    await page.keyboard.press('Enter')
    await page.waitForFunction(
      (name) =>
        location.pathname.endsWith('/colour') && new URLSearchParams(location.search).get('texture') === name,
      {},
      wanted,
    )
    await page.waitForSelector('canvas[data-ready]', { timeout: 60_000 })
    expect(await page.$('[role="combobox"]')).toBeNull()
  })

  it('nothing complained in the browser', () => expect(app.complaints).toEqual([]))
})
