import { join } from 'node:path'
import type { ElementHandle, Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail, ProjectSurface } from '@stern-gate/contract'
import { ktx2File } from '@stern-gate/core/fixtures'
import { openDemoProject, openSlot } from './demoProject'
import { differingShare, settledStage, stagePicture } from './stagePicture'
import { type Application, jsonAt, layFiles, madeAsset, until } from './testApplication'

let app: Application,
  page: Page,
  id = ''
const json = <T>(path: string): Promise<T> => jsonAt<T>(app, path)
const made = (good: (d: AssetDetail) => boolean): Promise<AssetDetail> => madeAsset(app, id, good)
const stepsOf = (d: AssetDetail): unknown[] => d.recipe.steps.map((s) => [s.remedy, s.options])
const slotOf = (d: AssetDetail, name: string) => d.output!.mesh!.slots!.find((s) => s.name === name)!

beforeAll(async () => {
  const opened = await openDemoProject('Surfaces', ['diving_bell'])
  ;({ app, page } = opened)
  id = opened.ids[0]!
  await openSlot(opened, { id, slot: 'bell-copper' })
}, 120_000)
afterAll(() => app.stop())

const picture = (): Promise<string> => stagePicture(page)
const settledPicture = (): Promise<string> => settledStage(page)
const differing = (a: string, b: string): Promise<number> => differingShare(page, a, b)
const shownValue = (name: string): Promise<string> =>
  page.$eval(`[data-value="${name}"] .field`, (e) => (e as HTMLInputElement).value)
/** Takes hold of a value's label and moves it; it is let go only when that is asked for. */
async function drag(name: string, pixels: number): Promise<void> {
  const label = (await page.$(`[data-value="${name}"] .label`))!
  await label.scrollIntoView()
  const box = (await label.boundingBox())!
  await page.mouse.move(box.x + 120, box.y + 8)
  await page.mouse.down()
  await page.mouse.move(box.x + 120 + pixels, box.y + 8, { steps: 5 })
}
async function type(name: string, text: string): Promise<void> {
  await page.click(`[data-value="${name}"] .field`, { count: 3 })
  await page.keyboard.type(text)
  await page.keyboard.press('Enter')
}

/** The same light as four floats a texel. */
const lightOf = (rows: Uint8Array): Uint8Array =>
  new Uint8Array(
    Float32Array.from({ length: rows.length }, (_, k) =>
      k % 4 === 3 ? 1 : rows[k]! * 2 ** (rows[k - (k % 4) + 3]! - 136),
    ).buffer,
  )

