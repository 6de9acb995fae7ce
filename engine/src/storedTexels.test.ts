import { createHash } from 'node:crypto'
import { deflateSync } from 'node:zlib'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import type { TextureFacts } from '@stern-gate/contract'
import { readTextureHeader } from '@stern-gate/core'
import { ddsFile, ktx2File, seededBytes } from '@stern-gate/core/fixtures'
import { decodeImage } from './imagePorts'
import { measureFile } from './measureFile'

const sha = (bytes: ArrayLike<number>): string =>
  createHash('sha256').update(Uint8Array.from(bytes)).digest('hex').slice(0, 16)

/** 1024 blocks of seeded bytes: 256 × 64 texels. */
const blocks = (bytes: number, seed: number): Uint8Array => seededBytes(1024 * bytes, seed)
/** Blocks of all eight modes in turn. */
function bc7Blocks(): Uint8Array {
  const out = blocks(16, 7)
  for (let i = 0; i < 1024; i++)
    out[i * 16] = (out[i * 16]! & ~((1 << ((i % 8) + 1)) - 1) & 255) | (1 << (i % 8))
  return out
}

async function texels(name: string, bytes: Uint8Array) {
  const header = readTextureHeader(bytes, name)
  if (!header.ok) throw new Error(header.fault.why)
  const pixels = await decodeImage(bytes, header.value)
  if (!pixels.ok) throw new Error(pixels.fault.why)
  return { header: header.value, ...pixels.value }
}

describe('blocks', () => {
  // What Pillow 9.4 makes of the same bytes
  it.each([
    ['BC1', { code: 'DXT1' }, blocks(8, 1), '5ddc0ce8499de451'],
    ['BC2', { code: 'DXT3' }, blocks(16, 2), 'bb687cdb8bd82131'],
    ['BC3', { code: 'DXT5' }, blocks(16, 3), '1a04046f043f3f2e'],
    ['BC5', { dxgi: 83 }, blocks(16, 5), 'd74207e64c6081a1'],
    ['BC7', { dxgi: 98 }, bc7Blocks(), 'a8e0aef6a9b2ec07'],
  ] as const)('of %s come out as another decoder has them', async (name, plan, data, expected) => {
    const { header, data: out } = await texels('a.dds', ddsFile({ width: 256, height: 64, ...plan }, data))
    expect(header).toMatchObject({ blockFormat: name, decodes: true })
    expect(sha(out)).toBe(expected)
  })
  it('of BC4: eight steps between two values, or six with the ends', async () => {
    const eight = await texels(
      'a.dds',
      ddsFile(
        { width: 4, height: 4, dxgi: 80 },
        Uint8Array.of(210, 0, 0b10_001_000, 0b1_100_011_0, 0b111_110_10, 0, 0, 0),
      ),
    )
    expect([...eight.data.subarray(0, 8)]).toEqual([210, 0, 180, 150, 120, 90, 60, 30])
    const six = await texels(
      'a.dds',
      ddsFile(
        { width: 4, height: 4, dxgi: 80 },
        Uint8Array.of(0, 100, 0b10_001_000, 0b1_100_011_0, 0b111_110_10, 0, 0, 0),
      ),
    )
    expect([...six.data.subarray(0, 8)]).toEqual([0, 100, 20, 40, 60, 80, 0, 255])
  })
  it('of BC4 with signs: −127 … 127 as 0 … 65535, the steps between not rounded to bytes', async () => {
    const word = (value: number): number => Math.round(((value / 127 + 1) / 2) * 65535),
      rows = [0b10_001_000, 0b1_100_011_0, 0b111_110_10, 0, 0, 0]
    const eight = await texels(
      'a.dds',
      ddsFile({ width: 4, height: 4, dxgi: 81 }, Uint8Array.of(127, 0x81, ...rows)),
    )
    expect(eight.header).toMatchObject({ blockFormat: 'BC4 signed', decodes: true, depth: 16, channels: 1 })
    expect([...eight.data.subarray(0, 8)]).toEqual(
      [127, -127, 635 / 7, 381 / 7, 127 / 7, -127 / 7, -381 / 7, -635 / 7].map(word),
    )
    // −128 stands for −127; not above the second, so that 6 and 7 are the ends
    const six = await texels(
      'a.dds',
      ddsFile({ width: 4, height: 4, dxgi: 81 }, Uint8Array.of(0x80, 73, ...rows)),
    )
    expect([...six.data.subarray(0, 8)]).toEqual([-127, 73, -87, -47, -7, 33, -127, 127].map(word))
  })
  it('of EAC with signs: eight times the base and the modifier', async () => {
    // Table 0, index 7 everywhere: 14; (−16 · 8 + 14 · 2 · 8) / 1023
    const { header, data } = await texels(
      'a.ktx2',
      ktx2File(154, 4, 4, Uint8Array.of(0xf0, 0x20, 255, 255, 255, 255, 255, 255)),
    )
    expect(header).toMatchObject({ blockFormat: 'EAC signed', decodes: true, channels: 1 })
    expect(new Set(data)).toEqual(new Set([Math.round(((96 / 1023 + 1) / 2) * 65535)]))
  })
  it('of BC5 with signs make a normal map, whose third channel is found', async () => {
    // x = 0.6, y = 0: z = 0.8
    const block = [76, 76, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0, 0],
      facts = await measureFile(
        'crate_normal.dds',
        ddsFile({ width: 4, height: 4, dxgi: 84 }, Uint8Array.from(block)),
        { find: () => null, progress: () => undefined, thumbnail: false },
      )
    expect((facts.measured.facts as TextureFacts).channels!.map((c) => c.name)).toEqual(['R', 'G'])
    expect((facts.measured.facts as TextureFacts).normal).toMatchObject({
      shareUnitLength: 1,
      meanDirection: [
        expect.closeTo(76 / 127, 3),
        expect.closeTo(0, 3),
        expect.closeTo(Math.sqrt(1 - (76 / 127) ** 2), 3),
      ],
    })
  })
  it('at the edge of an odd size are cut', async () => {
    const whole = await texels(
        'a.dds',
        ddsFile({ width: 8, height: 8, code: 'DXT1' }, blocks(8, 1).subarray(0, 32)),
      ),
      cut = await texels(
        'a.dds',
        ddsFile({ width: 6, height: 5, code: 'DXT1' }, blocks(8, 1).subarray(0, 32)),
      )
    for (let y = 0; y < 5; y++)
      expect(cut.data.slice(y * 24, y * 24 + 24)).toEqual(whole.data.slice(y * 32, y * 32 + 24))
  })
  it('in KTX2 are the same as in DDS, packed by zlib, too', async () => {
    const plain = await texels('a.dds', ddsFile({ width: 256, height: 64, dxgi: 98 }, bc7Blocks()))
    expect(sha((await texels('a.ktx2', ktx2File(145, 256, 64, bc7Blocks()))).data)).toBe(sha(plain.data))
    expect(sha((await texels('a.ktx2', ktx2File(145, 256, 64, deflateSync(bc7Blocks()), 3))).data)).toBe(
      sha(plain.data),
    )
  })
})

