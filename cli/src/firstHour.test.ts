import { execFileSync } from 'node:child_process'
import { mkdir, mkdtemp, readFile, rm, stat, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { reportSchema, type Report } from '@stern-gate/contract'
import { crateFiles, type CrateOptions } from '@stern-gate/core/fixtures'
import { runIn } from './testProgram'

let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-hour-'))
})
afterAll(() => rm(folder, { recursive: true, force: true }))

const stern = (...args: string[]) => runIn(folder, args)
const report = async (...args: string[]): Promise<{ exit: number; report: Report; err: string }> => {
  const { exit, out, err } = await stern('check', ...args, '--format', 'json', '--no-cache')
  return { exit, report: reportSchema.parse(JSON.parse(out)), err }
}
async function lay(name: string, options: CrateOptions): Promise<string> {
  for (const [path, bytes] of Object.entries(await crateFiles(options))) {
    await mkdir(dirname(join(folder, name, path)), { recursive: true })
    await writeFile(join(folder, name, path), bytes)
  }
  return name
}
const write = (path: string, value: unknown): Promise<void> =>
  writeFile(join(folder, path), typeof value === 'string' ? value : JSON.stringify(value))
const rulesOf = (r: Report): Record<string, string[]> =>
  Object.fromEntries(r.assets.map((a) => [a.name, [...new Set(a.findings.map((f) => f.rule))].sort()]))

describe('fit, mend and check', () => {
  it('take a folder of another custom to what matters, without a screen', async () => {
    for (const [n, noun] of ['Crate', 'Barrel', 'Lamp', 'Anchor', 'Buoy', 'Crane'].entries())
      await lay('lib', {
        name: `KIT_Old${noun}`,
        folder: 'models',
        textureName: `KIT_Old${noun}`,
        ormName: 'Packed',
        slotName: `Wood-${noun}`,
        hull: false,
        grid: 4 + n,
        textureSize: [64, 64],
        slivers: n % 2 ? 2 : 0,
        ...(n === 5 ? { green: 'down' as const } : {}),
      })
    const first = await report('lib')
    expect(Object.values(rulesOf(first.report)).every((r) => r.includes('names/pattern'))).toBe(true)

    const fitted = await stern('fit', 'lib', '--out', 'lib/stern-gate.json', '--no-cache')
    expect(fitted.exit).toBe(0)
    expect(fitted.out).toContain('Names of meshes: fits 6 of 6')
    // Found above the files, and none of them
    const second = await report('lib')
    expect(second.report.rulebook).toBe('fitted')
    expect(second.report.notRead).toEqual([])
    expect(rulesOf(second.report)).toEqual({
      KIT_OldAnchor: ['mesh/degenerate'],
      KIT_OldBarrel: ['mesh/degenerate'],
      KIT_OldBuoy: [],
      KIT_OldCrane: ['colour/normal-green', 'mesh/degenerate'],
      KIT_OldCrate: [],
      KIT_OldLamp: [],
    })
    const mended = await report('lib', '--mend', '--into', 'out')
    expect(mended.err).toContain('3 assets mended in 3 steps, 12 files written')
    expect(rulesOf(mended.report)).toMatchObject({ KIT_OldAnchor: [], KIT_OldCrane: ['colour/normal-green'] })
    expect(mended.exit).toBe(1)
    // What was written is what was judged
    const again = await report('out', '--rulebook', 'lib/stern-gate.json')
    expect(rulesOf(again.report)).toEqual({
      KIT_OldAnchor: [],
      KIT_OldBarrel: [],
      KIT_OldCrane: ['colour/normal-green'],
    })

    await write('lib/waivers.json', {
      waivers: [
        {
          rule: 'colour/normal-green',
          scope: { kind: 'files', glob: '**/KIT_OldCrane.glb' },
          reason: 'seen from far only',
        },
      ],
    })
    const last = await report('lib')
    expect([last.exit, last.report.totals.waived, last.report.totals.stops]).toEqual([0, 1, 0])
    const all = await report('lib', '--mend', 'all', '--into', 'all')
    expect(rulesOf(all.report)['KIT_OldCrane']).toEqual(['colour/normal-green'])
  })
  it('say in every form of report what is accepted', async () => {
    const text = await stern('check', 'lib', '--no-cache')
    expect(text.out).toMatch(/waived {3}colour\/normal-green/)
    expect(text.out).toContain('accepted: seen from far only')
    expect(text.out).toContain('1 waived.')
    const sarif = JSON.parse((await stern('check', 'lib', '--format', 'sarif', '--no-cache')).out) as {
      runs: { results: { ruleId: string; suppressions?: unknown[] }[] }[]
    }
    expect(sarif.runs[0]!.results.find((r) => r.ruleId === 'colour/normal-green')!.suppressions).toEqual([
      { kind: 'external', status: 'accepted', justification: 'seen from far only' },
    ])
    const junit = (await stern('check', 'lib', '--format', 'junit', '--no-cache')).out
    expect(junit).toMatch(/colour\/normal-green[^]*<skipped message="[^"]*seen from far only" \/>/)
  })
  it('mend in place, but not over what nobody committed', async () => {
    await lay('tree', { slivers: 2 })
    const git = (...args: string[]) =>
      execFileSync('git', ['-C', join(folder, 'tree'), ...args], { stdio: 'pipe' })
    git('init', '-q')
    git('add', '-A')
    git('-c', 'user.name=t', '-c', 'user.email=t@t', 'commit', '-qm', 'first')
    const file = join(folder, 'tree/props/harbour_crate_a.glb')
    const inTree = { out: '', err: '' }
    const run = async (...args: string[]) => {
      const { exit, out, err } = await runIn(join(folder, 'tree'), args)
      inTree.out += out
      inTree.err += err
      return exit
    }
    const before = await stat(file)
    await writeFile(
      join(folder, 'tree/props/harbour_crate_a_normal.png'),
      await readFile(join(folder, 'tree/props/harbour_crate_a_basecolor.png')),
    )
    expect(await run('check', 'props', '--mend', '--write', '--no-cache')).toBe(2)
    expect(inTree.err).toContain('not committed')
    expect((await stat(file)).size).toBe(before.size)
    git('checkout', '-q', '--', '.')
    expect(await run('check', 'props', '--mend', '--write', '--no-cache')).toBe(0)
    expect((await stat(file)).size).not.toBe(before.size)
    expect(inTree.err).toContain('1 asset mended in 1 step,')
  })
  it('refuse what does not say where to', async () => {
    for (const args of [['--mend'], ['--mend', '--into', 'a', '--write'], ['--mend', 'some', '--into', 'a']])
      expect(await stern('check', 'lib', ...args)).toMatchObject({ exit: 2, out: '' })
  })
})

