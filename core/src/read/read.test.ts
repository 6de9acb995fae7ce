import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { judge } from '../judge/judge'
import { crateFiles } from '../fixtures/crateFixture'
import { measureFixture, subjectsOf } from '../fixtures/measureFixture'
import { pixelsOf, pngOf } from '../fixtures/pngFixture'
import { likeness } from '../matching/likeness'
import { pngChunk, joinBytes, withPngColourSpace } from '../write/pngColourSpace'
import { checkDeliveryPath, fileStem, referencePath, resolveReference } from './deliveryPath'
import { fileKind } from './fileKind'
import { dataUriBytes } from './gltfReferences'
import { chunkData, pngChunks } from './readPngHeader'
import { readGltfContainer } from './readGltfContainer'
import { readTextureHeader } from './readTextureHeader'

const text = (value: unknown): Uint8Array =>
  new TextEncoder().encode(typeof value === 'string' ? value : JSON.stringify(value))
const codeOf = (result: { ok: boolean; fault?: { code: string } }): string =>
  result.ok ? 'ok' : result.fault!.code
const gltf = (more: object): Uint8Array => text({ asset: { version: '2.0' }, ...more })
const crate = async (): Promise<Uint8Array> =>
  (await crateFiles({ embed: true }))['props/harbour_crate_a.glb']!

describe('GLB and glTF that are damaged are refused with code and place', () => {
  it('truncated at every tenth byte, a GLB never reads and never throws', async () => {
    const glb = await crate()
    for (let end = 0; end < glb.length; end += Math.ceil(glb.length / 60))
      expect(codeOf(readGltfContainer(glb.subarray(0, end)))).toMatch(/^gltf\//)
  })
  it.each([
    ['no JSON', text('{"asset":'), 'gltf/bad-json'],
    ['an old version', text({ asset: { version: '1.0' } }), 'gltf/unsupported-version'],
    ['no asset', text({}), 'gltf/bad-structure'],
    ['nodes that are no list', gltf({ nodes: 7 }), 'gltf/bad-structure'],
    [
      'an accessor of two billion elements',
      gltf({ accessors: [{ componentType: 5126, count: 2_000_000_000, type: 'VEC3' }] }),
      'gltf/too-large',
    ],
    [
      'an accessor that runs past its view',
      gltf({
        buffers: [{ byteLength: 12, uri: 'a.bin' }],
        bufferViews: [{ buffer: 0, byteLength: 12 }],
        accessors: [{ bufferView: 0, componentType: 5126, count: 2, type: 'VEC3' }],
      }),
      'gltf/out-of-bounds',
    ],
    [
      'a view that runs past its buffer',
      gltf({
        buffers: [{ byteLength: 12, uri: 'a.bin' }],
        bufferViews: [{ buffer: 0, byteOffset: 8, byteLength: 12 }],
      }),
      'gltf/out-of-bounds',
    ],
    [
      'a node that is its own ancestor',
      gltf({ nodes: [{ children: [1] }, { children: [0] }] }),
      'gltf/bad-structure',
    ],
    [
      'a node with two parents',
      gltf({ nodes: [{ children: [2] }, { children: [2] }, {}] }),
      'gltf/bad-structure',
    ],
    ['a mesh that is not there', gltf({ nodes: [{ mesh: 3 }] }), 'gltf/out-of-bounds'],
    ['an image from nowhere', gltf({ images: [{}] }), 'gltf/bad-structure'],
    [
      'a negative count',
      gltf({ accessors: [{ componentType: 5126, count: -1, type: 'VEC3' }] }),
      'gltf/bad-structure',
    ],
    [
      'nesting of 600',
      gltf({ nodes: Array.from({ length: 600 }, (_, i) => (i < 599 ? { children: [i + 1] } : {})) }),
      'gltf/bad-structure',
    ],
  ])('%s', (_, bytes, code) => expect(codeOf(readGltfContainer(bytes))).toBe(code))

  it('flipped bytes give facts or a coded fault, never a throw (seeded)', async () => {
    const glb = await crate()
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.nat(glb.length - 1), fc.nat(255)), { minLength: 1, maxLength: 12 }),
        async (flips) => {
          const bytes = glb.slice()
          for (const [at, value] of flips) bytes[at] = value
          const [measured] = await measureFixture({ 'props/harbour_crate_a.glb': bytes })
          expect(measured!.facts !== null || measured!.fault !== null || measured!.kind === 'unknown').toBe(
            true,
          )
        },
      ),
      { numRuns: 150, seed: 20261124 },
    )
  }, 60_000)
})