describe('blocks of other families', () => {
  // The browser's WebGL shows the same, see e2e/src/blockFormats.test.ts
  it.each([
    ['BC6H', 143, 16, 3, 32, 3, '6eaedaa193b56076'],
    ['ETC2', 147, 8, 11, 8, 3, '2231ed18e86b4650'],
    ['ETC2', 149, 8, 12, 8, 4, 'a22f2656050a1d42'],
    ['ETC2', 151, 16, 13, 8, 4, '466e517268b5d912'],
    ['EAC', 155, 16, 15, 16, 2, 'c4aee8b93f43d16f'],
  ] as const)('%s, Vulkan format %i', async (name, vkFormat, bytes, seed, depth, channels, expected) => {
    const { header, data } = await texels('a.ktx2', ktx2File(vkFormat, 256, 64, blocks(bytes, seed)))
    expect(header).toMatchObject({ blockFormat: name, depth, channels, decodes: true })
    expect(sha(new Uint8Array(data.buffer, data.byteOffset, data.byteLength))).toBe(expected)
  })
  it('ASTC: one colour over the block, and what follows no rule is magenta', async () => {
    const one = Uint8Array.of(
      0xfc,
      0xfd,
      0xff,
      0xff,
      0xff,
      0xff,
      0xff,
      0xff,
      0x34,
      0x12,
      0x00,
      0x80,
      0xff,
      0xff,
      0x00,
      0x40,
    )
    const { header, data, width } = await texels(
      'a.ktx2',
      ktx2File(165, 12, 6, new Uint8Array([...one, ...new Uint8Array(16)])),
    )
    expect(header).toMatchObject({ blockFormat: 'ASTC 6×6', channels: 4, decodes: true })
    expect([...data.subarray(0, 4)]).toEqual([0x12, 0x80, 0xff, 0x40])
    expect([...data.subarray((width * 5 + 11) * 4, (width * 5 + 12) * 4)]).toEqual([255, 0, 255, 255])
  })
  it('BC6H goes beyond 1 and says so', async () => {
    // Mode 11, both ends all ones: the greatest half there is
    const block = new Uint8Array(16).fill(255)
    block[0] = 0b11100011
    const { floats, data, header } = await texels('a.dds', ddsFile({ width: 4, height: 4, dxgi: 95 }, block))
    expect(header.depth).toBe(32)
    expect(floats).toMatchObject({ max: 65504, above: 1, notFinite: 0 })
    expect(data.every((v) => v === 65535)).toBe(true)
  })
})

