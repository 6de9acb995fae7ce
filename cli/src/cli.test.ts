import { createHash } from 'node:crypto'
import { mkdtemp, readFile, rm, mkdir, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { unzipSync } from 'fflate'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { manifestSchema, reportSchema } from '@stern-gate/contract'
import { defaultRulebook, readTextureHeader, rules } from '@stern-gate/core'
import { createEngine } from '@stern-gate/engine'
import { crateFiles, type CrateOptions } from '@stern-gate/core/fixtures'
import { zipOf } from '../../engine/src/zipFixture'
import { createProgram } from './program'
import { parseStep } from './remedy'
import { version } from './version'

const workerFile = join(import.meta.dirname, '../../dist/measure-worker.js')
let folder = ''
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-cli-'))
})
afterAll(() => rm(folder, { recursive: true, force: true }))

async function stern(...args: string[]) {
  let out = '',
    err = ''
  const openEngine = () =>
    createEngine({ workerFile, threads: 1, secondsPerFile: 30, memoryMbPerThread: 512 })
  const exit = await createProgram({
    openEngine,
    cwd: folder,
    out: (t) => (out += t),
    err: (t) => (err += t),
    terminal: false,
  }).run(args)
  return { exit, out, err }
}
async function lay(name: string, options: CrateOptions): Promise<string> {
  for (const [path, bytes] of Object.entries(await crateFiles(options))) {
    await mkdir(dirname(join(folder, name, path)), { recursive: true })
    await writeFile(join(folder, name, path), bytes)
  }
  return name
}