describe('the surface of a slot at the bench', () => {
  it('shows a dragged value at once, and keeps it as one step when it is let go', async () => {
    const before = await picture()
    await drag('metallic', 200)
    await until(picture, (now) => now !== before)
    expect(await shownValue('metallic')).toBe('1')
    expect((await json<AssetDetail>(`/assets/${id}`)).recipe.steps).toEqual([])
    await page.mouse.up()
    await drag('roughness', -50)
    await page.mouse.up()
    const detail = await made((d) => slotOf(d, 'bell-copper').roughness < 0.5)
    // A second value of the same slot changes its step, and adds none
    expect(stepsOf(detail)).toEqual([
      ['slots/surface', { slot: 'bell-copper', metallic: 1, roughness: 0.25 }],
    ])
    expect(slotOf(detail, 'bell-copper')).toMatchObject({ metallic: 1, roughness: 0.25 })
  })
  it('looks in the file that is written as it did while it was tried: less than 1 % of the picture differs', async () => {
    for (const [name, pixels] of [
      ['metallic', -120],
      ['roughness', 40],
      ['coat', 120],
    ] as const) {
      const detail = await json<AssetDetail>(`/assets/${id}`)
      await page.waitForSelector(`canvas[data-model="${detail.output!.model!}"]`)
      const before = await settledPicture()
      await drag(name, pixels)
      await until(picture, (now) => now !== before)
      const tried = await settledPicture()
      await page.mouse.up()
      const after = await made((d) => d.output?.model != null && d.output.model !== detail.output!.model)
      await page.waitForSelector(`canvas[data-model="${after.output!.model!}"]`)
      const written = await settledPicture()
      expect(await differing(tried, before)).toBeGreaterThan(0.001)
      expect(await differing(tried, written)).toBeLessThan(0.01)
    }
    // As it was before
    for (let n = 0; n < 3; n++) {
      const { recipeRevision } = await json<AssetDetail>(`/assets/${id}`)
      await page.waitForFunction(() =>
        [...document.querySelectorAll('button')].some((b) => b.textContent === 'Undo' && !b.disabled),
      )
      await page.evaluate(() =>
        [...document.querySelectorAll('button')].find((b) => b.textContent === 'Undo')!.click(),
      )
      await made((d) => d.recipeRevision > recipeRevision)
    }
  }, 180_000)
  it('takes sums, says what is none, and goes back by a double click', async () => {
    await type('ior', '1 + 1/3')
    await made((d) => Math.abs(slotOf(d, 'bell-copper').values!.ior - 4 / 3) < 1e-6)
    await type('coat', 'thick')
    expect(await page.$('[data-value="coat"].wrong')).not.toBeNull()
    await page.keyboard.press('Escape')
    await page.$eval('[data-value="ior"] .label', (e) =>
      e.dispatchEvent(new MouseEvent('dblclick', { bubbles: true })),
    )
    const detail = await made((d) => slotOf(d, 'bell-copper').values!.ior === 1.5)
    expect(stepsOf(detail)).toEqual([
      ['slots/surface', { slot: 'bell-copper', metallic: 1, roughness: 0.25, ior: null }],
    ])
  })
  it('begins with a preset, and gives its values to another slot', async () => {
    await page.select('[data-preset]', 'copper')
    await until(
      () => shownValue('roughness'),
      (text) => text === '0.35',
    )
    await page.evaluate(() =>
      [...document.querySelectorAll('button')].find((b) => b.textContent.includes('Copy values'))!.click(),
    )
    await page.select('[data-slot-choice]', 'bell-canvas')
    await page.waitForFunction(
      () => document.querySelector<HTMLSelectElement>('[data-slot-choice]')!.value === 'bell-canvas',
    )
    await page.evaluate(() =>
      [...document.querySelectorAll('button')].find((b) => b.textContent.trim() === 'Paste')!.click(),
    )
    const detail = await made((d) => slotOf(d, 'bell-canvas').metallic === 1)
    expect(slotOf(detail, 'bell-copper').surface).toBe('bare copper')
    expect(slotOf(detail, 'bell-canvas').roughness).toBeCloseTo(0.35, 6)
  })
  it('shows one slot alone, and renames it in its place', async () => {
    const whole = await picture()
    await page.click('[data-alone]')
    await until(picture, (now) => now !== whole)
    await page.click('[data-alone]')
    await page.click('[data-rename]')
    await page.waitForSelector('input[aria-label="New name of the slot"]')
    await page.click('input[aria-label="New name of the slot"]', { count: 3 })
    await page.keyboard.type('bell-lamp')
    expect(await page.$('.taken')).not.toBeNull()
    await page.click('input[aria-label="New name of the slot"]', { count: 3 })
    await page.keyboard.type('bell-skirt')
    await page.keyboard.press('Enter')
    const detail = await made((d) => d.output!.mesh!.slots!.some((s) => s.name === 'bell-skirt'))
    expect(stepsOf(detail).at(-1)).toEqual([
      'names/rename',
      expect.objectContaining({ what: 'slot', from: 'bell-canvas', to: 'bell-skirt' }),
    ])
  })
})