describe('floating-point texels', () => {
  it.each([
    ['a.dds', (data: Uint8Array) => ddsFile({ width: 2, height: 1, dxgi: 34 }, data)],
    ['a.dds', (data: Uint8Array) => ddsFile({ width: 2, height: 1, code: '\u0070' }, data)],
    ['a.ktx2', (data: Uint8Array) => ktx2File(83, 2, 1, data)],
  ] as const)('of two bytes in %s: cut, with what was beyond beside', async (name, file) => {
    // 0.5, 1.5; −2, 2⁻²⁴
    const { data, floats, header } = await texels(
      name,
      file(new Uint8Array(Uint16Array.of(0x3800, 0x3e00, 0xc000, 0x0001).buffer)),
    )
    expect(header).toMatchObject({ channels: 2, depth: 32, blockFormat: null, decodes: true })
    expect([...data]).toEqual([32768, 65535, 0, 0])
    expect(floats).toEqual({ min: -2, max: 1.5, above: 0.25, below: 0.25, notFinite: 0 })
  })
  it('of four bytes, with one that is no number', async () => {
    const { data, floats } = await texels(
      'a.ktx2',
      ktx2File(106, 1, 1, new Uint8Array(Float32Array.of(0.25, NaN, 1e6).buffer)),
    )
    expect([...data]).toEqual([16384, 0, 65535])
    expect(floats).toMatchObject({ max: 1e6, notFinite: 1 })
  })
})

describe('plain texels', () => {
  it('of a DDS lie where its masks say', async () => {
    const bgr = await texels(
      'a.dds',
      ddsFile(
        { width: 2, height: 1, bits: 24, masks: [0xff0000, 0xff00, 0xff], flags: 0x40 },
        Uint8Array.of(1, 2, 3, 4, 5, 6),
      ),
    )
    expect([bgr.channels, ...bgr.data]).toEqual([3, 3, 2, 1, 6, 5, 4])
    const bgra = await texels(
      'a.dds',
      ddsFile(
        { width: 1, height: 1, bits: 32, masks: [0xff0000, 0xff00, 0xff, 0xff000000], flags: 0x41 },
        Uint8Array.of(1, 2, 3, 200),
      ),
    )
    expect([bgra.channels, ...bgra.data]).toEqual([4, 3, 2, 1, 200])
    const small = await texels(
      'a.dds',
      ddsFile(
        { width: 1, height: 1, bits: 16, masks: [0xf800, 0x7e0, 0x1f], flags: 0x40 },
        Uint8Array.of(0x00, 0xf8),
      ),
    )
    expect([...small.data]).toEqual([255, 0, 0])
    const grey = await texels(
      'a.dds',
      ddsFile({ width: 2, height: 1, bits: 8, masks: [0xff], flags: 0x20000 }, Uint8Array.of(7, 9)),
    )
    expect([grey.channels, ...grey.data]).toEqual([1, 7, 9])
  })
  it('of a KTX2 have the channels and bits of its format', async () => {
    expect([...(await texels('a.ktx2', ktx2File(44, 1, 1, Uint8Array.of(1, 2, 3, 4)))).data]).toEqual([
      3, 2, 1, 4,
    ])
    const deep = await texels('a.ktx2', ktx2File(77, 1, 1, Uint8Array.of(0x34, 0x12, 0xff, 0xff)))
    expect([deep.depth, deep.header.depth, ...deep.data]).toEqual([16, 16, 0x1234, 0xffff])
  })
})