describe('an intake preset of the rulebook', () => {
  it('takes meshes in, and mends what it says is mended', async () => {
    await lay('boats', { size: 100, strays: ['light'], slivers: 2 })
    await write('boats/stern-gate.json', {
      extends: 'default',
      intake: {
        'from the yard': { options: { unit: 'centimetre', strays: true }, generator: 'yard', folder: '' },
        'as ready': { options: { unit: 'centimetre' }, mend: true },
      },
    })
    const before = rulesOf((await report('boats')).report)['harbour_crate_a']!
    expect(before).toEqual(expect.arrayContaining(['scale/expected-size', 'files/strays', 'mesh/degenerate']))
    const taken = await report('boats', '--intake', 'from the yard', '--into', 'taken')
    expect(taken.err).toContain('1 asset taken in by the preset from the yard')
    expect(rulesOf(taken.report)['harbour_crate_a']).toContain('mesh/degenerate')
    for (const rule of ['scale/expected-size', 'files/strays'])
      expect(rulesOf(taken.report)['harbour_crate_a']).not.toContain(rule)
    // What was written is what was judged
    const again = await report('taken', '--rulebook', 'boats/stern-gate.json')
    expect(rulesOf(again.report)).toEqual(rulesOf(taken.report))
    const ready = await report('boats', '--intake', 'as ready', '--into', 'ready')
    expect(ready.err).toMatch(/taken in by the preset as ready[^]*1 asset mended in 1 step/)
    expect(rulesOf(ready.report)['harbour_crate_a']).not.toContain('mesh/degenerate')
    const all = await report('boats', '--intake', 'from the yard', '--mend', '--into', 'all')
    expect(rulesOf(all.report)['harbour_crate_a']).not.toContain('mesh/degenerate')
  })
  it('is refused where there is none of its name, and without a place to write to', async () => {
    expect((await stern('check', 'boats', '--intake', 'by sea', '--into', 'x')).err).toContain(
      'Use as ready, from the yard.',
    )
    expect(await stern('check', 'boats', '--intake', 'as ready')).toMatchObject({ exit: 2, out: '' })
    await lay('bare', {})
    expect((await stern('check', 'bare', '--intake', 'as ready', '--into', 'x')).err).toContain(
      'no intake preset called as ready',
    )
  })
})

describe('a rulebook file', () => {
  it('begins from another, sets levels by path, and is refused with its place', async () => {
    await lay('ext', { green: 'down' })
    await write('ext/base.json', { extends: 'relaxed', personHeight: 2 })
    await write('ext/stern-gate.json', {
      extends: './base.json',
      name: 'ours',
      overrides: [{ files: 'ext/props/**', rules: { 'colour/normal-green': { level: 'note' } } }],
    })
    const { report: own, exit } = await report('ext')
    expect([own.rulebook, exit]).toEqual(['ours', 0])
    expect(own.assets[0]!.findings.find((f) => f.rule === 'colour/normal-green')!.level).toBe('note')
    await write('ext/stern-gate.json', { extends: 'default', overrides: [{ files: 'x/**', rules: {} }] })
    expect((await report('ext')).exit).toBe(1)
    await write('ext/stern-gate.json', { extends: 'default', tides: 3 })
    expect((await stern('check', 'ext')).err).toMatch(/tides/)
    await write('ext/stern-gate.json', { extends: './stern-gate.json' })
    expect((await stern('check', 'ext')).err).toContain('circle')
    await write('ext/stern-gate.json', { extends: 'default', waivers: [{ rule: 'x' }] })
    expect((await stern('check', 'ext')).err).toContain('waivers.0')
    await write('ext/stern-gate.json', '{"extends": ')
    expect((await stern('check', 'ext')).err).toContain('It is no JSON')
    // A file that is named goes before the one that is found
    await write('other.json', { extends: 'strict' })
    expect((await report('ext', '--rulebook', 'other.json')).report.rulebook).toBe('strict')
  })
})