describe('dispatch', () => {
  it('packs what is clear with a manifest, says what stays, and gives the same bytes twice', async () => {
    await lay('to-go/one', {})
    await lay('to-go/two', { name: 'harbour_box_a', textureName: 'harbour_box_a', green: 'down' })
    const { exit, out } = await stern('dispatch', 'to-go', '--out', 'p.zip')
    expect(out).toMatch(/stays  harbour_box_a: Green points down/)
    expect(out).toContain('Packed 1 of 2 assets (4 files) into p.zip.')
    expect(exit).toBe(1)
    const zip = unzipSync(new Uint8Array(await readFile(join(folder, 'p.zip'))))
    const manifest = manifestSchema.parse(JSON.parse(new TextDecoder().decode(zip['manifest.json'])))
    expect(manifest.assets.map((a) => [a.name, a.kind, a.main])).toEqual([
      ['harbour_crate_a', 'mesh', 'desk/meshes/harbour_crate_a/harbour_crate_a.glb'],
    ])
    for (const { path, sha256: hash, sizeBytes } of manifest.assets[0]!.files) {
      expect([path, zip[path]!.length]).toEqual([path, sizeBytes])
      expect(createHash('sha256').update(zip[path]!).digest('hex')).toBe(hash)
    }
    expect(Object.keys(zip)).toHaveLength(1 + manifest.assets[0]!.files.length)
    expect((await stern('dispatch', 'to-go', '--out', 'q.zip')).exit).toBe(1)
    expect(await readFile(join(folder, 'q.zip'))).toEqual(await readFile(join(folder, 'p.zip')))
  })
  it('takes textures along as the target stores them, measured, and the same twice', async () => {
    await lay('for-handheld', { embed: false, textureSize: [64, 64] })
    const args = ['dispatch', 'for-handheld', '--encode', '--target', 'handheld']
    const { out } = await stern(...args, '--out', 'e.zip')
    expect(out).toContain('3 textures encoded for handheld.')
    const zip = unzipSync(new Uint8Array(await readFile(join(folder, 'e.zip'))))
    const manifest = manifestSchema.parse(JSON.parse(new TextDecoder().decode(zip['manifest.json'])))
    const [asset] = manifest.assets
    expect(asset!.notEncoded).toEqual([])
    expect(asset!.encoded.map((e) => e.role).sort()).toEqual(['basecolor', 'normal', 'orm'])
    for (const { path, of, sha256: hash, sizeBytes } of asset!.encoded) {
      expect(asset!.files.map((f) => f.path)).toContain(of)
      expect(path).toBe(of.replace(/png$/, 'ktx2'))
      // The mark of a KTX2 file
      expect([...zip[path]!.subarray(1, 7)]).toEqual([...'KTX 20'].map((c) => c.charCodeAt(0)))
      expect([zip[path]!.length, createHash('sha256').update(zip[path]!).digest('hex')]).toEqual([
        sizeBytes,
        hash,
      ])
    }
    await stern(...args, '--out', 'f.zip')
    expect(await readFile(join(folder, 'f.zip'))).toEqual(await readFile(join(folder, 'e.zip')))
  })
  it('makes sizes and conventions of the target behind what came, and encodes what was made', async () => {
    const crate = await lay('for-another', { embed: false, textureSize: [64, 64] })
    const handheld = defaultRulebook.targets['handheld']!
    const other = {
      ...handheld,
      largestSide: 48,
      conventions: { ...handheld.conventions, green: 'down', packed: 'mro' },
    }
    const book = { ...defaultRulebook, targets: { ...defaultRulebook.targets, other } }
    await writeFile(join(folder, 'other.json'), JSON.stringify(book))
    const args = [...['dispatch', crate, '--rulebook', 'other.json'], ...['--target', 'other', '--encode']]
    const { exit, out } = await stern(...args, '--out', 'other.zip')
    expect([exit, out]).toEqual([0, expect.stringContaining('3 textures encoded for other.')])
    const zip = unzipSync(new Uint8Array(await readFile(join(folder, 'other.zip'))))
    const manifest = manifestSchema.parse(JSON.parse(new TextDecoder().decode(zip['manifest.json'])))
    const [asset] = manifest.assets
    expect(asset!.made.map((s) => s.remedy).sort()).toEqual([
      'colour/flip-green',
      'colour/repack',
      'compression/resize',
      'compression/resize',
      'compression/resize',
    ])
    expect([asset!.class, asset!.lightmap]).toEqual(['prop', null])
    expect(asset!.notEncoded).toEqual([])
    for (const { path } of [...asset!.files.filter((f) => f.part === 'texture'), ...asset!.encoded])
      expect(readTextureHeader(zip[path]!, path)).toMatchObject({ value: { width: 32, height: 32 } })
    // What is there stays as it is
    const came = await readFile(join(folder, crate, 'props/harbour_crate_a_normal.png'))
    expect(readTextureHeader(came)).toMatchObject({ value: { width: 64 } })
    await stern(...args, '--out', 'again.zip')
    expect(await readFile(join(folder, 'again.zip'))).toEqual(await readFile(join(folder, 'other.zip')))
  })
  it('says which textures it leaves as they are, since they stand inside the mesh', async () => {
    await lay('inside', { embed: true })
    const { out } = await stern('dispatch', 'inside', '--encode', '--target', 'handheld', '--out', 'i.zip')
    expect(out).toMatch(/not encoded {2}.*: It stands inside the mesh/)
  })
  it('exits 0 when everything goes, and 2 when nothing does', async () => {
    expect((await stern('dispatch', await lay('all-clear', {}), '--out', 'all.zip')).exit).toBe(0)
    const none = await stern('dispatch', await lay('none', { green: 'down' }), '--out', 'none.zip')
    expect(none).toMatchObject({ exit: 2, out: '' })
    expect(none.err).toContain('dispatch/empty')
    await expect(readFile(join(folder, 'none.zip'))).rejects.toMatchObject({ code: 'ENOENT' })
    const nowhere = await stern('dispatch', 'all-clear', '--out', 'no/such/folder/x.zip')
    expect(nowhere).toMatchObject({ exit: 2 })
    expect(nowhere.err).toContain('ENOENT')
  })
})

