import { join } from 'node:path'
import { Document, NodeIO } from '@gltf-transform/core'
import type { Page } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { boxOf } from '@stern-gate/core/fixtures'
import { beginProject, dropOnto, layFiles, openApplication, press, type Application } from './testApplication'

let app: Application,
  page: Page,
  link = ''

beforeAll(async () => {
  app = await openApplication()
  page = await app.page()
  await beginProject(page, app.url, 'Gullwick Harbour')
  const folder = await layFiles(app.folder, [
    { path: 'gullwick/harbour_cleats_a.glb', bytes: await turnedBoxes() },
  ])
  await dropOnto(page, [join(folder, 'gullwick')])
  await page.waitForSelector('[data-asset]', { timeout: 60_000 })
  link = (await page.$eval('[data-asset]', (l) => l.getAttribute('href')))!
})
afterAll(() => app.stop())

/** Four boxes in a row, each with a mesh of its own and turned by a quarter. */
async function turnedBoxes(): Promise<Uint8Array> {
  const document = new Document(),
    buffer = document.createBuffer(),
    scene = document.createScene()
  const accessor = (values: Float32Array | Uint32Array, type: 'VEC3' | 'SCALAR') =>
    document.createAccessor().setType(type).setArray(values).setBuffer(buffer)
  for (let i = 0; i < 4; i++) {
    const box = boxOf(0.5 + i / 20, [0, 0, 0], 1)
    const primitive = document
      .createPrimitive()
      .setAttribute('POSITION', accessor(new Float32Array(box.positions), 'VEC3'))
      .setIndices(accessor(new Uint32Array(box.indices), 'SCALAR'))
    scene.addChild(
      document
        .createNode(`cleat_${i}`)
        .setMesh(document.createMesh(`cleat_${i}`).addPrimitive(primitive))
        .setTranslation([i, 0, 0])
        .setRotation([0, Math.SQRT1_2, 0, Math.SQRT1_2]),
    )
  }
  return new NodeIO().writeBinary(document)
}

const cards = (): Promise<number> => page.$$eval('[data-rule="scale/unbaked-transform"]', (all) => all.length)

describe('findings of one rule', () => {
  it('stand behind the first until they are asked for, or one of them is gone to', async () => {
    await page.goto(`${app.url}${link}/scale`)
    await page.waitForSelector('.like')
    expect(await cards()).toBe(1)
    await press(page, '.fold')
    await page.waitForFunction(
      () => document.querySelectorAll('[data-rule="scale/unbaked-transform"]').length === 4,
    )
    await press(page, '.fold')
    await page.waitForFunction(
      () => document.querySelectorAll('[data-rule="scale/unbaked-transform"]').length === 1,
    )
    await press(page, '[data-rule="scale/unbaked-transform"] .said')
    await page.keyboard.press('n')
    await page.waitForFunction(
      () =>
        document.querySelectorAll('[data-rule="scale/unbaked-transform"]').length === 4 &&
        document.querySelectorAll('.find.chosen').length === 1,
    )
  })
  it('are mended together by one act, which is one undo', async () => {
    await page.evaluate(() => document.querySelector<HTMLElement>('.like .btn')!.click())
    await page.waitForFunction(() => !document.querySelector('[data-rule="scale/unbaked-transform"]'), {
      timeout: 30_000,
    })
    expect(await page.$$eval('.step', (all) => all.length)).toBe(4)
    await page.keyboard.down('Control')
    await page.keyboard.press('z')
    await page.keyboard.up('Control')
    await page.waitForSelector('.like', { timeout: 30_000 })
    expect(await page.$$eval('.step', (all) => all.length)).toBe(0)
  })
})
