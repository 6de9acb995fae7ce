import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { demoAssets, makeAsset } from '@stern-gate/demo'
import {
  type Application,
  beginProject,
  dropOnto,
  jsonAt,
  layFiles,
  openApplication,
  until,
} from './testApplication'

export interface DemoProject {
  app: Application
  page: Page
  project: string
  /** Ids of the assets, in the order of the names that were asked for. */
  ids: string[]
}

/** An application with a new project, into which assets of the demo were dropped by their names, all judged. */
export async function openDemoProject(title: string, names: readonly string[]): Promise<DemoProject> {
  const app = await openApplication(),
    page = await app.page()
  const project = await beginProject(page, app.url, title),
    folder = join(app.folder, 'brought')
  for (const name of names)
    await layFiles(folder, await makeAsset(demoAssets.find((a) => a.name.includes(name))!))
  await dropOnto(page, [join(folder, 'gullwick')])
  const rows = await until(
    () => jsonAt<{ id: string; name: string; state: string }[]>(app, `/projects/${project}/assets`),
    (all) => all.length === names.length && all.every((a) => a.state === 'judged'),
  )
  return { app, page, project, ids: names.map((name) => rows.find((r) => r.name.includes(name))!.id) }
}

/** Opens an asset's station Slots at one of its slots, and waits for its picture. */
export async function openSlot(
  { app, page, project }: DemoProject,
  { id, slot }: { id: string; slot: string },
): Promise<void> {
  await page.goto(`${app.url}/p/${project}/assets/${id}/slots?row=${slot}&view=shaded`)
  await page.waitForSelector('canvas[data-ready]')
  await page.waitForFunction(() => !document.querySelector('.trouble'))
}
