import { readFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { join } from 'node:path'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { crateFiles } from '@stern-gate/core/fixtures'
import { demoAssets, makeAsset } from '@stern-gate/demo'
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
  links: Record<string, string> = {},
  files = ''

beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  await beginProject(page, app.url, 'Gullwick Harbour')
  const [gauge, seawall] = await Promise.all(
    ['harbour_tidegauge_a', 'harbour_seawall_a'].map((name) =>
      makeAsset(demoAssets.find((a) => a.name === name)!),
    ),
  )
  files = await layFiles(join(app.folder, 'files'), [...gauge!, ...seawall!])
  const folder = await layFiles(join(app.folder, 'first'), [
    ...gauge!.filter((f) => !f.path.endsWith('harbour_tidegauge_board_normal.png')),
    ...seawall!,
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

async function seriousFaults(): Promise<string[]> {
  await page.evaluate(await readFile(createRequire(import.meta.url).resolve('axe-core/axe.min.js'), 'utf8'))
  return page.evaluate(async () => {
    // A menu that fades away has the contrast of no one picture
    const still = Promise.allSettled(document.getAnimations().map((a) => a.finished))
    await Promise.race([still, new Promise((resolve) => setTimeout(resolve, 1500))])
    const { violations } = await (
      globalThis as unknown as {
        axe: { run: () => Promise<{ violations: { id: string; impact: string }[] }> }
      }
    ).axe.run()
    return violations.filter((v) => v.impact === 'serious' || v.impact === 'critical').map((v) => v.id)
  })
}

const picture = (): Promise<string> => page.$eval('canvas', (c) => (c as HTMLCanvasElement).toDataURL())
/** The picture once it stays the same: it is painted a frame after it is asked for. */
async function settledPicture(): Promise<string> {
  for (let before = ''; ;) {
    const now = await picture()
    if (now === before) return now
    before = now
    await new Promise((resolve) => setTimeout(resolve, 300))
  }
}
const setTime = (seconds: number): Promise<void> =>
  page.$eval(
    '.clips input[type="range"]',
    (e, s) => {
      ;(e as HTMLInputElement).value = String(s)
      e.dispatchEvent(new Event('input'))
    },
    seconds,
  )

/** Drops a file on the place of one that is asked for. */
async function dropOnPlace(asked: string, file: string): Promise<void> {
  const box = (await (await page.$(`[data-wanted$="/${asked}"]`))!.boundingBox())!
  await dropOnto(page, [join(files, file)], { x: box.x + 40, y: box.y + 20 })
}

describe('a file that did not come', () => {
  it('is dropped on its place, and the asset has it in its next version', async () => {
    await page.goto(`${app.url}${links['harbour_tidegauge_a']}/files`)
    await page.waitForSelector('[data-rule="files/missing-reference"]')
    await dropOnPlace(
      'harbour_tidegauge_board_normal.png',
      'gullwick/props/textures/harbour_tidegauge_board_normal.png',
    )
    await waitForText(page, 'header', 'version 2')
    await page.waitForFunction(
      () =>
        !document.querySelector('[data-wanted]') &&
        !document.querySelector('[data-rule="files/missing-reference"]'),
    )
    expect(page.url()).toContain('/files')
  })
  it('is a tile that its numbers ask for: any picture dropped there takes the number', async () => {
    await page.goto(`${app.url}${links['harbour_seawall_a']}/files`)
    await page.waitForSelector('[data-rule="files/tile-gap"]')
    await dropOnPlace(
      'harbour_seawall_basecolor.1004.png',
      'gullwick/structures/textures/harbour_seawall_basecolor.1003.png',
    )
    await waitForText(page, 'header', 'version 2')
    await page.waitForFunction(
      () =>
        !document.querySelector('[data-wanted]') && !document.querySelector('[data-rule="files/tile-gap"]'),
    )
    await waitForText(page, '.files', 'tile 1004 of harbour_seawall_basecolor')
  })
})

describe('clips', () => {
  it('are listed, and scrubbing puts the model into their poses', async () => {
    await page.goto(`${app.url}${links['harbour_tidegauge_a']}/mesh`)
    await page.waitForSelector('canvas[data-ready]', { timeout: 60_000 })
    await page.select('.clips select', '0')
    await waitForText(page, '.clips .said', '28 cm')
    expect(page.url()).toContain('clip=0')
    const rest = await picture()
    await setTime(2)
    await page.waitForFunction(
      (before) => document.querySelector('canvas')!.toDataURL() !== before,
      { timeout: 10_000 },
      rest,
    )
    await setTime(0)
    await page.waitForFunction(
      (before) => document.querySelector('canvas')!.toDataURL() === before,
      { timeout: 10_000 },
      rest,
    )
  })
  it('play by the space bar and stand still by it', async () => {
    await page.focus('canvas')
    await page.keyboard.press('Space')
    await page.waitForFunction(
      () => Number.parseFloat(document.querySelector('.clips .at')!.textContent!) > 0.3,
      { timeout: 10_000 },
    )
    await page.keyboard.press('Space')
    await page.waitForSelector('.clips button[aria-pressed="false"]')
    expect(await seriousFaults()).toEqual([])
  })
  it('the mark for looping and a new name are steps of the recipe', async () => {
    await press(page, '.clips input[type="checkbox"]')
    await page.waitForFunction(
      () => document.querySelector('[data-station="mesh"]')?.getAttribute('data-state') === 'clear',
      { timeout: 30_000 },
    )
    await press(page, '.clips .name', { count: 3 })
    await page.keyboard.type('tidegauge@lift')
    await page.keyboard.press('Enter')
    await waitForText(page, '.steps', 'Name → tidegauge@lift')
    await page.waitForFunction(
      () => document.querySelector('.clips select')!.textContent!.includes('tidegauge@lift'),
      { timeout: 30_000 },
    )
  })
})

describe("a step of one's own", () => {
  it('is found by a word, previewed, and added', async () => {
    await page.focus('canvas')
    await page.keyboard.press('a')
    await page.waitForSelector('.picker input')
    await page.type('.picker input', 'pivot')
    await page.waitForFunction(() => document.querySelectorAll('[data-remedy]').length < 4)
    expect(await seriousFaults()).toEqual([])
    await press(page, '[data-remedy="scale/move-pivot"]')
    await page.select('[data-field="to"]', 'node')
    await page.select('[data-field="node"]', 'harbour_tidegauge_a/float')
    await waitForText(page, '.badge', 'preview')
    await press(page, '.picker .btn.go')
    await waitForText(page, '.steps', 'Pivot to node')
    await page.waitForSelector('.findings')
  })
  it('is changed by its chip on the rope', async () => {
    await page.waitForFunction(() => !document.querySelector('header .soft[role="status"]'), {
      timeout: 30_000,
    })
    await page.$$eval('.step .word', (words) =>
      (words.find((w) => w.textContent!.startsWith('Pivot')) as HTMLElement).click(),
    )
    await page.waitForSelector('[data-field="to"]')
    await page.select('[data-field="to"]', 'centre')
    await press(page, '.picker .btn.go')
    await waitForText(page, '.steps', 'Pivot to centre')
    expect(await page.$$('.step')).toHaveLength(3)
  })
})

describe('an intake preset', () => {
  const pick = async (label: string): Promise<void> => {
    await press(page, '.intake')
    await page.waitForSelector('.n-dropdown-option-body')
    await page.evaluate(
      (wanted) =>
        [...document.querySelectorAll<HTMLElement>('.n-dropdown-option-body')]
          .find((o) => o.textContent!.includes(wanted))!
          .click(),
      label,
    )
  }
  it('is made, chosen for what comes next, and stands first in its recipes', async () => {
    await page.goto(`${app.url}/`)
    await page.waitForSelector('[data-asset]')
    await pick('Presets')
    await page.waitForSelector('[data-field="unit"]')
    expect(await seriousFaults()).toEqual([])
    await page.type('[data-field="name"]', 'yard in centimetres')
    await page.type('[data-field="folder"]', 'vessels')
    await page.select('[data-field="unit"]', 'centimetre')
    await page.select('[data-field="up"]', '+Z')
    await press(page, '[role="dialog"] .btn.go')
    await waitForText(page, '.intake', 'yard in centimetres')
    const folder = await layFiles(
      join(app.folder, 'skiff'),
      await makeAsset(demoAssets.find((a) => a.name === 'harbour_skiff_a')!),
    )
    await dropOnto(page, [join(folder, 'gullwick')])
    await page.waitForFunction(
      () => [...document.querySelectorAll('[data-asset]')].some((l) => l.textContent!.includes('skiff')),
      { timeout: 60_000 },
    )
    const to = await page.$$eval('[data-asset]', (lines) =>
      lines.find((l) => l.textContent!.includes('skiff'))!.getAttribute('href'),
    )
    await page.goto(`${app.url}${to}/scale`)
    await waitForText(page, '.steps', 'Take in: centimetre')
    // Neither a hundred times too large nor on its side any more, as soon as the output is judged
    await page.waitForFunction(
      () =>
        [...document.querySelectorAll('.find')].map((f) => f.getAttribute('data-rule')).join() ===
        'scale/pivot',
      { timeout: 60_000 },
    )
  })
  it('is offered where it fits and none was chosen', async () => {
    await page.goto(`${app.url}/`)
    await page.waitForSelector('[data-asset]')
    await pick('As it comes')
    const folder = await layFiles(
      join(app.folder, 'again'),
      (await makeAsset(demoAssets.find((a) => a.name === 'harbour_skiff_a')!)).map((f) => ({
        ...f,
        path: f.path.replace('skiff_a.glb', 'skiff_b.glb'),
      })),
    )
    await dropOnto(page, [join(folder, 'gullwick')])
    await waitForText(page, '.offer', 'yard in centimetres')
    await page.waitForSelector('.offer .btn.go')
    await press(page, '.offer .btn.go')
    await page.waitForFunction(() => !document.querySelector('.offer .btn.go'), { timeout: 30_000 })
    const steps = (wanted: number): Promise<unknown> =>
      page.waitForFunction(
        async (n) => {
          const rows = (await (
            await fetch(`/api/projects/${location.pathname.split('/')[2]}/assets`)
          ).json()) as { name: string; steps: number }[]
          return rows.find((r) => r.name === 'harbour_skiff_b')?.steps === n
        },
        { timeout: 30_000, polling: 200 },
        wanted,
      )
    await steps(1)
    // And taken back, by a button as well
    await press(page, '.offer [data-as-it-came]')
    await steps(0)
  })
  it('nothing complained in the browser', () => expect(app.complaints).toEqual([]))
})

describe('what a person completes', () => {
  it('a name that nothing could propose is given by hand from its finding, previewed and kept', async () => {
    const made = await crateFiles({
      name: 'harbour_keg_a',
      textureName: 'harbour_keg_a',
      slotName: 'Default_Material',
    })
    const folder = await layFiles(
      join(app.folder, 'keg'),
      Object.entries(made).map(([path, bytes]) => ({ path, bytes })),
    )
    await page.goto(links['harbour_tidegauge_a']!.replace(/^(\/p\/[^/]+).*/, `${app.url}$1`))
    await page.waitForSelector('[data-asset]')
    await dropOnto(page, [folder])
    const link = await page.waitForFunction(
      () =>
        [...document.querySelectorAll('[data-asset]')]
          .find((l) => l.querySelector('b')!.textContent === 'harbour_keg_a')
          ?.getAttribute('href'),
      { timeout: 60_000 },
    )
    await page.goto(`${app.url}${await link.jsonValue()}/names`)
    await page.waitForSelector('[data-rule="names/meaningless"] .do .btn')
    await press(page, '[data-rule="names/meaningless"] .do .btn')
    await page.waitForFunction(() => document.activeElement?.getAttribute('data-field') === 'to')
    expect(await page.$eval('[data-field="from"]', (e) => (e as HTMLInputElement).value)).toBe(
      'Default_Material',
    )
    await page.keyboard.type('keg-wood')
    await waitForText(page, '.picker', 'The stage shows what it would make')
    expect(await seriousFaults()).toEqual([])
    await page.keyboard.press('Enter')
    await page.waitForFunction(
      () => document.querySelector('[data-station="names"]')?.getAttribute('data-state') === 'clear',
      { timeout: 30_000 },
    )
  })
  it('the sheet of one slot is looked at by itself, and the address says which', async () => {
    await page.goto(`${app.url}${links['harbour_tidegauge_a']}/uvs`)
    await page.waitForSelector('canvas[data-ready]', { timeout: 60_000 })
    const all = await settledPicture(),
      slots = await page.$$eval('[aria-label="Sheet of which slot"] option', (options) =>
        options.map((o) => o.value),
      )
    expect(slots.length).toBeGreaterThan(2)
    await page.select('[aria-label="Sheet of which slot"]', slots[1]!)
    await page.waitForFunction(
      (before) => document.querySelector('canvas')!.toDataURL() !== before,
      { timeout: 10_000 },
      all,
    )
    expect(new URL(page.url()).searchParams.get('slot')).toBe(slots[1])
    await page.select('[aria-label="Sheet of which slot"]', '')
    await page.waitForFunction(
      (before) => document.querySelector('canvas')!.toDataURL() === before,
      { timeout: 10_000 },
      all,
    )
  })
})
