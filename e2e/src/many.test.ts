import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { crateFiles, pixelsOf, pngOf, type CrateOptions } from '@stern-gate/core/fixtures'
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
  crates = ''
beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  await beginProject(page, app.url, 'Gullwick Harbour')
  crates = page.url()
})
afterAll(() => app.stop())

const lay = async (name: string, crates: CrateOptions[]): Promise<string> => {
  const files = (await Promise.all(crates.map((c) => crateFiles({ textureSize: [512, 512], ...c })))).flatMap(
    (f) => Object.entries(f).map(([path, bytes]) => ({ path, bytes })),
  )
  return layFiles(join(app.folder, name), files)
}

/** Chooses all when so many have arrived and the delivery's line above the list is gone. */
const chooseAll = async (count: number): Promise<void> => {
  await page.waitForFunction(
    (n) =>
      document.querySelectorAll('[data-asset]').length === n && !document.querySelector('.arrivals .top'),
    { timeout: 60_000 },
    count,
  )
  await press(page, '.heads input')
}

describe('one remedy for many', () => {
  it('turns green on all chosen assets, and one undo takes it back', async () => {
    const folder = await lay(
      'green',
      ['a', 'b', 'c'].map((v) => ({
        name: `harbour_crate_${v}`,
        textureName: `harbour_crate_${v}`,
        green: 'down',
      })),
    )
    await dropOnto(page, [join(folder, 'props')])
    await chooseAll(3)
    await waitForText(page, '.bulk', '3 assets chosen')
    await page.waitForSelector('[data-remedy="colour/flip-green"]')
    await press(page, '[data-remedy="colour/flip-green"]')
    await page.waitForFunction(
      () => [...document.querySelectorAll('[data-asset]')].every((l) => l.textContent!.includes('Clear')),
      { timeout: 60_000 },
    )
    await waitForText(page, '.done', 'Flip green: 3 steps on 3 assets')
    await page.reload()
    await page.waitForSelector('[data-undo]')
    await press(page, '[data-undo]')
    await page.waitForFunction(
      () => [...document.querySelectorAll('[data-asset]')].every((l) => l.textContent!.includes('Held')),
      { timeout: 60_000 },
    )
  })
})

describe('renaming many', () => {
  it('shows every name and what goes along, refuses a name given twice, and is one act', async () => {
    await beginProject(page, app.url, 'Names')
    const folder = await lay(
      'names',
      ['Crate final', 'Barrel copy'].map((name) => ({ name, textureName: name })),
    )
    await dropOnto(page, [join(folder, 'props')])
    await chooseAll(2)
    await page.waitForSelector('[data-remedy="names/rename"]')
    await press(page, '[data-remedy="names/rename"]')
    await page.waitForSelector('[role="dialog"] .row')
    await press(page, '.along:not([disabled])')
    await page.waitForFunction(() => document.querySelector('.follows')?.textContent?.includes('points at'))
    const type = async (from: string, to: string): Promise<void> => {
      await press(page, `[aria-label="New name of ${from}"]`, { count: 3 })
      await page.keyboard.type(to)
    }
    await type('Crate final', 'harbour_crate_a')
    await type('Barrel copy', 'harbour_crate_A')
    await waitForText(page, '.wrong', 'given twice')
    expect(await page.$eval('[data-apply]', (b) => (b as HTMLButtonElement).disabled)).toBe(true)
    await type('Barrel copy', 'harbour_barrel_a')
    await page.waitForFunction(() => !document.querySelector('.wrong'))
    await press(page, '[data-apply]')
    await page.waitForFunction(
      () =>
        ['harbour_barrel_a', 'harbour_crate_a'].every((name) =>
          [...document.querySelectorAll('[data-asset] b')].some((b) => b.textContent === name),
        ),
      { timeout: 60_000 },
    )
    await press(page, '[data-undo]')
    await page.waitForFunction(
      () => [...document.querySelectorAll('[data-asset] b')].some((b) => b.textContent === 'Crate final'),
      { timeout: 60_000 },
    )
    await page.goto(crates)
    await page.waitForSelector('[data-asset]')
  })
})

describe('Assets', () => {
  it('narrows by facets that stand in the address, and by typing', async () => {
    const folder = await lay('more', [
      {
        name: 'harbour_shed_a',
        textureName: 'harbour_shed_a',
        slotName: 'shed-wood',
        folder: 'structures',
        uvs: 'atlas',
        lightmap: 'overlap',
      },
    ])
    await dropOnto(page, [join(folder, 'structures')])
    await page.waitForFunction(() => document.querySelectorAll('[data-asset]').length === 4, {
      timeout: 60_000,
    })
    await page.goto(page.url().replace(/arrivals.*/, 'assets'))
    await page.waitForFunction(() => document.querySelectorAll('[data-asset]').length === 4)
    // The class is counted once the asset is judged
    const facet = await page.waitForFunction(() =>
      [...document.querySelectorAll<HTMLElement>('.facets button')].find((b) =>
        b.textContent!.includes('Structure'),
      ),
    )
    await page.evaluate((button) => (button as HTMLElement).click(), facet)
    await page.waitForFunction(() => document.querySelectorAll('[data-asset]').length === 1)
    expect(page.url()).toContain('class=structure')
    await page.keyboard.press('/')
    await page.keyboard.type('crate')
    await page.waitForFunction(() => document.querySelectorAll('[data-asset]').length === 0)
  })
})

