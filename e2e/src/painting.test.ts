import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail } from '@stern-gate/contract'
import { openDemoProject, openSlot } from './demoProject'
import { type Application, jsonAt, madeAsset, until } from './testApplication'

const SLOT = 'bell-copper'
let app: Application, page: Page, project: string, id: string, other: string
const json = <T>(path: string): Promise<T> => jsonAt<T>(app, path)
const made = (good: (d: AssetDetail) => boolean): Promise<AssetDetail> => madeAsset(app, id, good)
/** Greatest red of the second set of vertex colours of what has the slot; null where a part has none. */
function painted(d: AssetDetail): number | null {
  const parts = (d.output?.mesh?.nodes ?? []).flatMap((n) => n.primitives.filter((p) => p.slot === SLOT))
  return parts.some((p) => !p.colours[1]) ? null : Math.max(...parts.map((p) => p.colours[1]!.max[0]!))
}
const picture = (): Promise<string> =>
  page.$eval('canvas[data-ready]', (c) => (c as HTMLCanvasElement).toDataURL())

beforeAll(async () => {
  const opened = await openDemoProject('Painting', ['diving_bell', 'harbour_sinker_a'])
  ;({ app, page, project } = opened)
  ;[id, other] = opened.ids as [string, string]
  await openSlot(opened, { id, slot: SLOT })
}, 120_000)
afterAll(() => app.stop())

/** Draws a line over the middle of the model. */
async function stroke(): Promise<void> {
  const box = (await (await page.$('canvas[data-ready]'))!.boundingBox())!
  await page.mouse.move(box.x + box.width * 0.46, box.y + box.height * 0.45)
  await page.mouse.down()
  await page.mouse.move(box.x + box.width * 0.54, box.y + box.height * 0.5, { steps: 8 })
  await page.mouse.up()
}

/** Goes to another address of the page without loading it anew. */
const walkTo = (address: string): Promise<void> =>
  page.evaluate((to) => {
    history.pushState(null, '', to)
    dispatchEvent(new PopStateEvent('popstate'))
  }, address)

/** Waits until the made model is on the stage, and the picture stays as it is. */
async function settled(): Promise<void> {
  const { output } = await made(() => true)
  await page.waitForSelector(`canvas[data-model="${output!.model!}"]`)
  let before = ''
  await until(async () => {
    const now = await picture(),
      isSame = now === before
    before = now
    return isSame
  }, Boolean)
}

describe('a second layer that is painted on the model', () => {
  it('is laid by one box, and what it lacks is a finding until it is painted', async () => {
    await page.click('[data-layer-on]')
    const detail = await made((d) => d.recipe.steps.length === 1)
    expect(detail.recipe.steps[0]).toMatchObject({
      remedy: 'slots/second-layer',
      options: { slot: SLOT, by: 'vertex', set: 1, channel: 'R' },
    })
    expect(detail.output!.findings.map((f) => f.rule)).toContain('slots/layer-source')
  })
  it('shows the stroke at once, takes it back, and keeps it as a step', async () => {
    await page.click('[data-paint-begin]')
    await page.waitForSelector('[data-paint][data-ready=yes]')
    await settled()
    const bare = await picture()
    await stroke()
    await until(picture, (now) => now !== bare)
    await page.click('[data-undo]')
    await until(picture, (now) => now === bare)
    await stroke()
    await until(picture, (now) => now !== bare)
    await page.click('[data-keep-paint]')
    const detail = await made((d) => (painted(d) ?? 0) > 0.9)
    expect(detail.recipe.steps.map((s) => s.remedy)).toEqual(['slots/second-layer', 'mesh/paint-colours'])
    expect(detail.output!.findings.map((f) => f.rule)).not.toContain('slots/layer-source')
    expect(await page.$('[data-paint]')).toBeNull()
  })
  it('goes on from what is painted, and changes the same step', async () => {
    await page.waitForSelector('[data-paint-begin]:enabled')
    await settled()
    await page.click('[data-paint-begin]')
    await page.waitForSelector('[data-paint][data-ready=yes]')
    await page.click('[data-erase]')
    await page.click('[data-fill]')
    await page.click('[data-keep-paint]')
    const detail = await made((d) => painted(d) === 0)
    expect(detail.recipe.steps.map((s) => s.remedy)).toEqual(['slots/second-layer', 'mesh/paint-colours'])
  })
  it('leaves the model as it was where the bar is left', async () => {
    await page.waitForSelector('[data-paint-begin]:enabled')
    await settled()
    const bare = await picture()
    await page.click('[data-paint-begin]')
    await page.waitForSelector('[data-paint][data-ready=yes]')
    await stroke()
    await until(picture, (now) => now !== bare)
    await page.click('[data-end-paint]')
    await until(picture, (now) => now === bare)
    const { recipe } = await json<AssetDetail>(`/assets/${id}`)
    expect(recipe.steps).toHaveLength(2)
  })
  it('ends with the asset: another one is not painted, and coming back begins anew', async () => {
    await page.waitForSelector('[data-paint-begin]:enabled')
    await page.click('[data-paint-begin]')
    await page.waitForSelector('[data-paint][data-ready=yes]')
    await walkTo(`/p/${project}/assets/${other}/slots?view=shaded`)
    await until(
      () => page.$('[data-paint]'),
      (bar) => bar === null,
    )
    await walkTo(`/p/${project}/assets/${id}/slots?row=${SLOT}&view=shaded`)
    await page.waitForSelector('[data-paint-begin]:enabled')
    expect(await page.$('[data-paint]')).toBeNull()
    const { recipe } = await json<AssetDetail>(`/assets/${other}`)
    expect(recipe.steps).toEqual([])
  })
  it('is taken off by the box', async () => {
    await page.waitForSelector('[data-layer-on]:enabled')
    await page.click('[data-layer-on]')
    const detail = await made((d) => d.recipe.steps.length === 1)
    expect(detail.output!.mesh!.slots!.every((s) => s.layer === null)).toBe(true)
  })
})