describe('references', () => {
  it('find a picture under another extension, if it is the only one; geometry never', () => {
    expect(resolveReference('a/wood.old', ['a/wood.png', 'a/wood.glb'])).toEqual({
      path: 'a/wood.png',
      how: 'stem',
    })
    expect(resolveReference('a/wood.tga', ['b/wood.png', 'c/wood.tif'])).toBeNull()
    expect(resolveReference('a/wood.tga', ['b/wood.png', 'c/wood.tga'])).toEqual({
      path: 'c/wood.tga',
      how: 'name',
    })
    expect([
      resolveReference('a/wood.bin', ['a/wood.png']),
      resolveReference('wood.mtl', ['wood.png']),
    ]).toEqual([null, null])
  })
  it('are alike by the pairs of letters that both have', () => {
    // night: ni ig gh ht; nacht: na ac ch ht: one of four and four
    expect([
      likeness('night', 'nacht'),
      likeness('Wood_A', 'wooda'),
      likeness('', ''),
      likeness('aaa', 'aa'),
    ]).toEqual([0.25, 1, 0, 2 / 3])
  })
  it.each([
    ['../../etc/passwd', 'gltf/unsafe-reference'],
    ['/etc/passwd', 'gltf/unsafe-reference'],
    ['http://example.test/a.png', 'gltf/unsafe-reference'],
    ['file:///etc/passwd', 'gltf/unsafe-reference'],
    ['//host/a.png', 'gltf/unsafe-reference'],
    ['..%2f..%2fetc/passwd', 'gltf/unsafe-reference'],
    ['C:\\a.png', 'gltf/unsafe-reference'],
    ['..\\..\\a.png', 'gltf/unsafe-reference'],
  ])('%s is refused', (uri, code) => expect(codeOf(referencePath('props/a.gltf', uri))).toBe(code))
  it('stay inside, are decoded, and may climb within the delivery', () => {
    expect(referencePath('a/b/c.gltf', '../textures/my%20map.png')).toEqual({
      ok: true,
      value: 'a/textures/my map.png',
    })
    expect(referencePath('c.gltf', './100%.png')).toEqual({ ok: true, value: '100%.png' })
  })
  it('never leave the delivery, whatever is asked for', () => {
    fc.assert(
      fc.property(
        fc.array(fc.constantFrom('..', '.', 'a', '%2e%2e', '', 'b.png'), { maxLength: 8 }),
        (parts) => {
          const found = referencePath('x/y.gltf', parts.join('/'))
          if (found.ok) expect(found.value.split('/')).not.toContain('..')
        },
      ),
    )
  })
  it('are found by path, by other capitals, by name when there is one', () => {
    const there = ['t/Rock_Normal.png', 'u/wood.png', 'v/wood.png']
    expect(resolveReference('t/Rock_Normal.png', there)?.how).toBe('path')
    expect(resolveReference('T/rock_normal.PNG', there)).toEqual({ path: 't/Rock_Normal.png', how: 'case' })
    expect(resolveReference('elsewhere/rock_normal.png', there)).toEqual({
      path: 't/Rock_Normal.png',
      how: 'name',
    })
    expect(resolveReference('wood.png', there)).toBeNull()
  })
  it('to geometry outside make a refusal of the mesh, and the rest goes on', async () => {
    const files = {
      'a.gltf': gltf({ buffers: [{ byteLength: 4, uri: '../../etc/passwd' }] }),
      ...(await crateFiles()),
    }
    const measured = await measureFixture(files)
    expect(measured.find((m) => m.path === 'a.gltf')!.fault).toMatchObject({
      code: 'gltf/unsafe-reference',
      where: { reference: '../../etc/passwd' },
    })
    expect((await subjectsOf(files)).map((s) => s.name)).toEqual(['harbour_crate_a'])
  })
  it('to pictures outside are never followed: a stop that names the path, whatever came under that name', async () => {
    for (const uri of [
      '../../etc/passwd',
      'http://example.test/passwd',
      'C:\\art\\passwd',
      '/etc/passwd',
      'file:///etc/passwd',
    ]) {
      const [subject] = await subjectsOf({ 'props/harbour_x_a.gltf': gltf({ images: [{ uri }] }) })
      const found = judge(subject!).findings.filter((f) => f.rule === 'files/unsafe-reference')
      expect(found).toMatchObject([
        {
          level: 'stop',
          message: 'lost',
          data: { code: 'gltf/unsafe-reference' },
          place: { kind: 'file', file: 'passwd' },
        },
      ])
      expect(subject!.references).toMatchObject([{ asked: 'passwd', resolved: null }])
    }
  })
  it('to a buffer that did not come leave what can be known', async () => {
    const [subject] = await subjectsOf({
      'props/harbour_x.gltf': gltf({
        buffers: [{ byteLength: 4, uri: 'x.bin' }],
        images: [{ uri: 'y.png' }],
      }),
    })
    expect(subject!.mesh!.nodes).toBeNull()
    expect(subject!.references.map((r) => [r.kind, r.resolved])).toEqual([
      ['buffer', null],
      ['image', null],
    ])
  })
})