describe('check', () => {
  it('names what it does not look at, and exits 2 where nothing was judged', async () => {
    const name = await lay('with-more', {})
    await writeFile(join(folder, name, 'scene.work'), 'x')
    await writeFile(join(folder, name, 'read me.txt'), 'x')
    await writeFile(join(folder, name, 'a.surface.json'), '{}')
    const { exit, out } = await stern('check', name)
    expect(exit).toBe(0)
    expect(out).toContain(
      'not read  3 files of kinds that are not looked at: with-more/a.surface.json, with-more/read me.txt, with-more/scene.work',
    )
    await mkdir(join(folder, 'texts'), { recursive: true })
    for (const n of ['a.txt', 'b.txt']) await writeFile(join(folder, 'texts', n), 'x')
    const nothing = await stern('check', 'texts')
    expect(nothing.exit).toBe(2)
    expect(nothing.err).toContain('Nothing was judged')
  })
  it('exits 0 when all is clear', async () => {
    const { exit, out, err } = await stern('check', await lay('clean', {}))
    expect([exit, err]).toEqual([0, ''])
    expect(out).toContain('clear  harbour_crate_a')
  })
  it('exits 1 when something is held; the JSON follows the schema', async () => {
    const { exit, out } = await stern(
      'check',
      await lay('held', { green: 'down' }),
      '--format',
      'json',
      '--target',
      'handheld',
    )
    expect(exit).toBe(1)
    const report = reportSchema.parse(JSON.parse(out))
    expect(report).toMatchObject({ target: 'handheld', verdict: 'held', version })
    expect(report.assets[0]!.findings[0]).toMatchObject({
      rule: 'colour/normal-green',
      level: 'stop',
      place: { kind: 'texture', texture: 'harbour_crate_a_normal.png' },
    })
  })
  it('a mesh named alone finds the textures beside it', async () => {
    await lay('alone', {})
    expect((await stern('check', 'alone/props/harbour_crate_a.glb')).exit).toBe(0)
  })
  it('opens zips among the files; what stays outside is refused and holds', async () => {
    const entries = Object.entries(await crateFiles({})).map(([name, body]) => ({
      name,
      body: Buffer.from(body),
      packed: true,
    }))
    await mkdir(join(folder, 'zipped/from'), { recursive: true })
    await writeFile(join(folder, 'zipped/from/crate.zip'), zipOf(entries))
    expect(await stern('check', 'zipped')).toMatchObject({
      exit: 0,
      out: expect.stringContaining('clear  harbour_crate_a') as string,
    })
    await writeFile(
      join(folder, 'zipped/from/more.zip'),
      zipOf([{ name: '../out.png', body: Buffer.from('x') }]),
    )
    const { exit, out } = await stern('check', 'zipped', '--format', 'json')
    expect([exit, reportSchema.parse(JSON.parse(out)).refused.map((f) => [f.code, f.where.file])]).toEqual([
      1,
      [['file/unsafe-path', 'zipped/from/more.zip: ../out.png']],
    ])
  })
  it('reads an OBJ with its library, and remedy makes a GLB of it', async () => {
    await mkdir(join(folder, 'obj'), { recursive: true })
    await writeFile(
      join(folder, 'obj/harbour_plank_a.obj'),
      'mtllib plank.mtl\no harbour_plank_a\nv -50 0 -50\nv 50 0 -50\nv 50 0 50\nv -50 0 50\nv 0 100 0\nusemtl plank-wood\nf 1 2 3 4\nf 2 1 5\nf 3 2 5\nf 4 3 5\nf 1 4 5\n',
    )
    await writeFile(join(folder, 'obj/plank.mtl'), 'newmtl plank-wood\nKd 0.5 0.3 0.1\n')
    const report = reportSchema.parse(JSON.parse((await stern('check', 'obj', '--format', 'json')).out))
    expect(report.assets.map((a) => [a.name, a.files])).toEqual([
      ['harbour_plank_a', ['obj/harbour_plank_a.obj', 'obj/plank.mtl']],
    ])
    expect(
      (
        await stern(
          'remedy',
          'obj/harbour_plank_a.obj',
          '--do',
          'scale/rescale:factor=0.01',
          '--out',
          'obj/out/harbour_plank_a.glb',
        )
      ).exit,
    ).toBe(0)
    const facts = JSON.parse(
      (await stern('facts', 'obj/out/harbour_plank_a.glb', '--format', 'json')).out,
    ) as { facts: { nodes: { bounds: { max: number[] } }[] } }
    expect(facts.facts.nodes[0]!.bounds.max).toEqual([0.5, 1, 0.5])
  })
  it('takes class, rulebook and a file to write to', async () => {
    await lay('classy', { size: 5 })
    await writeFile(
      join(folder, 'lax.json'),
      JSON.stringify({
        ...defaultRulebook,
        name: 'lax',
        rules: { 'scale/expected-size': { enabled: false } },
      }),
    )
    expect((await stern('check', 'classy')).out).toContain('scale/expected-size')
    expect((await stern('check', 'classy', '--class', 'structure')).out).not.toContain('scale/expected-size')
    const done = await stern(
      'check',
      'classy',
      '--rulebook',
      'lax.json',
      '--format',
      'json',
      '--out',
      'report.json',
    )
    expect(done).toMatchObject({ exit: 0, out: '' })
    expect(JSON.parse(await readFile(join(folder, 'report.json'), 'utf8')).rulebook).toBe('lax')
  })
  it.each([
    [['check', 'nowhere'], 'file/not-found'],
    [['check', '.', '--target', 'toaster'], 'request/invalid'],
    [['check', '.', '--class', 'castle'], 'request/invalid'],
    [['check', '.', '--format', 'xml'], 'request/invalid'],
    [['check', '.', '--rulebook', 'none.json'], 'file/not-found'],
    [['schema', 'none'], 'request/invalid'],
  ])('%j cannot run: exit 2 and the code on standard error', async (args, code) => {
    const { exit, err, out } = await stern(...args)
    expect([exit, out]).toEqual([2, ''])
    expect(err).toContain(code)
  })
  it('an unknown option cannot run either', async () =>
    expect((await stern('check', '.', '--nonsense')).exit).toBe(2))
})

