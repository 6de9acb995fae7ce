import { mkdir, mkdtemp, readFile, readdir, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { beforeAll, describe, expect, it } from 'vitest'
import { pairingReportSchema, type PairingReport } from '@stern-gate/contract'
import { crateFiles, pixelsOf, pngOf, rollingNormal } from '@stern-gate/core/fixtures'
import { runIn } from './testProgram'

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-pair-'))
  const bare = await crateFiles({
    name: 'harbour_crate_c',
    inputs: [],
    hull: false,
    faceSlots: ['crate-pine', 'crate-iron'],
  })
  const pine = pixelsOf(64, 64, 3, (x, y) => [150 + ((x * 7 + y) % 40), 100 + ((x * 5) % 30), 60])
  const loose: Record<string, Uint8Array> = {
    'from outside/CratePine_diffiuse.png': pngOf(pine),
    'from outside/CratePine_nrm.png': pngOf(rollingNormal(64, 'up')),
    'from outside/crate-iron albedo 2k.png': pngOf(pixelsOf(64, 64, 3, (x) => [90, 92 + (x % 9), 96])),
    'from outside/crate-iron nml 2k.png': pngOf(rollingNormal(64, 'up')),
    'from outside/crate-iron gloss 2k.png': pngOf(pixelsOf(64, 64, 1, () => [55])),
    'from outside/ref photo 14.png': pngOf(pixelsOf(64, 64, 3, (x, y) => [x * 3, y * 3, 90])),
  }
  for (const [path, bytes] of Object.entries({ ...bare, ...loose })) {
    await mkdir(dirname(join(folder, path)), { recursive: true })
    await writeFile(join(folder, path), bytes)
  }
})

describe('stern-gate pair', () => {
  it('says which texture feeds what, as text and as JSON that keeps to its schema', async () => {
    const text = await runIn(folder, ['pair', '.', '--no-cache'])
    expect(text.out).toMatch(/crate-pine {2}on harbour_crate_c/)
    expect(text.out).toMatch(/✓ {2}base colour {3}0\.9\d {2}from outside\/CratePine_diffiuse\.png/)
    expect(text.out).toMatch(/In no slot:\n {2}from outside\/ref photo 14\.png/)
    expect(text.exit).toBe(0)
    const { out } = await runIn(folder, ['pair', '.', '--format', 'json', '--no-cache'])
    const report: PairingReport = pairingReportSchema.parse(JSON.parse(out))
    expect(report.totals).toMatchObject({ slots: 2, textures: 6, accepted: 5, unsure: 0, open: 0, tray: 1 })
    expect(report.cells.find((c) => c.input === 'roughness')).toMatchObject({ inverted: true })
  })

  it('writes meshes that have them, gloss turned to roughness', async () => {
    const { exit, err } = await runIn(folder, ['pair', '.', '--into', 'fed', '--no-cache'])
    expect([exit, err]).toEqual([0, '1 mesh with textures written into fed\n'])
    const written = (await readdir(join(folder, 'fed'), { recursive: true })).map(String)
    expect(written.filter((f) => f.endsWith('.png')).sort()).toEqual([
      'from outside/CratePine_diffiuse.png',
      'from outside/CratePine_nrm.png',
      'from outside/crate-iron albedo 2k.png',
      'from outside/crate-iron gloss_orm.png',
      'from outside/crate-iron nml 2k.png',
    ])
    const mesh = written.find((f) => f.endsWith('.glb'))!
    const json = JSON.parse(
      new TextDecoder()
        .decode((await readFile(join(folder, 'fed', mesh))).subarray(20))
        .split('\0')[0]!
        .replace(/\}[^}]*$/, '}'),
    )
    expect(json.materials.map((m: { name: string }) => m.name)).toEqual(['crate-pine', 'crate-iron'])
    // Fed once more there is nothing left to find
    const again = await runIn(join(folder, 'fed'), ['pair', '.', '--no-cache'])
    expect(again.out).toMatch(/0 cells from 0\.9 on, 0 below, 0 open, 5 fed before/)
  })

  it('exits with 1 where a slot has nothing, and with 2 for a confidence that is none', async () => {
    await mkdir(join(folder, 'bare'), { recursive: true })
    for (const [path, bytes] of Object.entries(await crateFiles({ inputs: [], hull: false }))) {
      await mkdir(dirname(join(folder, 'bare', path)), { recursive: true })
      await writeFile(join(folder, 'bare', path), bytes)
    }
    const open = await runIn(folder, ['pair', 'bare', '--no-cache'])
    // Its textures may still come: values in their place are taken only when they are asked for
    expect([open.exit, /\? {2}base colour {3}0\.95 {2}dry wood, by values/.test(open.out)]).toEqual([1, true])
    const byValues = await runIn(folder, ['pair', 'bare', '--values', '--into', 'wooden', '--no-cache'])
    expect([byValues.exit, byValues.err]).toEqual([0, '1 mesh with textures written into wooden\n'])
    for (const accept of ['2', 'much', ''])
      expect((await runIn(folder, ['pair', '.', '--accept', accept])).exit).toBe(2)
  })
})
