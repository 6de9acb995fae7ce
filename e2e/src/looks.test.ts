import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { demoAssets, makeAsset } from '@stern-gate/demo'
import { beginProject, dropOnto, layFiles, openApplication, type Application } from './testApplication'

let app: Application,
  page: Page,
  links: Record<string, string> = {}
const axe = createRequire(import.meta.url).resolve('axe-core/axe.min.js')

beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  await beginProject(page, app.url, 'Gullwick Harbour')
  const made = (
    await Promise.all(demoAssets.filter((a) => /lantern|winch/.test(a.name)).map(makeAsset))
  ).flat()
  const folder = await layFiles(join(app.folder, 'files'), [
    ...made,
    { path: 'gullwick/empty.png', bytes: new Uint8Array(0) },
  ])
  await dropOnto(page, [join(folder, 'gullwick')])
  await page.waitForFunction(() => document.querySelectorAll('[data-asset]').length === 2, {
    timeout: 60_000,
  })
  links = Object.fromEntries(
    await page.$$eval('[data-asset]', (lines) =>
      lines.map((l) => [l.querySelector('b')!.textContent!, l.getAttribute('href')!]),
    ),
  )
})
afterAll(() => app.stop())

interface Violation {
  id: string
  impact: string
  nodes: { html: string; failureSummary: string }[]
}

async function seriousFaults(): Promise<string[]> {
  await page.evaluate(await readFile(axe, 'utf8'))
  const violations = await page.evaluate(
    async () =>
      (
        await (
          globalThis as unknown as { axe: { run: () => Promise<{ violations: Violation[] }> } }
        ).axe.run()
      ).violations,
  )
  return violations
    .filter((v) => v.impact === 'serious' || v.impact === 'critical')
    .flatMap((v) => v.nodes.map((n) => `${v.id}: ${n.html.slice(0, 160)} ${n.failureSummary.slice(0, 200)}`))
}

describe.each(['day', 'night'])('by %s', (time) => {
  beforeAll(async () => {
    await page.evaluate((n) => localStorage.setItem('stern-gate-night', n), time === 'night' ? 'yes' : 'no')
  })

  it('Arrivals has nothing serious against it, and does not scroll sideways', async () => {
    await page.goto(`${app.url}/`)
    await page.waitForSelector('[data-asset]')
    await page.waitForSelector('.refused')
    expect(await page.evaluate(() => document.documentElement.classList.contains('night'))).toBe(
      time === 'night',
    )
    expect(await seriousFaults()).toEqual([])
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(1280)
  })
  it('Assets likewise', async () => {
    await page.goto(`${app.url}${Object.values(links)[0]!.replace(/\/[^/]*$/, '')}`)
    await page.waitForSelector('.facets button')
    await page.waitForSelector('[data-asset]')
    expect(await seriousFaults()).toEqual([])
    expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(1280)
  })
  it.each(['files', 'names', 'scale', 'mesh', 'slots', 'colour', 'compression', 'uvs', 'lods', 'collision'])(
    'the bench at %s likewise',
    async (station) => {
      await page.goto(
        `${app.url}${links[['colour', 'uvs', 'slots'].includes(station) ? 'harbour_lantern_a' : 'harbour_winch_a']}/${station}`,
      )
      await page.waitForSelector('.facts, .surface, .formats')
      if (!['files', 'names'].includes(station))
        await page.waitForSelector('canvas[data-ready]', { timeout: 60_000 })
      expect(await seriousFaults()).toEqual([])
      expect(await page.evaluate(() => document.documentElement.scrollWidth)).toBe(1280)
    },
  )
})

it('the texture desk shows texels as they are stored, and the stage keeps its least size', async () => {
  await page.goto(`${app.url}${links['harbour_lantern_a']}/colour`)
  await page.waitForSelector('canvas[data-ready]')
  const box = (await (await page.$('.host'))!.boundingBox())!
  expect(box.width).toBeGreaterThanOrEqual(560)
  expect(box.height).toBeGreaterThanOrEqual(480)
  await page.mouse.move(box.x + box.width / 2, box.y + box.height / 2)
  await page.waitForSelector('.read')
  const said = await page.$eval('.read', (e) => e.textContent!)
  const [, x, y, r, g, b] = /x (\d+) y (\d+) · (\d+) (\d+) (\d+)/.exec(said)!.map(Number)
  const { decode } = await import('fast-png')
  const { paint } = await import('../../demo/src/surface/paint')
  const plan = demoAssets.find((a) => a.name === 'harbour_lantern_a')!.surfaces['harbour_lantern_a']!
  const normal = decode(paint(plan.surface, plan.size, plan.options).normal)
  expect([r, g, b]).toEqual([
    ...normal.data.subarray((y! * plan.size + x!) * 3, (y! * plan.size + x!) * 3 + 3),
  ])
})

it('help lists the keys and goes away by Escape', async () => {
  await page.keyboard.press('?')
  await page.waitForSelector('[role="dialog"]')
  await page.keyboard.press('Escape')
  await page.waitForFunction(() => !document.querySelector('[role="dialog"]'))
})

it('the first load of the page stays under 400 KB packed, without 3D code', async () => {
  const { gzipSync } = await import('node:zlib')
  const fresh = await app.page()
  const names: string[] = [],
    sizes: Promise<number>[] = []
  fresh.on('response', (response) => {
    const path = new URL(response.url()).pathname
    if (!/\.(js|css|html)$|^\/$/.test(path)) return
    names.push(path)
    sizes.push(
      response.buffer().then(
        (b) => gzipSync(b).length,
        () => 0,
      ),
    )
  })
  await fresh.goto(`${app.url}/`, { waitUntil: 'networkidle2' })
  await fresh.waitForSelector('[data-asset]')
  const bytes = (await Promise.all(sizes)).reduce((sum, n) => sum + n, 0)
  expect(names.some((n) => n.includes('modelStage'))).toBe(false)
  expect(bytes).toBeGreaterThan(50_000)
  expect(bytes).toBeLessThan(400_000)
  await fresh.close()
})

it('nothing complained in the browser', () => expect(app.complaints).toEqual([]))