it('remedy mends a mesh and its textures, and what it wrote checks clear', async () => {
  await lay('broken', { size: 100, green: 'down' })
  const done = await stern(
    'remedy',
    'broken/props/harbour_crate_a.glb',
    '--do',
    'scale/rescale:factor=0.01',
    'colour/flip-green:texture=harbour_crate_a_normal.png',
    '--out',
    'mended/props/harbour_crate_a.glb',
  )
  expect(done.exit).toBe(0)
  expect(done.out.trim().split('\n')).toHaveLength(4)
  expect((await stern('check', 'mended')).exit).toBe(0)
})

it('remedy mends a texture by itself', async () => {
  await lay('single', { normalSpace: 'srgb' })
  expect(
    (
      await stern(
        'remedy',
        'single/props/harbour_crate_a_normal.png',
        '--do',
        'colour/set-space:texture=harbour_crate_a_normal.png,space=linear',
        '--out',
        'one.png',
      )
    ).exit,
  ).toBe(0)
  const { out } = await stern('facts', 'one.png')
  expect(JSON.parse(out).facts.header).toMatchObject({
    colourSpace: 'linear',
    colourEvidence: ['gAMA 1.00000'],
  })
})

it('facts of a refused file give the fault and exit 1', async () => {
  await writeFile(join(folder, 'x.glb'), 'glTF')
  const { exit, err } = await stern('facts', 'x.glb')
  expect(exit).toBe(1)
  expect(err).toContain('gltf/truncated')
})

it('rules lists every rule; schema prints a JSON schema', async () => {
  const { out } = await stern('rules')
  for (const rule of rules) expect(out).toContain(rule.id)
  expect(JSON.parse((await stern('rules', '--format', 'json')).out).rules).toHaveLength(rules.length)
  expect(JSON.parse((await stern('schema', 'report')).out)).toMatchObject({
    type: 'object',
    properties: { format: { const: 'stern-gate-report/1' } },
  })
})

it('steps are read from text', () => {
  expect(parseStep('a/b:x=1,y=true,z=wood_01,n=null')).toEqual({
    remedy: 'a/b',
    options: { x: 1, y: true, z: 'wood_01', n: null },
  })
  expect(() => parseStep('a/b:x')).toThrow()
})

it('says the version of the workspace', async () => {
  expect(JSON.parse(await readFile(join(import.meta.dirname, '../../package.json'), 'utf8')).version).toBe(
    version,
  )
})

it('a remedy is not written under the name of another format', async () => {
  const name = await lay('names', {})
  const texture = join(name, 'props', 'harbour_crate_a_basecolor.png')
  const wrong = await stern(
    'remedy',
    texture,
    '--do',
    'colour/set-space:space=linear,texture=harbour_crate_a_basecolor.png',
    '--out',
    'o.webp',
  )
  expect(wrong.exit).toBe(2)
  expect(wrong.err).toContain('What is written is PNG')
})
