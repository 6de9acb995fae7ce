import { nothingAround } from './findAmong'
import { mkdtemp, rm, writeFile, mkdir, symlink } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import sharp from 'sharp'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { defaultRulebook, fileKind, readGltfContainer } from '@stern-gate/core'
import { crateFiles, pixelsOf, type FixtureFiles } from '@stern-gate/core/fixtures'
import { floatTiff } from './tiffFixture'
import {
  checkFiles,
  createEngine,
  createFactsCache,
  decodeImage,
  encodePng,
  findFiles,
  type Engine,
} from './index'

const workerFile = join(import.meta.dirname, '../../dist/measure-worker.js')
let folder = '',
  engine: Engine
const options = { rulebook: defaultRulebook, target: 'desk', classChoice: null, version: 'test' }

beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-engine-'))
  engine = createEngine({ workerFile, threads: 2, secondsPerFile: 30, memoryMbPerThread: 512 })
})
afterAll(async () => {
  await engine.close()
  await rm(folder, { recursive: true, force: true })
})

async function lay(name: string, files: FixtureFiles | Record<string, Uint8Array | string>): Promise<string> {
  const root = join(folder, name)
  for (const [path, bytes] of Object.entries(files)) {
    await mkdir(dirname(join(root, path)), { recursive: true })
    await writeFile(join(root, path), bytes)
  }
  return root
}

describe('pictures by libvips', () => {
  it.each([
    [1, 8],
    [2, 8],
    [3, 8],
    [4, 8],
    [1, 16],
    [2, 16],
    [3, 16],
    [4, 16],
  ] as const)('%i channels of %i bits come back as they were', async (channels, depth) => {
    const full = depth === 16 ? 65535 : 255
    const pixels = pixelsOf(
      7,
      5,
      channels,
      (x, y) => Array.from({ length: channels }, (_, c) => (x * 9001 + y * 977 + c * 61) % (full + 1)),
      depth,
    )
    const png = await encodePng(pixels)
    const { readTextureHeader } = await import('@stern-gate/core')
    const header = readTextureHeader(png)
    expect(header).toMatchObject({
      ok: true,
      value: { width: 7, height: 5, channels, depth, colourSpace: 'unstated' },
    })
    const back = header.ok ? await decodeImage(png, header.value) : header
    expect(back.ok && { ...back.value, data: [...back.value.data] }).toEqual({
      ...pixels,
      data: [...pixels.data],
    })
  })
  it('a PNG whose data are broken is refused, not guessed', async () => {
    const png = await encodePng(pixelsOf(64, 64, 3, (x, y) => [x, y, x ^ y]))
    png.fill(0x55, 60, png.length - 20)
    expect(await decodeImage(png, { format: 'png', depth: 8, channels: 3 } as never)).toMatchObject({
      ok: false,
      fault: { code: 'image/undecodable' },
    })
  })
  it('of several broken pictures at once each is refused in words of its own', async () => {
    const png = await encodePng(pixelsOf(64, 64, 3, (x, y) => [x, y, x ^ y])),
      webp = new Uint8Array(await sharp(png).webp().toBuffer())
    const cut = (bytes: Uint8Array) => bytes.fill(0x55, 60 + bytes.length / 2, bytes.length - 20)
    const broken = [
      ...Array.from({ length: 6 }, () => ['png', cut(png.slice())] as const),
      ...Array.from({ length: 6 }, () => ['webp', webp.slice(0, webp.length / 2)] as const),
    ]
    const said = await Promise.all(
      broken.map(async ([format, bytes]) => {
        const back = await decodeImage(bytes, { format, depth: 8, channels: 3 } as never)
        return back.ok ? 'decoded' : back.fault.why
      }),
    )
    expect([...new Set(said)]).toEqual(
      ['PNG', 'WebP'].map((name) => `The ${name} has a sound header, but its picture cannot be decoded.`),
    )
  })
})

describe('a measuring thread', () => {
  it('has the readers of rare formats: texels of halves', async () => {
    const file = join(
      await lay('rare', { 'half.tif': floatTiff(2, 2, 2, [0, 1, 0.5, 1, 0.5, 1, 1, 0], 16) }),
      'half.tif',
    )
    const { measured } = await engine.measure(
      { path: 'half.tif', file, sha256: 'x', sizeBytes: 1 },
      nothingAround,
    )
    expect(measured).toMatchObject({
      fault: null,
      facts: { channels: [{ mean: expect.closeTo(0.5, 4) }, { mean: expect.closeTo(0.75, 4) }] },
    })
  })
})

