// npm run rule-pictures [-- WORD…]: draws the first broken case of each rule with the running demo’s stages, for the
// Rulebook: into web/public/rules; without words those that are not there. Each case is a project of its own there; start the demo over afterwards.
import { spawnSync } from 'node:child_process'
import { existsSync, mkdirSync, mkdtempSync, readdirSync, readFileSync, rmSync } from 'node:fs'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { launch } from 'puppeteer-core'
import sharp from 'sharp'
import { chromiumFlags } from './chromiumFlags.mjs'
import { chromiumPath } from './debian.mjs'
import { root } from './root.mjs'

const WIDTH = 540
/** Width of a ruler with its frame, and twice that of the frame alone. */
const RIM = 20
const { url } = JSON.parse(readFileSync(join(root, '.stern', 'demo.running'), 'utf8'))
const out = join(root, 'web/public/rules')
mkdirSync(out, { recursive: true })
const cases = mkdtempSync(join(tmpdir(), 'stern-cases-'))
spawnSync(process.execPath, [join(root, 'dist/docs.js'), '--cases', cases], { stdio: 'inherit' })
const asked = process.argv.slice(2)
for (const name of readdirSync(cases)) {
  const made = JSON.parse(readFileSync(join(cases, name, 'case.json'), 'utf8'))
  const isAsked =
    asked.length > 0 ? asked.some((word) => name.includes(word)) : !existsSync(join(out, `${name}.webp`))
  if (!isAsked) continue

  try {
    const place = await deliver(name, made)
    process.stdout.write(place ? `${name}\n` : `${name}: this case does not say it here\n`)
    if (place) await draw(name, place)
  } catch (error) {
    process.stdout.write(`${name}: ${error.message}\n`)
  }
}
rmSync(cases, { recursive: true, force: true })

async function call(method, path, body) {
  const answer = await fetch(`${url}/api${path}`, {
    method,
    ...(body instanceof FormData
      ? { body }
      : body
        ? { body: JSON.stringify(body), headers: { 'content-type': 'application/json' } }
        : {}),
  })
  if (!answer.ok) throw new Error(`${method} ${path}: ${await answer.text()}`)
  return answer.json()
}

/** Delivers a case to a project of its own; the address of its finding, or null where it is none. */
async function deliver(name, { rule, station, options, settings, files }) {
  const project = await call('POST', '/projects', { name: `rule ${rule}` })
  const { rulebook, revision } = await call('GET', `/projects/${project.id}/rulebook`)
  rulebook.rules[rule] = { ...rulebook.rules[rule], options }
  if (settings.green) rulebook.green = settings.green
  if (settings.target) rulebook.defaultTarget = settings.target
  for (const target of Object.values(rulebook.targets)) {
    Object.assign(target, settings.limits)
    if (settings.assetMiB) target.textureMemoryMiB.asset = settings.assetMiB
  }
  await call('PUT', `/projects/${project.id}/rulebook`, { rulebook, revision, note: 'case' })
  const delivery = await call('POST', `/projects/${project.id}/deliveries`, { note: rule })
  const form = new FormData()
  for (const path of files)
    form.append('files', new Blob([readFileSync(join(cases, name, 'files', path))]), path)
  await call('POST', `/deliveries/${delivery.id}/files`, form)
  await call('POST', `/deliveries/${delivery.id}/close`)
  for (let tries = 0; tries < 120; tries++) {
    await new Promise((resolve) => setTimeout(resolve, 250))
    const [row] = await call('GET', `/projects/${project.id}/assets`)
    if (row?.state !== 'judged') continue
    const detail = await call('GET', `/assets/${row.id}`)
    const found = detail.source.findings.find((f) => f.rule === rule)
    return found && `/p/${project.id}/assets/${row.id}/${station}?finding=${found.fingerprint}`
  }
  return null
}

/** The stage with the finding chosen, half as large. */
async function draw(name, place) {
  const browser = await launch({
    executablePath: chromiumPath(),
    args: chromiumFlags,
    defaultViewport: { width: 1280, height: 800 },
  })
  const page = await browser.newPage()
  await page.evaluateOnNewDocument(() => localStorage.setItem('stern-gate-night', 'no'))
  await page.goto(url + place, { waitUntil: 'networkidle2' })
  await page.waitForSelector('.find.chosen', { timeout: 20_000 })
  await new Promise((resolve) => setTimeout(resolve, 4000))
  // What is pressed there is no part of the fault
  await page.addStyleTag({ content: '.bench .place .tools { display: none }' })
  const stage = await page.$('.bench .place')
  const picture = await stage.screenshot()
  // Without the rulers around it
  const { width, height } = await sharp(picture).metadata()
  await sharp(picture)
    .extract({ left: RIM, top: RIM, width: width - RIM * 1.5, height: height - RIM * 1.5 })
    .resize({ width: WIDTH })
    .webp({ quality: 76 })
    .toFile(join(out, `${name}.webp`))
  await browser.close()
}
