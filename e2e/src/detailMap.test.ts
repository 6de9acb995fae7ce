import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { AssetDetail } from '@stern-gate/contract'
import { openDemoProject, openSlot, type DemoProject } from './demoProject'
import { differingShare, settledStage } from './stagePicture'
import { madeAsset } from './testApplication'

const slot = 'pennant-cloth',
  texture = 'harbour_pennant_pole_basecolor.png',
  normalTexture = 'harbour_pennant_pole_normal.png'
let opened: DemoProject, page: Page
const made = (good: (d: AssetDetail) => boolean): Promise<AssetDetail> =>
  madeAsset(opened.app, opened.ids[0]!, good)
const slotOf = (d: AssetDetail) => (d.output ?? d.source).mesh!.slots!.find((s) => s.name === slot)!
const choose = async (name: string, value: string): Promise<void> => {
  await page.waitForSelector(`[data-texture-choice="${name}"]:enabled`)
  await page.select(`[data-texture-choice="${name}"]`, value)
}
const drawn = async (d: AssetDetail): Promise<string> => {
  await page.waitForSelector(`canvas[data-model="${d.output!.model!}"]`)
  return settledStage(page)
}

beforeAll(async () => {
  opened = await openDemoProject('Detail', ['pennant'])
  page = opened.page
  await openSlot(opened, { id: opened.ids[0]!, slot })
}, 120_000)
afterAll(() => opened.app.stop())

describe('a detail map and a layer with its own maps', () => {
  it('are chosen from the textures of the asset, seen on the model and kept as steps', async () => {
    const bare = await settledStage(page)
    await choose('detail', texture)
    const coloured = await made((d) => slotOf(d).detail !== null)
    expect(coloured.recipe.steps).toMatchObject([
      { remedy: 'slots/detail', options: { slot, texture, normalTexture: null, tiling: 8 } },
    ])
    const withColour = await drawn(coloured)
    expect(await differingShare(page, bare, withColour)).toBeGreaterThan(0.005)
    await choose('detail-normal', normalTexture)
    await made((d) => slotOf(d).textures.some((t) => t.field === 'detailNormal'))
    await page.waitForSelector('[data-value="detail-normal"] .field:enabled')
    await page.click('[data-value="detail-normal"] .field', { count: 3 })
    await page.keyboard.type('8')
    await page.keyboard.press('Enter')
    const bent = await made((d) => slotOf(d).detail?.normal === 8)
    expect(await differingShare(page, withColour, await drawn(bent))).toBeGreaterThan(0.001)
  })
  it('the layer takes normals and a range of roughness', async () => {
    const before = await settledStage(page)
    await page.click('[data-layer-on]')
    await made((d) => slotOf(d).layer !== null)
    await page.waitForSelector('[data-layer-by]:enabled')
    await page.select('[data-layer-by]', 'ramp')
    await made((d) => slotOf(d).layer?.by.kind === 'ramp')
    const plain = await settledStage(page)
    expect(await differingShare(page, before, plain)).toBeGreaterThan(0.005)
    await choose('layer-normalTexture', normalTexture)
    const bent = await made((d) => slotOf(d).textures.some((t) => t.field === 'layerNormal'))
    expect(await differingShare(page, plain, await drawn(bent))).toBeGreaterThan(0.0005)
    await choose('layer-roughnessTexture', 'harbour_pennant_pole_orm.png')
    await made((d) => slotOf(d).textures.some((t) => t.field === 'layerRoughness'))
    await page.waitForSelector('[data-value="layer-roughnessMost"]')
  })
  it('are left out where the stage draws what a target keeps', async () => {
    const { app, ids } = opened
    await fetch(`${app.url}/api/assets/${ids[0]!}`, {
      method: 'PATCH',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ target: 'browser' }),
    })
    const lost = (d: AssetDetail) =>
      (d.output ?? d.source).carryOver
        .filter((l) => l.fate === 'lost' && l.slot === slot)
        .map((l) => l.setting)
    expect(lost(await made((d) => lost(d).length > 0))).toEqual(['mask', 'second layer', 'detail map'])
    const whole = await settledStage(page)
    await page.waitForSelector('[data-as-kept]')
    await page.click('[data-as-kept]')
    await page.waitForFunction(() => document.body.textContent.includes('as the target draws it'))
    const kept = await settledStage(page)
    expect(await differingShare(page, whole, kept)).toBeGreaterThan(0.01)
    await page.click('[data-as-kept]')
    expect(await differingShare(page, whole, await settledStage(page))).toBeLessThan(0.001)
  })
  it('go again when nothing is chosen', async () => {
    await choose('detail', '')
    await made((d) => slotOf(d).textures.every((t) => t.field !== 'detail'))
    await choose('detail-normal', '')
    const without = await made((d) => slotOf(d).detail === null)
    expect(without.recipe.steps.map((s) => s.remedy)).toEqual(['slots/second-layer'])
  })
})