describe('a part that is picked on the model', () => {
  it('is marked, taken back, and gets a slot of its own that begins as a copy', async () => {
    await page.click('[data-part]')
    await page.waitForSelector('[data-pick][data-ready=yes]')
    await settled()
    const box = (await (await page.$('canvas[data-ready]'))!.boundingBox())!
    const bare = await picture()
    const said = () => page.$eval('[data-pick] .said', (e) => e.textContent)
    await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.45)
    await until(picture, (now) => now !== bare)
    const triangles = Number(/^([\d\u202f\u00a0 ]+)/.exec(await said())![1]!.replace(/\D/g, ''))
    expect(triangles).toBeGreaterThan(0)
    await page.click('[data-pick] [data-undo]')
    await until(picture, (now) => now === bare)
    // A line drawn around a part of it: what is seen there, and with “through” what lies behind it, too
    const draw = async (): Promise<number> => {
      const corners = [
        [0.45, 0.35],
        [0.55, 0.35],
        [0.55, 0.5],
        [0.45, 0.5],
      ].map(([x, y]) => [box.x + box.width * x!, box.y + box.height * y!] as const)
      await page.mouse.move(...corners[0]!)
      await page.mouse.down()
      for (const corner of [...corners.slice(1), corners[0]!]) await page.mouse.move(...corner, { steps: 6 })
      await page.mouse.up()
      await until(picture, (now) => now !== bare)
      const count = Number(/^([\d\u202f\u00a0 ]+)/.exec(await said())![1]!.replace(/\D/g, ''))
      await page.click('[data-pick] [data-undo]')
      await until(picture, (now) => now === bare)
      return count
    }
    await page.click('[data-reach="lasso"]')
    const seen = await draw()
    await page.click('[data-through]')
    expect(seen).toBeGreaterThan(0)
    expect(await draw()).toBeGreaterThan(seen)
    await page.click('[data-reach="bend"]')
    await page.mouse.click(box.x + box.width * 0.5, box.y + box.height * 0.45)
    await until(picture, (now) => now !== bare)
    await page.type('[data-pick] input[type=text]', 'bell-dome')
    await page.click('[data-keep-part]')
    const detail = await made((d) => d.output?.mesh?.slots?.some((s) => s.name === 'bell-dome') ?? false)
    const parts = detail.output!.mesh!.nodes!.flatMap((n) =>
      n.primitives.filter((p) => p.slot === 'bell-dome'),
    )
    expect(parts.reduce((sum, p) => sum + p.triangles, 0)).toBe(triangles)
    expect(await page.$('[data-pick]')).toBeNull()
  })
})

describe('a pivot that is picked on the model', () => {
  it('goes to a vertex, along two axes, as a step; the map of distances shows beside it', async () => {
    const before = (await json<AssetDetail>(`/assets/${id}`)).output!
    await walkTo(`/p/${project}/assets/${id}/scale?beside=${other}&over=yes`)
    await page.waitForSelector('[data-measure-clearance]')
    await settled()
    const bare = await picture()
    await page.click('[data-measure-clearance]')
    await page.waitForSelector('[data-legend]', { timeout: 60_000 })
    await until(picture, (now) => now !== bare)
    await page.click('[data-clearance-map]')
    await until(picture, (now) => now === bare)
    await page.click('[data-pick-pivot]')
    await page.waitForSelector('[data-pivot][data-ready=yes]')
    expect(await page.$eval('[data-points]', (e) => e.textContent)).toContain('stands at its origin')
    await walkTo(`/p/${project}/assets/${id}/scale`)
    await page.waitForFunction(
      () => document.querySelector('[data-points]')?.textContent === 'Click vertices of the model',
    )
    await settled()
    await page.select('[data-axis="y"]', 'stays')
    const box = (await (await page.$('canvas[data-ready]'))!.boundingBox())!
    // The bell stands beside the person, right of the middle
    for (const x of [0.6, 0.65, 0.7, 0.55, 0.5]) {
      await page.mouse.click(box.x + box.width * x, box.y + box.height * 0.6)
      await new Promise((resolve) => setTimeout(resolve, 300))
      if ((await page.$('[data-keep-pivot]:enabled')) !== null) break
    }
    await page.waitForSelector('[data-keep-pivot]:enabled')
    await page.click('[data-keep-pivot]')
    const detail = await made((d) => d.recipe.steps.at(-1)?.remedy === 'scale/pivot-at-points')
    const { options } = detail.recipe.steps.at(-1)!
    const [x, , z] = options['points'] as number[]
    expect(options).toMatchObject({ y: 'stays', beside: false })
    const lowest = (state: typeof before): number[] =>
      [0, 1, 2].map((i) => Math.min(...state.mesh!.nodes!.flatMap((n) => n.bounds?.min[i] ?? [])))
    const [was, is] = [lowest(before), lowest(detail.output!)]
    expect([was[0]! - is[0]!, was[1]! - is[1]!, was[2]! - is[2]!]).toEqual(
      [x!, 0, z!].map((v) => expect.closeTo(v, 4)),
    )
    expect(detail.output!.mesh!.file.notes.pivotMeant).toBe(true)
    expect(await page.$('[data-pivot]')).toBeNull()
  }, 180_000)
})
