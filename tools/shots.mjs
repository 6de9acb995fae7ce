// npm run shots [-- NAME…]: takes the pictures of docs/screenshots, or those of these names, from a running demo.
import { mkdirSync, readFileSync } from 'node:fs'
import { join } from 'node:path'
import { launch } from 'puppeteer-core'
import { chromiumFlags } from './chromiumFlags.mjs'
import { chromiumPath } from './debian.mjs'
import { root } from './root.mjs'

const { url } = JSON.parse(readFileSync(join(root, '.stern', 'demo.running'), 'utf8'))
const folder = join(root, 'docs', 'screenshots')
mkdirSync(folder, { recursive: true })
const [project] = await (await fetch(`${url}/api/projects`)).json()
const assets = await (await fetch(`${url}/api/projects/${project.id}/assets`)).json()
const idOf = (word) => assets.find((a) => a.name.includes(word)).id
const deliveries = await (await fetch(`${url}/api/projects/${project.id}/deliveries`)).json()
const deliveryOf = (word) => deliveries.find((d) => d.note.includes(word)).id
const bench = (word, station) => `/p/${project.id}/assets/${idOf(word)}/${station}`
const scene = await (await fetch(`${url}/api/assets/${idOf('shed_set')}/scene`, { method: 'POST' })).json()
const pictures = [
  ['arrivals-day', `/p/${project.id}/arrivals`],
  ['arrivals-night', `/p/${project.id}/arrivals`],
  ['bench-scale-day', bench('skiff', 'scale'), '.find .btn.go'],
  ['bench-many-night', `${bench('lantern', 'lods')}?view=many`],
  ['bench-colour-day', bench('lantern', 'colour')],
  ['bench-lods-night', bench('lantern', 'lods')],
  ['assets-day', `/p/${project.id}/assets`],
  ['bench-uvs-day', bench('quaystone', 'uvs')],
  ['bench-slots-day', `${bench('pennant', 'slots')}?view=shaded&row=pennant-cloth`],
  ['bench-collision-night', bench('bollard', 'collision'), '[data-drop]', 'drop'],
  ['bench-mesh-day', bench('winch', 'mesh'), null, 'n'],
  [
    'bench-compression-night',
    `${bench('bollard', 'compression')}?texture=harbour_bollard_iron_normal.png`,
    '[data-format="ASTC 5×5"] button',
    'encode',
  ],
  ['scene-day', `/p/${project.id}/scenes/${scene.id}`, null, 'ArrowDown'],
  ['pairing-day', `/p/${project.id}/pairing?delivery=${deliveryOf('workshop')}`],
  ['bench-names-day', bench('bollard', 'names')],
  ['dispatch-day', `/p/${project.id}/dispatch`],
  ['rulebook-day', `/p/${project.id}/rulebook?rule=mesh/triangle-budget`, null, 'limit'],
  ['rulebook-night', `/p/${project.id}/rulebook?part=names`],
  ['ledger-day', `/p/${project.id}/ledger`],
]
const browser = await launch({
  executablePath: chromiumPath(),
  args: chromiumFlags,
  defaultViewport: { width: 1280, height: 800 },
})
const asked = process.argv.slice(2)
for (const [name, path, hover, key] of pictures) {
  if (asked.length > 0 && !asked.some((word) => name.includes(word))) continue
  const page = await browser.newPage()
  await page.evaluateOnNewDocument(
    (n) => localStorage.setItem('stern-gate-night', n),
    name.endsWith('night') ? 'yes' : 'no',
  )
  await page.goto(url + path, { waitUntil: 'networkidle2' })
  await page.waitForSelector(
    path.endsWith('dispatch')
      ? '.choice .go:enabled'
      : /arrivals$|assets$/.test(path)
        ? '[data-asset]'
        : /rulebook/.test(path)
          ? '[data-limit], .names li'
          : /pairing/.test(path)
            ? '[data-cell="basecolor"] img'
            : path.endsWith('ledger')
              ? '[data-waiver]'
              : /scenes/.test(path)
                ? '[data-part]'
                : '.facts, .surface, .formats',
  )
  await new Promise((resolve) => setTimeout(resolve, 4500))
  if (key === 'limit') {
    await page.$eval('[data-limit]', (pin) => pin.focus())
    for (let i = 0; i < 9; i++) {
      await page.keyboard.down('Shift')
      await page.keyboard.press('ArrowLeft')
      await page.keyboard.up('Shift')
      await new Promise((resolve) => setTimeout(resolve, 250))
    }
  } else if (key === 'encode') await page.click(hover)
  else if (key === 'drop') {
    await page.click(hover)
    await page.waitForSelector('[data-dropped]', { timeout: 60_000 })
  } else if (key) await page.keyboard.press(key)
  if (path.endsWith('dispatch')) {
    await page.type('[aria-label="Note"]', 'first playable')
    await page.click('[data-encode]')
    await page.click('.choice .go')
    await page.waitForSelector('a[download]', { timeout: 240_000 })
    await new Promise((resolve) => setTimeout(resolve, 1200))
  }
  if (hover) await page.hover(hover)
  await new Promise((resolve) => setTimeout(resolve, hover || key ? 5000 : 300))
  await page.screenshot({ path: join(folder, `${name}.png`) })
  await page.close()
}
await browser.close()
