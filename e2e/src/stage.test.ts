import { join } from 'node:path'
import type { HTTPRequest, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { crateFiles } from '@stern-gate/core/fixtures'
import { beginProject, dropOnto, layFiles, openApplication, type Application } from './testApplication'

declare global {
  interface Window {
    /** WebGL contexts that were made, and whether the facts stood on the page when the first one was. */
    contexts: { made: number; factsBefore: boolean | null }
  }
}

let app: Application, page: Page, assets: string
beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  await page.evaluateOnNewDocument(() => {
    window.contexts = { made: 0, factsBefore: null }
    const own = HTMLCanvasElement.prototype.getContext as (...a: unknown[]) => unknown,
      known = new WeakSet<HTMLCanvasElement>()
    HTMLCanvasElement.prototype.getContext = function (this: HTMLCanvasElement, ...a: unknown[]) {
      if (/webgl/.test(String(a[0])) && !known.has(this)) {
        known.add(this)
        window.contexts.made++
        window.contexts.factsBefore ??= document.querySelector('.facts dl') !== null
      }
      // The drawn picture is kept, so that it can be read at any moment and not only while it is drawn
      if (/webgl/.test(String(a[0]))) a[1] = { ...(a[1] as object), preserveDrawingBuffer: true }
      return own.apply(this, a)
    } as typeof HTMLCanvasElement.prototype.getContext
  })
  await beginProject(page, app.url, 'Gullwick Harbour')
  const files = Object.entries(await crateFiles({ grid: 12, size: 100, textureSize: [256, 256] })).map(
    ([path, bytes]) => ({ path, bytes }),
  )
  const folder = await layFiles(join(app.folder, 'props'), files)
  await dropOnto(page, [join(folder, 'props')])
  await page.waitForFunction(
    () => /Held|Clear/.test(document.querySelector('[data-asset]')?.textContent ?? ''),
    {
      timeout: 60_000,
    },
  )
  assets = page.url().replace(/arrivals.*/, 'assets')
  await page.goto(assets)
})
afterAll(() => app.stop())

/** Waits for an element and lets go of it: a handle would keep what was taken off the page. */
const appear = async (selector: string): Promise<void> => {
  await (await page.waitForSelector(selector, { timeout: 60_000 }))?.dispose()
}
const open = async (): Promise<void> => {
  await appear('[data-asset]')
  await page.$eval('[data-asset]', (line) => (line as HTMLElement).click())
  await appear('canvas[data-ready]')
}
const leave = async (): Promise<void> => {
  await page.evaluate(() => history.back())
  await appear('.facets')
}

describe('the stage', () => {
  it('begins once findings and facts stand on the page', async () => {
    await open()
    expect(await page.evaluate(() => window.contexts.factsBefore)).toBe(true)
    await leave()
  })
  it('is one for the life of the page: opening the bench time and again leaves contexts and memory level', async () => {
    const session = await page.createCDPSession()
    const heap = async (): Promise<number> => {
      // What the last picture held is let go of a moment later
      const found: number[] = []
      for (let i = 0; i < 4; i++) {
        await new Promise((resolve) => setTimeout(resolve, 400))
        await session.send('HeapProfiler.collectGarbage')
        found.push((await page.metrics()).JSHeapUsedSize! / 1e6)
      }
      return Math.min(...found)
    }
    for (let i = 0; i < 10; i++) {
      await open()
      await leave()
    }
    const before = await heap()
    for (let i = 0; i < 40; i++) {
      await open()
      await leave()
    }
    const after = await heap()
    expect(await page.evaluate(() => window.contexts.made)).toBe(1)
    expect(after - before).toBeLessThan(Math.max(4, before * 0.15))
  })
  it('draws again when the browser took its context away and gave it back', async () => {
    await open()
    const colours = (): Promise<number> =>
      page.$eval('canvas[data-ready]', (canvas) => {
        const copy = document.createElement('canvas')
        copy.width = copy.height = 64
        const pen = copy.getContext('2d')!
        pen.drawImage(canvas as HTMLCanvasElement, 0, 0, 64, 64)
        const { data } = pen.getImageData(0, 0, 64, 64)
        const seen = new Set<number>()
        for (let i = 0; i < data.length; i += 4)
          if (data[i + 3]! > 0) seen.add((data[i]! << 16) | (data[i + 1]! << 8) | data[i + 2]!)
        return seen.size
      })
    await page.waitForFunction(() => document.querySelector('canvas[data-ready]'))
    await expect.poll(colours, { timeout: 60_000 }).toBeGreaterThan(20)
    await page.$eval('canvas[data-ready]', async (canvas) => {
      const gl = (canvas as HTMLCanvasElement).getContext('webgl2')!,
        lose = gl.getExtension('WEBGL_lose_context')!
      lose.loseContext()
      await new Promise((resolve) => canvas.addEventListener('webglcontextlost', resolve, { once: true }))
      await new Promise((resolve) => setTimeout(resolve))
      lose.restoreContext()
    })
    await expect.poll(colours, { timeout: 60_000 }).toBeGreaterThan(20)
    app.complaints.length = 0
  })
  it('says why it shows nothing, and tries again when it is asked to', async () => {
    await page.goto(assets)
    await page.setRequestInterception(true)
    let broken = 0
    const refuse = (request: HTTPRequest): void => {
      if (!/\/model/.test(request.url()) || broken > 0) return void request.continue()
      broken++
      void request.abort('failed')
    }
    page.on('request', refuse)
    await appear('[data-asset]')
    await page.$eval('[data-asset]', (line) => (line as HTMLElement).click())
    await appear('.trouble .again')
    page.off('request', refuse)
    await page.setRequestInterception(false)
    await page.$eval('.trouble .again', (button) => (button as HTMLElement).click())
    await page.waitForFunction(() => !document.querySelector('.trouble'), { timeout: 30_000 })
    expect(broken).toBe(1)
    app.complaints.length = 0
  })
})