describe('delivery paths', () => {
  it.each(['../x.png', 'a/../../x', '/etc/x', 'C:/x', '', '\u0000', 'a\\..\\..\\b'])(
    '%j is refused',
    (path) => expect(codeOf(checkDeliveryPath(path))).toBe('file/unsafe-path'),
  )
  it('are made plain', () => {
    expect(checkDeliveryPath('./a//b\\c.png')).toEqual({ ok: true, value: 'a/b/c.png' })
    expect(fileStem('a/b.c.png')).toBe('b.c')
  })
})

describe('pictures', () => {
  const png = pngOf(pixelsOf(5, 3, 3, () => [1, 2, 3]))
  it('PNG headers say size, channels and depth', () => {
    expect(readTextureHeader(png)).toMatchObject({
      ok: true,
      value: { width: 5, height: 3, channels: 3, depth: 8, colourSpace: 'unstated' },
    })
    expect(readTextureHeader(pngOf(pixelsOf(2, 2, 2, () => [1, 65535], 16)))).toMatchObject({
      ok: true,
      value: { channels: 2, depth: 16, alpha: true },
    })
  })
  it('colour chunks win in the order of the specification', () => {
    const head = png.subarray(0, 33),
      rest = png.subarray(33)
    const withChunks = (...chunks: Uint8Array[]) => readTextureHeader(joinBytes([head, ...chunks, rest]))
    const gamma = (n: number) => pngChunk('gAMA', Uint8Array.of(n >>> 24, n >>> 16, n >>> 8, n))
    const space = (r: ReturnType<typeof withChunks>) =>
      r.ok ? [r.value.colourSpace, r.value.colourEvidence.length] : []
    expect(space(withChunks(gamma(45455)))).toEqual(['srgb', 1])
    expect(space(withChunks(gamma(100000)))).toEqual(['linear', 1])
    expect(space(withChunks(gamma(55000)))).toEqual(['other', 1])
    expect(space(withChunks(gamma(100000), pngChunk('sRGB', Uint8Array.of(0))))).toEqual(['srgb', 2])
    expect(
      space(withChunks(pngChunk('sRGB', Uint8Array.of(0)), pngChunk('iCCP', text('Linear RGB\u0000\u0000')))),
    ).toEqual(['other', 2])
    expect(
      space(withChunks(pngChunk('sRGB', Uint8Array.of(0)), pngChunk('cICP', Uint8Array.of(1, 8, 0, 1)))),
    ).toEqual(['linear', 2])
  })
  it('a small file that claims 60,000 × 60,000 is refused from its header', () => {
    const big = png.slice()
    new DataView(big.buffer).setUint32(16, 60_000)
    new DataView(big.buffer).setUint32(20, 60_000)
    expect(codeOf(readTextureHeader(big))).toBe('image/too-large')
  })
  it.each([
    ['nothing', new Uint8Array(0), 'file/empty'],
    ['cut short', png.subarray(0, 50), 'image/truncated'],
    ['a header alone', png.subarray(0, 33), 'image/truncated'],
    ['text', text('hello, this is no picture at all'), 'image/format-not-read'],
    ['a JPEG of two bytes more', Uint8Array.of(0xff, 0xd8, 0xff, 0xe0, 0), 'image/truncated'],
    ['a WebP of twelve bytes', text('RIFF1234WEBP'), 'image/truncated'],
  ])('%s is refused', (_, bytes, code) => expect(codeOf(readTextureHeader(bytes))).toBe(code))
  it('JPEG and WebP headers', () => {
    const jpeg = Uint8Array.of(
      0xff,
      0xd8,
      0xff,
      0xe0,
      0,
      4,
      0,
      0,
      0xff,
      0xc2,
      0,
      17,
      8,
      1,
      0,
      2,
      0,
      3,
      1,
      0x22,
      0,
      2,
      0x11,
      1,
      3,
      0x11,
      1,
      0xff,
      0xd9,
    )
    expect(readTextureHeader(jpeg)).toMatchObject({
      ok: true,
      value: { format: 'jpeg', width: 512, height: 256, channels: 3 },
    })
    const webp = new Uint8Array(40)
    webp.set(text('RIFF'))
    webp.set([32, 0, 0, 0], 4)
    webp.set(text('WEBPVP8X'), 8)
    webp.set([0x10, 0, 0, 0, 255, 0, 0, 127, 0, 0], 20)
    expect(readTextureHeader(webp)).toMatchObject({
      ok: true,
      value: { format: 'webp', width: 256, height: 128, channels: 4, alpha: true },
    })
  })
  it('stating a colour space keeps the picture data byte for byte, and twice is once', () => {
    fc.assert(
      fc.property(
        fc.constantFrom('srgb', 'linear') as fc.Arbitrary<'srgb' | 'linear'>,
        fc.constantFrom('srgb', 'linear') as fc.Arbitrary<'srgb' | 'linear'>,
        (first, second) => {
          const one = withPngColourSpace(png, first),
            direct = withPngColourSpace(png, second)
          if (!one.ok || !direct.ok) throw new Error('the fixture is sound')
          const two = withPngColourSpace(one.value, second)
          expect(two).toEqual(direct)
          const data = (bytes: Uint8Array) => {
            const c = pngChunks(bytes)
            return c.ok ? c.value.filter((x) => x.type === 'IDAT').map((x) => [...chunkData(bytes, x)]) : []
          }
          expect(data(direct.value)).toEqual(data(png))
          expect(readTextureHeader(direct.value)).toMatchObject({ ok: true, value: { colourSpace: second } })
        },
      ),
    )
  })
  it('flipped bytes give a header or a coded fault', () => {
    fc.assert(
      fc.property(fc.nat(png.length - 1), fc.nat(255), (at, value) => {
        const bytes = png.slice()
        bytes[at] = value
        expect(codeOf(readTextureHeader(bytes))).toMatch(/^(ok|image\/|file\/)/)
      }),
      { seed: 7 },
    )
  })
})

it('kinds are told by bytes, not by names', () => {
  expect(fileKind(pngOf(pixelsOf(1, 1, 1, () => [0])), 'a.glb')).toBe('png')
  expect(fileKind(text(' \n{ "asset": {} }'), 'a.gltf')).toBe('gltf')
  expect(fileKind(text('solid'), 'a.gltf')).toBe('unknown')
  expect(fileKind(new Uint8Array(4), 'a.bin')).toBe('buffer')
})

it('data URIs decode as base64 and as text', () => {
  fc.assert(
    fc.property(fc.uint8Array({ maxLength: 60 }), (bytes) => {
      expect(dataUriBytes(`data:x;base64,${Buffer.from(bytes).toString('base64')}`, '')).toEqual({
        ok: true,
        value: bytes,
      })
    }),
  )
  expect(codeOf(dataUriBytes('data:x;base64,a!b', ''))).toBe('gltf/bad-structure')
  expect(dataUriBytes('data:,a%20b', '')).toEqual({ ok: true, value: text('a b') })
})
