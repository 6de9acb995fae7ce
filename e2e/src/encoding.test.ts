import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Encoding } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
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
  id = ''
const json = <T>(path: string): Promise<T> => jsonAt<T>(app, path)
beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  const project = await beginProject(page, app.url, 'Encoding')
  const files = await crateFiles({ textureSize: [128, 128] })
  await layFiles(
    join(app.folder, 'crate'),
    Object.entries(files).map(([path, bytes]) => ({ path, bytes })),
  )
  await dropOnto(page, [join(app.folder, 'crate', 'props')])
  for (let n = 0; n < 100 && id === ''; n++) {
    const [row] = await json<{ id: string; state: string }[]>(`/projects/${project}/assets`)
    if (row?.state === 'judged') id = row.id
    else await new Promise((resolve) => setTimeout(resolve, 200))
  }
  await page.goto(`${app.url}/p/${project}/assets/${id}/compression?texture=harbour_crate_a_basecolor.png`)
  await page.waitForSelector('canvas[data-ready]')
}, 120_000)
afterAll(() => app.stop())

const text = (selector: string): Promise<string> => page.$eval(selector, (e) => e.textContent!.trim())
const picture = (): Promise<string> =>
  page.$eval('canvas[data-ready]', (c) => (c as HTMLCanvasElement).toDataURL())

describe('the formats of a texture at Compression', () => {
  it('are encoded by a click, measured, and laid beside the source', async () => {
    const before = await picture()
    await page.click('[data-format="BC7"] button')
    await page.waitForSelector('[data-format="BC7"].on', { timeout: 30_000 })
    expect(await text('[data-format="BC7"]')).toMatch(
      /BC7\s*Desk\s*21\.9 KB\s*\d\d\.\d dB\s*(< 0\.1|\d\.\d) s/,
    )
    expect(await text('[data-details]')).toMatch(/8 levels.*Channel R.*Structure/s)
    expect(await text('.badge')).toBe('BC7')
    await page.waitForFunction((was) => document.querySelector('canvas')!.toDataURL() !== was, {}, before)
    const [made] = await json<Encoding[]>(`/assets/${id}/encodings`)
    expect(made!.facts.plan).toMatchObject({
      format: 'BC7',
      role: 'basecolor',
      container: 'ktx2',
      mips: true,
    })
    expect(await page.$eval('[data-details] a', (a) => a.getAttribute('href'))).toBe(made!.file)
  })
  it('show where they differ, and what DDS cannot take is not offered', async () => {
    await page.evaluate(() =>
      [...document.querySelectorAll('.tools button')]
        .find((b) => b.textContent.includes('Difference'))!
        .dispatchEvent(new MouseEvent('click', { bubbles: true })),
    )
    await page.waitForFunction(() => location.search.includes('channel=error'))
    await page.select('[data-container]', 'dds')
    expect(await page.$('[data-format="ASTC 4×4"] button:disabled')).not.toBeNull()
    await page.click('[data-encode-all]')
    await page.waitForFunction(
      () =>
        ['BC1', 'BC3', 'BC4', 'BC5', 'BC7'].every((f) =>
          /dB|exact/.test(document.querySelector(`[data-format="${f}"]`)!.textContent),
        ),
      { timeout: 30_000 },
    )
    // They are there again when one comes back
    await page.reload()
    await page.waitForSelector('[data-container]')
    await page.select('[data-container]', 'dds')
    await page.waitForFunction(() => /dB/.test(document.querySelector('[data-format="BC1"]')!.textContent))
  })
})