describe('the light of the stage', () => {
  const settle = async (): Promise<string> => {
    let last = await picture()
    return until(async () => {
      await new Promise((resolve) => setTimeout(resolve, 300))
      const now = await picture()
      const same = now === last
      last = now
      return same ? now : ''
    }, Boolean)
  }
  it('is another surrounding at once, is remembered by the project, and goes back by one button', async () => {
    const studio = await settle()
    await page.click('[data-light]')
    await page.waitForSelector('[data-surrounding]')
    await page.select('[data-surrounding]', 'dusk')
    const dusk = await until(picture, (now) => now !== studio)
    await drag('lamp-angle', 60)
    await page.mouse.up()
    await until(picture, (now) => now !== dusk)
    await page.click('[data-checkers]')
    await page.reload()
    await page.waitForSelector('canvas[data-ready]')
    await page.waitForSelector('[data-surrounding]')
    expect(await page.$eval('[data-surrounding]', (e) => (e as HTMLSelectElement).value)).toBe('dusk')
    expect(await page.$eval('[data-checkers]', (e) => (e as HTMLInputElement).checked)).toBe(true)
    await page.evaluate(() =>
      [...document.querySelectorAll('button')].find((b) => b.textContent.trim() === 'Reset')!.click(),
    )
    expect(await page.$eval('[data-surrounding]', (e) => (e as HTMLSelectElement).value)).toBe('studio')
  })
  it('is a picture of one’s own, and what is none is refused with why', async () => {
    const opened = await page.$('[data-light][aria-pressed="true"]')
    if (!opened) await page.click('[data-light]')
    await page.waitForSelector('[data-surrounding-file]')
    const ours = await settle()
    // Radiance, without runs: a bright red sky over a black ground
    const head = Buffer.from('#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y 8 +X 16\n')
    const rows = Buffer.from(
      Array.from({ length: 8 * 16 }, (_, n) => (n < 64 ? [200, 20, 10, 130] : [1, 1, 1, 120])).flat(),
    )
    const folder = await layFiles(join(app.folder, 'light'), [
      { path: 'red sky.hdr', bytes: new Uint8Array(Buffer.concat([head, rows])) },
      { path: 'red sky.ktx2', bytes: ktx2File(109, 16, 8, lightOf(rows)) },
      { path: 'broken.exr', bytes: new Uint8Array([1, 2, 3]) },
    ])
    const input = (await page.$('[data-surrounding-file]')) as ElementHandle<HTMLInputElement>
    await input.uploadFile(join(folder, 'broken.exr'))
    await page.waitForFunction(() => document.body.textContent.includes('broken.exr cannot be read'))
    await input.uploadFile(join(folder, 'red sky.hdr'))
    await page.waitForFunction(
      () => document.querySelector<HTMLSelectElement>('[data-surrounding]')!.value === 'own',
    )
    await until(picture, (now) => now !== ours)
    // The same light as a KTX2 of half floats gives the same picture
    const red = await settle()
    await input.uploadFile(join(folder, 'red sky.ktx2'))
    await page.waitForFunction(() =>
      [...document.querySelectorAll('[data-surrounding] option')].some(
        (o) => o.textContent === 'red sky.ktx2',
      ),
    )
    expect(await differing(await settle(), red)).toBeLessThan(0.01)
    await page.select('[data-surrounding]', 'studio')
    await until(picture, (now) => now === ours)
  })
  it('a picture is held beside the model, or behind it, under another lens', async () => {
    const plain = await settle()
    const shot = await page.screenshot()
    const folder = await layFiles(join(app.folder, 'held'), [
      { path: 'ref.png', bytes: new Uint8Array(shot) },
    ])
    const input = (await page.$('[data-reference-file]')) as ElementHandle<HTMLInputElement>
    await input.uploadFile(join(folder, 'ref.png'))
    await page.waitForSelector('img[data-reference].beside')
    expect(await page.$('[role="slider"][aria-label^="Divider"]')).not.toBeNull()
    await page.click('[data-reference-mode="behind"]')
    await page.waitForSelector('img[data-reference].behind')
    // The stage lets it through: its corner is clear
    await until(picture, (now) => now !== plain)
    const corner = await page.$eval('canvas[data-ready]', (c) => {
      const copy = document.createElement('canvas')
      copy.width = copy.height = 1
      copy.getContext('2d')!.drawImage(c as HTMLCanvasElement, 0, 0)
      return [...copy.getContext('2d')!.getImageData(0, 0, 1, 1).data]
    })
    expect(corner[3]).toBe(0)
    const before = await settle()
    await type('lens', '60')
    await until(picture, (now) => now !== before)
    await page.click('[aria-label="Take the reference away"]')
    await page.waitForFunction(() => !document.querySelector('img[data-reference]'))
    await type('lens', '32')
    await until(picture, (now) => now === plain)
  })
  it('says the colour under the pointer as it is drawn', async () => {
    await page.click('[data-light]')
    const box = (await (await page.$('canvas[data-ready]'))!.boundingBox())!
    await page.mouse.move(box.x + box.width - 20, box.y + box.height - 40)
    await page.waitForSelector('.under')
    // The grey behind the model, by day
    expect(await page.$eval('.under', (e) => e.textContent)).toBe('119 119 119  #777777')
  })
})

describe('a surface of the project', () => {
  it('is kept from one slot, followed by another, and changed for both at once', async () => {
    const goTo = async (slot: string): Promise<void> => {
      await page.select('[data-slot-choice]', slot)
      await page.waitForFunction(
        (name) => (document.querySelector('[data-slot-choice]') as HTMLSelectElement).value === name,
        {},
        slot,
      )
    }
    const of = (d: AssetDetail, slot: string) =>
      d.recipe.steps.find((s) => s.remedy === 'slots/surface' && s.options['slot'] === slot)?.options
    await goTo('bell-rubber')
    await page.select('[data-preset]', 'rubber')
    await made((d) => of(d, 'bell-rubber')?.['preset'] === 'rubber')
    await page.waitForSelector('[data-keep-surface]:not([disabled])')
    await page.click('[data-keep-surface]')
    await page.type('[data-surface-name]', 'wet hose')
    await page.keyboard.press('Enter')
    await made((d) => of(d, 'bell-rubber')?.['shared'] === 'wet hose')
    await goTo('bell-glass')
    await page.waitForSelector('[data-preset] option[value="own wet hose"]')
    await page.select('[data-preset]', 'own wet hose')
    await made((d) => of(d, 'bell-glass')?.['shared'] === 'wet hose')
    await type('roughness', '0.125')
    await made((d) => of(d, 'bell-glass')?.['roughness'] === 0.125)
    await page.waitForSelector('[data-give-to-all]:not([disabled])')
    await page.click('[data-give-to-all]')
    // The surface changes first, then the slot's step says no more than that it follows
    const both = await made(
      (d) =>
        of(d, 'bell-glass')?.['roughness'] === undefined &&
        ['bell-rubber', 'bell-glass'].every((slot) => slotOf(d, slot).roughness === 0.125),
    )
    expect(of(both, 'bell-glass')).toEqual({ slot: 'bell-glass', shared: 'wet hose' })
    const [surface] = await json<ProjectSurface[]>(
      `/projects/${/\/p\/([^/]+)/.exec(page.url())![1]!}/surfaces`,
    )
    expect(surface).toMatchObject({
      name: 'wet hose',
      surface: { preset: 'rubber', values: { roughness: 0.125 } },
      users: [{ slot: 'bell-rubber' }, { slot: 'bell-glass' }],
    })
  })
})