describe('the UV stage', () => {
  it('shows the channel that a finding speaks of; what is pointed at on the sheet is named', async () => {
    await page.goto(page.url().replace(/\?.*/, ''))
    const to = await page.waitForFunction(() =>
      [...document.querySelectorAll('[data-asset]')]
        .find((l) => l.textContent!.includes('shed'))
        ?.getAttribute('href'),
    )
    await page.goto(`${app.url}${await to.jsonValue()}/uvs`)
    await page.waitForSelector('canvas[data-ready]', { timeout: 60_000 })
    await waitForText(page, '.find', 'the wrong way round')
    await page.waitForFunction(() =>
      [...document.querySelectorAll('.tools button.on')].some((b) => b.textContent === 'UV1 (2nd)'),
    )
    const box = (await (await page.$('canvas[data-ready]'))!.boundingBox())!
    await page.mouse.move(box.x + box.width / 2 - 20, box.y + box.height / 2 + 30)
    await waitForText(page, '.read', 'triangle')
  })
  it('the page of a rule opens beside its finding', async () => {
    await press(page, '[data-rule="uvs/purpose"] .ask')
    await waitForText(page, '[role="dialog"]', 'Cases that are tested')
    await page.keyboard.press('Escape')
    await page.waitForFunction(() => !document.querySelector('[role="dialog"]'))
  })
  it('swapping the channels mends it', async () => {
    await press(page, '[data-rule="uvs/purpose"] .btn.go')
    await page.waitForFunction(() => !document.querySelector('[data-rule="uvs/purpose"]'), {
      timeout: 30_000,
    })
  })
})

interface Trace {
  traceEvents: {
    name: string
    ph: string
    pid: number
    tid: number
    tdur?: number
    args: { name?: string }
  }[]
}

/**
 * Milliseconds that each task of the pages' main threads took on the processor: on two cores that measure
 * files at the same time the clock also counts the waiting for one of them.
 */
function mainThreadTasks({ traceEvents }: Trace): number[] {
  const main = new Set(
    traceEvents
      .filter((e) => e.ph === 'M' && e.name === 'thread_name' && e.args.name === 'CrRendererMain')
      .map((e) => `${e.pid} ${e.tid}`),
  )
  return traceEvents
    .filter((e) => /RunTask$/.test(e.name) && e.tdur !== undefined && main.has(`${e.pid} ${e.tid}`))
    .map((e) => e.tdur! / 1000)
}

let attempt = 0
// Told anew on a machine that lent its processor to others in the midst of a task; code that takes too long
// does so each time
it(
  '500 files arrive without a task of over 50 ms on the main thread',
  { retry: 4, timeout: 150_000 },
  async () => {
    attempt++
    // Pictures of one texel set each; what is looked at is the page, not the measuring
    const files = Array.from({ length: 500 }, (_, i) => ({
      path: `many/harbour_pebble${attempt}x${i}_a_${['basecolor', 'normal', 'orm', 'height'][i % 4]!}.png`,
      bytes: pngOf(pixelsOf(8, 8, 3, (x) => [i % 255, x * 8, 90 + attempt])),
    }))
    const folder = await layFiles(join(app.folder, `five-hundred-${attempt}`), files)
    const watched = await app.page()
    await watched.goto(page.url().replace(/assets.*/, 'arrivals'))
    await watched.waitForSelector('[data-asset]')
    await new Promise((resolve) => setTimeout(resolve, 1500))
    await watched.tracing.start({
      categories: ['-*', 'toplevel', 'devtools.timeline', 'disabled-by-default-devtools.timeline'],
    })
    await dropOnto(watched, [join(folder, 'many')])
    await watched.waitForSelector('[role="progressbar"]', { timeout: 30_000 })
    await watched.waitForFunction(() => !document.querySelector('[role="progressbar"]'), { timeout: 110_000 })
    const tasks = mainThreadTasks(JSON.parse(new TextDecoder().decode(await watched.tracing.stop())) as Trace)
    await watched.close()
    expect(tasks.length).toBeGreaterThan(100)
    expect(tasks.filter((ms) => ms > 50)).toEqual([])
  },
)

it('nothing complained in the browser', () => expect(app.complaints).toEqual([]))