describe('checking a folder', () => {
  it('finds a clean crate clear, and a broken one held, with the same words as the core', async () => {
    const root = await lay('two', {
      ...(await crateFiles({ textureSize: [512, 512] })),
      ...(await crateFiles({
        name: 'harbour_box_a',
        textureName: 'harbour_box_a',
        slotName: 'box-wood',
        size: 100,
        green: 'down',
        hull: false,
        textureSize: [512, 512],
      })),
    })
    const { found } = await findFiles([root], folder)
    const report = await checkFiles(engine, found, [], options)
    expect(report.assets.map((a) => [a.name, a.verdict])).toEqual([
      ['harbour_box_a', 'held'],
      ['harbour_crate_a', 'clear'],
    ])
    expect(report.assets[0]!.findings.map((f) => f.rule)).toEqual([
      'scale/expected-size',
      'colour/normal-green',
      'uvs/density',
      'collision/missing',
    ])
    expect(report.totals).toMatchObject({ assets: 2, held: 1, stops: 2, cautions: 2, refused: 0 })
  })
  it('refuses each bad file with its code and goes on with the others', async () => {
    const glb = (await crateFiles({ embed: true }))['props/harbour_crate_a.glb']!
    const png = await encodePng(pixelsOf(4, 4, 3, () => [1, 2, 3]))
    const big = png.slice()
    new DataView(big.buffer).setUint32(16, 60_000)
    new DataView(big.buffer).setUint32(20, 60_000)
    const text = (value: object) => JSON.stringify({ asset: { version: '2.0' }, ...value })
    const root = await lay('bad', {
      ...(await crateFiles()),
      'truncated.glb': glb.subarray(0, glb.length >> 1),
      'empty.glb': '',
      'picture.glb': png,
      'huge.png': big,
      'passwd.gltf': text({ buffers: [{ byteLength: 1, uri: '../../etc/passwd' }] }),
      'remote.gltf': text({ buffers: [{ byteLength: 1, uri: 'http://example.test/a.bin' }] }),
      'billions.gltf': text({ accessors: [{ componentType: 5126, count: 2_000_000_000, type: 'VEC3' }] }),
      'words.gltf': 'hello',
      'pointer.obj': `version https://git-lfs.example.test/spec/v1\noid sha256:${'a1'.repeat(32)}\nsize 58971\n`,
      'page.png': '\n<!DOCTYPE html><html><body>Log in</body></html>',
      'Thumbs.db': 'x',
      '__MACOSX/._a.png': 'x',
    })
    const { found } = await findFiles([root], folder)
    const report = await checkFiles(engine, found, [], options)
    expect(Object.fromEntries(report.refused.map((f) => [f.where.file!.split('/').at(-1), f.code]))).toEqual({
      'truncated.glb': 'gltf/truncated',
      'empty.glb': 'file/empty',
      'picture.glb': 'file/disguised',
      'huge.png': 'image/too-large',
      'passwd.gltf': 'gltf/unsafe-reference',
      'remote.gltf': 'gltf/unsafe-reference',
      'billions.gltf': 'gltf/too-large',
      'words.gltf': 'file/disguised',
      'pointer.obj': 'file/pointer',
      'page.png': 'file/web-page',
    })
    for (const fault of report.refused) expect(fault.hint.length).toBeGreaterThan(10)
    expect(report.assets.map((a) => [a.name, a.verdict])).toEqual([['harbour_crate_a', 'clear']])
    expect(report.verdict).toBe('held')
  })
  it.each([
    ['the cache', true],
    ['no cache', false],
  ] as const)(
    'a file that is gone when its turn comes refuses itself only, with %s',
    async (_name, cached) => {
      const root = await lay(`gone-${cached}`, await crateFiles())
      const { found } = await findFiles([root], folder)
      const gone = { path: 'gone.glb', file: join(root, 'gone.glb'), sizeBytes: 9 }
      let told = 0
      const report = await checkFiles(engine, [...found, gone], [], {
        ...options,
        progress: () => told++,
        ...(cached ? { cache: createFactsCache(join(folder, `cache-${cached}`)) } : {}),
      })
      expect(report.refused).toMatchObject([{ code: 'file/unreadable', where: { file: 'gone.glb' } }])
      expect(report.assets.map((a) => [a.name, a.verdict])).toEqual([['harbour_crate_a', 'clear']])
      expect(told).toBe(found.length + 1)
    },
  )
  it('does not follow links out of the folder', async () => {
    const root = await lay('links', { 'a.txt': 'x' })
    await symlink('/etc', join(root, 'etc'))
    expect((await findFiles([root], folder)).found.map((f) => f.path)).toEqual(['links/a.txt'])
  })
})