describe('Basis Universal', () => {
  // 16 × 16 texels: red over x, green 128, blue over y
  const etc1s =
    'q0tUWCAyMLsNChoKAAAAAAEAAAAQAAAAEAAAAAAAAAAAAAAAAQAAAAEAAAABAAAAaAAAACwAAACUAAAAJAAAALgAAAAAAAAApgAAAAAAAABeAQAAAAAAAAkAAAAAAAAAAAAAAAAAAAAsAAAAAAAAAAIAKACjAQIAAwMAAAgAAAAAAAAAAAA/AAAAAAAAAAAA/////x8AAABLVFh3cml0ZXIAQmFzaXMgVW5pdmVyc2FsIDIuNTAAABAABQA4AAAAFQAAADEAAAAAAAAAAAAAAAAAAAAJAAAAAAAAAAAAAAAJwAwAAAAAAAAigQBzAwAAAAJgWEy6O4ACEAMAAAAAAMIRAEwAAAAAAAAgOCfCPk8RQhIhZIUoAISEpCSFgqQkhYKkpISChKRMz8/XBwDBRAAAAAAAAPJfTQCYAAAAAAAAQEgBojgMAAAIA8M4gcDyA9IGABMAAAAAAAAIIAAQc2f8JaVfcg8='
  const uastc =
    'q0tUWCAyMLsNChoKAAAAAAEAAAAQAAAAEAAAAAAAAAAAAAAAAQAAAAEAAAACAAAAaAAAACwAAACUAAAAJAAAAAAAAAAAAAAAAAAAAAAAAAC4AAAAAAAAAGgAAAAAAAAAAAEAAAAAAAAsAAAAAAAAAAIAKACmAQIAAwMAABAAAAAAAAAAAAB/AAAAAAAAAAAA/////x8AAABLVFh3cml0ZXIAQmFzaXMgVW5pdmVyc2FsIDIuNTAAACi1L/1gAAD1AgBkA9sBD5kA2P+AQchR2WLqc/v5gQua8OuZEMvY/5BDkEOQQ4EGGQPY/79C+QMa8+sZE8sBC7FA+RMgYKNtAwUC4GDAjDvDeGAxYzxI7g7OtiDjkfGwMpm64SjGzKXB'
  it.each([
    ['ETC1S', etc1s, 36],
    ['UASTC', uastc, 6],
  ])('in %s is transcoded', async (name, text, near) => {
    const { header, data, channels } = await texels('a.ktx2', new Uint8Array(Buffer.from(text, 'base64')))
    expect([header.blockFormat, header.width, header.height, channels]).toEqual([name, 16, 16, 3])
    for (let t = 0; t < 256; t++)
      [(t % 16) * 16, 128, Math.floor(t / 16) * 16].forEach((wanted, c) =>
        expect(Math.abs(data[t * 3 + c]! - wanted)).toBeLessThan(near),
      )
  })
  it('that is damaged gives a header or a coded fault, never a throw (seeded)', async () => {
    const good = new Uint8Array(Buffer.from(etc1s, 'base64'))
    await fc.assert(
      fc.asyncProperty(
        fc.array(fc.tuple(fc.integer({ min: 12, max: good.length - 1 }), fc.nat(255)), {
          minLength: 1,
          maxLength: 4,
        }),
        async (flips) => {
          const bytes = good.slice()
          for (const [at, value] of flips) bytes[at] = value
          const { measured } = await measureFile('a.ktx2', bytes, {
            find: () => null,
            progress: () => undefined,
            thumbnail: false,
          })
          expect(measured.facts !== null || measured.fault !== null).toBe(true)
        },
      ),
      { numRuns: 60, seed: 20261125 },
    )
  })
})

it.each([
  ddsFile({ width: 64, height: 64, code: 'DXT5' }, new Uint8Array(100)),
  ktx2File(145, 64, 64, new Uint8Array(100)),
])('a picture that ends inside its largest level is refused', async (bytes) => {
  const { measured } = await measureFile(bytes[0] === 0xab ? 'a.ktx2' : 'a.dds', bytes, {
    find: () => null,
    progress: () => undefined,
    thumbnail: false,
  })
  expect(measured.fault?.code).toBe('image/truncated')
})
