import { mkdir, writeFile } from 'node:fs/promises'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, expect, it } from 'vitest'
import type { Delivery, Project } from '@stern-gate/contract'
import { crateFiles } from '@stern-gate/core/fixtures'
import { beginProject, dropOnto, openApplication, waitForText, type Application } from './testApplication'

let app: Application,
  page: Page,
  folder = ''
const SIZE = 40 * 1024 * 1024

beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  await beginProject(page, app.url, 'Gullwick Harbour')
  // A mesh with a tail of nothing: 40 MB that are refused at once when they have come
  folder = join(app.folder, 'large', 'yard')
  await mkdir(folder, { recursive: true })
  const bytes = new Uint8Array(SIZE)
  bytes.set(
    Object.entries(await crateFiles())
      .find(([path]) => path.endsWith('.glb'))![1]
      .subarray(0, 2000),
  )
  await writeFile(join(folder, 'harbour_anchor_a.glb'), bytes)
})
afterAll(() => app.stop())

const throttle = (): Promise<void> =>
  page.emulateNetworkConditions({ upload: 6 * 1024 * 1024, download: 50 * 1024 * 1024, latency: 5 })
const share = (): Promise<number> =>
  page.$eval('[role="progressbar"]', (e) => Number(e.getAttribute('aria-valuenow'))).catch(() => 0)
const sentSome = async (): Promise<void> =>
  void (await expect.poll(share, { timeout: 30_000, interval: 100 }).toBeGreaterThan(25))
async function deliveries(): Promise<Delivery[]> {
  const [project] = (await (await fetch(`${app.url}/api/projects`)).json()) as Project[]
  return (await (await fetch(`${app.url}/api/projects/${project!.id}/deliveries`)).json()) as Delivery[]
}

it('a large file whose page was closed goes on in the same delivery when it is brought again', async () => {
  await throttle()
  await dropOnto(page, [folder])
  await sentSome()
  await page.reload()
  await waitForText(page, '.unsent', 'was not sent to its end')
  await page.emulateNetworkConditions(null)
  let sent = 0
  page.on('request', (request) => {
    if (request.method() === 'PATCH') sent++
  })
  await dropOnto(page, [folder])
  await waitForText(page, '.refused', 'harbour_anchor_a.glb')
  // Five pieces in all; at least the first was there already
  expect(sent).toBeLessThan(5)
  expect((await deliveries()).map((d) => [d.number, d.state, d.files])).toEqual([[1, 'done', 1]])
})

it('a lost connection is waited for', async () => {
  await throttle()
  await dropOnto(page, [folder])
  await sentSome()
  await page.setOfflineMode(true)
  await new Promise((resolve) => setTimeout(resolve, 1500))
  await page.setOfflineMode(false)
  await page.emulateNetworkConditions(null)
  await expect
    .poll(async () => (await deliveries()).map((d) => d.state), { timeout: 60_000 })
    .toEqual(['done', 'done'])
})