describe('limits', () => {
  it('of time end the thread with a coded fault, and the next file is measured', async () => {
    const root = await lay('slow', await crateFiles({ grid: 120, textureSize: [1024, 1024] }))
    const hasty = createEngine({ workerFile, threads: 1, secondsPerFile: 0.05, memoryMbPerThread: 512 })
    const file = (path: string) => ({ path, file: join(root, path), sha256: '', sizeBytes: 1 })
    const first = await hasty.measure(file('props/harbour_crate_a.glb'), nothingAround)
    expect(first.measured.fault).toMatchObject({
      code: 'file/timeout',
      where: { file: 'props/harbour_crate_a.glb' },
    })
    await hasty.close()
    const second = await engine.measure(file('props/harbour_crate_a.glb'), nothingAround)
    expect(second.measured.fault).toBeNull()
  })
  it('of time do not count the wait for a thread', { timeout: 120_000, retry: 2 }, async () => {
    const root = await lay('queue', await crateFiles({ grid: 20, textureSize: [256, 256] }))
    const file = {
      path: 'props/harbour_crate_a.glb',
      file: join(root, 'props/harbour_crate_a.glb'),
      sha256: '',
      sizeBytes: 1,
    }
    const taken: number[] = []
    for (let i = 0; i < 4; i++) {
      const from = performance.now()
      await engine.measure(file, nothingAround)
      taken.push((performance.now() - from) / 1000)
    }
    // Each may take eight times what it takes, and the last ones wait longer than that
    const limit = Math.max(2, 8 * Math.max(...taken.slice(1)))
    const patient = createEngine({
      workerFile,
      threads: 1,
      secondsPerFile: limit / 0.375,
      memoryMbPerThread: 512,
    })
    const all = await Promise.all(
      Array.from({ length: Math.ceil((1.5 * limit) / Math.min(...taken)) }, () =>
        patient.measure(file, nothingAround),
      ),
    )
    expect(all.flatMap((done) => done.measured.fault?.code ?? [])).toEqual([])
    await patient.close()
  })
  it('of memory likewise', async () => {
    const root = await lay('greedy', {
      'a.gltf': JSON.stringify({
        asset: { version: '2.0' },
        nodes: Array.from({ length: 300_000 }, (_, i) => ({ name: `n${i}`, translation: [i, 0, 0] })),
        scenes: [{ nodes: Array.from({ length: 300_000 }, (_, i) => i) }],
      }),
    })
    const small = createEngine({ workerFile, threads: 1, secondsPerFile: 60, memoryMbPerThread: 48 })
    const done = await small.measure(
      { path: 'a.gltf', file: join(root, 'a.gltf'), sha256: '', sizeBytes: 1 },
      nothingAround,
    )
    expect(done.measured.fault?.code).toBe('file/out-of-memory')
    await small.close()
  }, 90_000)
  it('a cancelled task throws at once', async () => {
    const stop = new AbortController()
    stop.abort()
    await expect(
      engine.measure({ path: 'x.png', file: '/dev/null', sha256: '', sizeBytes: 0 }, nothingAround, {
        signal: stop.signal,
      }),
    ).rejects.toThrow()
  })
})

it('mends as a recipe says, tells progress, and measures what came out', async () => {
  const files = await crateFiles({ size: 100 })
  const root = await lay('mend', files)
  const said: string[] = []
  const parts = Object.keys(files).map((path) => ({
    path,
    part: path.endsWith('.glb') ? ('mesh' as const) : ('texture' as const),
    file: join(root, path),
  }))
  const done = await engine.mend(
    { name: 'harbour_crate_a', assetKind: 'mesh', main: 'props/harbour_crate_a.glb', files: parts },
    { steps: [{ id: 'a', remedy: 'scale/rescale', options: { factor: 0.01 }, on: true, why: '' }] },
    { progress: (doing) => said.push(doing) },
  )
  expect(done.ok && done.value.results[0]).toMatchObject({ changed: true })
  const facts = done.ok ? done.value.measurements[0]!.measured.facts : null
  expect(facts?.kind === 'mesh' && facts.nodes![0]!.bounds).toEqual({
    min: [-0.5, 0, -0.5],
    max: [0.5, 1, 0.5],
  })
  expect(done.ok && done.value.measurements[0]!.thumbnail!.length).toBeGreaterThan(200)
  expect(said).toContain('applying the recipe')
})

it('gives one GLB for the stage out of a mesh and its textures, and a picture of a texture', async () => {
  const files = await crateFiles({})
  const root = await lay('stage', files)
  const parts = Object.keys(files).map((path) => ({
    path,
    part: path.endsWith('.glb') ? ('mesh' as const) : ('texture' as const),
    file: join(root, path),
  }))
  const model = await engine.stageModel({
    name: 'harbour_crate_a',
    assetKind: 'mesh',
    main: 'props/harbour_crate_a.glb',
    files: parts,
  })
  expect(model.ok && readGltfContainer(model.value!)).toMatchObject({ ok: true })
  const texture = parts.find((p) => p.path.endsWith('.png'))!
  const picture = await engine.picture(texture.file, texture.path)
  expect(picture.ok && fileKind(picture.value, 'a.png')).toBe('png')
})
