import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { unzipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { crateFiles } from '@stern-gate/core/fixtures'
import {
  beginProject,
  dropOnto,
  layFiles,
  openApplication,
  press,
  waitForText,
  type Application,
} from './testApplication'

let app: Application, page: Page
beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  await beginProject(page, app.url, 'Gullwick Harbour')
  const files = (
    await Promise.all(
      (['a', 'b', 'c'] as const).map((v) =>
        crateFiles({
          name: `harbour_crate_${v}`,
          textureName: `harbour_crate_${v}`,
          textureSize: [512, 512],
          ...(v === 'c' ? { green: 'down' as const } : {}),
        }),
      ),
    )
  ).flatMap((f) => Object.entries(f).map(([path, bytes]) => ({ path, bytes })))
  const folder = await layFiles(join(app.folder, 'props'), files)
  await dropOnto(page, [join(folder, 'props')])
  await page.waitForFunction(
    () => /Clear[\s\S]*Clear/.test(document.body.innerText) && document.body.innerText.includes('Held'),
    { timeout: 60_000 },
  )
})
afterAll(() => app.stop())

describe('dispatch', () => {
  it('says what would stay, packs what is clear, and offers the package', async () => {
    await press(page, '.mast a[href$="/dispatch"]')
    await waitForText(page, '.choice .go', 'Pack 2 assets')
    await waitForText(page, '.left .line', 'Green points down')
    await page.type('input[aria-label="Note"]', 'first')
    await press(page, '.choice .go')
    await waitForText(page, '[data-dispatch="1"]', '2 assets, 8 files; 1 stayed')
    await waitForText(page, '.contents', 'desk/meshes/harbour_crate_a')
    const bytes = await page.$eval('a[download]', async (a) => [
      ...new Uint8Array(await (await fetch((a as HTMLAnchorElement).href)).arrayBuffer()),
    ])
    expect(Object.keys(unzipSync(Uint8Array.from(bytes)))).toHaveLength(9)
  })
  it('takes only what was chosen in Assets, and remembers it for this package alone', async () => {
    await press(page, '.mast a[href$="/assets"]')
    await page.waitForSelector('[data-asset]')
    await press(page, '[aria-label="Choose harbour_crate_a"]')
    await page.waitForFunction(() => document.querySelector('.bulk')?.textContent?.includes('Dispatch these'))
    await page.evaluate(() =>
      [...document.querySelectorAll<HTMLButtonElement>('.bulk .btn')]
        .find((b) => b.textContent!.includes('Dispatch these'))!
        .click(),
    )
    await waitForText(page, '.of', 'Made of 1 asset that was chosen')
    await waitForText(page, '.choice .go', 'Pack 1 asset')
    await press(page, '.of .btn')
    await waitForText(page, '.choice .go', 'Pack 2 assets')
  })
  it('shows nothing that it complains about', () => {
    expect(app.complaints).toEqual([])
  })
})
