import type { AssetDetail } from '@stern-gate/contract'
import { fork, type ChildProcess } from 'node:child_process'
import { randomUUID } from 'node:crypto'
import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { launch, type Browser, type Page } from 'puppeteer-core'
import { inject } from 'vitest'
import type { DemoFile } from '@stern-gate/demo'
import '../../tools/testing/context'
import { chromiumFlags } from '../../tools/chromiumFlags.mjs'
import { chromiumPath } from '../../tools/debian.mjs'

export interface Application {
  url: string
  folder: string
  browser: Browser
  page: () => Promise<Page>
  complaints: string[]
  stop: () => Promise<void>
}

/** The built application in a process of its own, on a fresh database, and a browser to look at it. */
export async function openApplication(): Promise<Application> {
  const folder = await mkdtemp(join(tmpdir(), 'stern-browser-'))
  const { child, url } = await startServer(folder)
  const browser = await launch({
    executablePath: chromiumPath()!,
    args: chromiumFlags,
    defaultViewport: { width: 1280, height: 800 },
    protocolTimeout: 120_000,
  })
  const complaints: string[] = []
  return {
    url,
    folder,
    browser,
    complaints,
    async page() {
      const page = await browser.newPage()
      page.on('pageerror', (error) => complaints.push(String(error)))
      page.on('console', (message) => {
        if (message.type() === 'error') complaints.push(message.text())
      })
      return page
    },
    async stop() {
      await browser.close()
      child.kill('SIGTERM')
      await new Promise((resolve) => child.once('exit', resolve))
      await rm(folder, { recursive: true, force: true })
    },
  }
}

async function startServer(folder: string): Promise<{ child: ChildProcess; url: string }> {
  // The run's PostgreSQL is shared; each application has a database of its own
  const { default: pg } = await import('pg')
  const admin = new pg.Client({ connectionString: inject('databaseUrl') })
  await admin.connect()
  const name = `b_${randomUUID().replaceAll('-', '')}`
  await admin.query(`create database ${name}`)
  await admin.end()
  // No more threads than cores: what is looked at is the page, which runs beside them here
  const env = {
    ...process.env,
    STERN_DATABASE_URL: inject('databaseUrl').replace(/\/[^/]*$/, `/${name}`),
    STERN_DATA: join(folder, 'data'),
    STERN_PORT: '0',
    STERN_LOG: 'error',
    STERN_THREADS: '2',
  }
  const child = fork(join(import.meta.dirname, '../../dist/server.js'), {
    env,
    stdio: ['ignore', 'ignore', 'inherit', 'ipc'],
  })
  const url = await new Promise<string>((resolve, reject) => {
    child.on('message', (message) => resolve((message as { ready: string }).ready))
    child.once('exit', (code) => reject(new Error(`the server ended with ${code}`)))
  })
  return { child, url }
}

/** Lays files on disk, to be dropped. */
export async function layFiles(folder: string, files: readonly DemoFile[]): Promise<string> {
  for (const { path, bytes } of files) {
    await mkdir(dirname(join(folder, path)), { recursive: true })
    await writeFile(join(folder, path), bytes)
  }
  return folder
}

/** Drops files or folders from the desktop onto the page, as a hand would. */
export async function dropOnto(page: Page, paths: string[], at = { x: 640, y: 420 }): Promise<void> {
  const session = await page.createCDPSession()
  const data = { items: [], files: paths, dragOperationsMask: 1 }
  for (const type of ['dragEnter', 'dragOver', 'drop'] as const)
    await session.send('Input.dispatchDragEvent', { type, ...at, data })
  await session.detach()
}

/**
 * Clicks like a hand that waits until what it aims at stands still: lines that come and go above it move it.
 */
export const press = (page: Page, selector: string, options: { count?: number } = {}): Promise<void> =>
  page.locator(selector).setTimeout(60_000).click(options)

/** Makes a project by the first page and gives its id. */
export async function beginProject(page: Page, url: string, name: string): Promise<string> {
  await page.goto(`${url}/?new=1`)
  await page.waitForSelector('#project-name')
  await page.type('#project-name', name)
  await press(page, 'form .btn.go')
  await page.waitForSelector('.empty')
  return /\/p\/([^/]+)/.exec(page.url())![1]!
}

export const waitForText = (page: Page, selector: string, text: string): Promise<unknown> =>
  page.waitForFunction(
    (s, t) => [...document.querySelectorAll(s)].some((e) => e.textContent!.includes(t)),
    { timeout: 60_000 },
    selector,
    text,
  )

/** What the API answers at a path. */
export const jsonAt = async <T>({ url }: Pick<Application, 'url'>, path: string): Promise<T> =>
  (await fetch(`${url}/api${path}`)).json() as Promise<T>

/** Looks until it is as wanted; throws with what there was after a minute. */
export async function until<T>(look: () => Promise<T>, good: (value: T) => boolean): Promise<T> {
  for (let n = 0; n < 300; n++) {
    const value = await look()
    if (good(value)) return value
    await new Promise((resolve) => setTimeout(resolve, 200))
  }
  throw new Error(`it did not come about: ${JSON.stringify(await look()).slice(0, 600)}`)
}

/** Waits until an asset is judged, its output made, and what is asked of it true. */
export const madeAsset = (
  app: Pick<Application, 'url'>,
  id: string,
  good: (detail: AssetDetail) => boolean,
): Promise<AssetDetail> =>
  until(
    () => jsonAt<AssetDetail>(app, `/assets/${id}`),
    (d) => d.state === 'judged' && !d.making && good(d),
  )
