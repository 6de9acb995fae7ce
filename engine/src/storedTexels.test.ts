import { createHash } from 'node:crypto'
import { deflateSync } from 'node:zlib'
import fc from 'fast-check'
import { describe, expect, it } from 'vitest'
import { readTextureHeader } from '@stern-gate/core'
import { decodeImage } from './imagePorts'
import { measureFile } from './measureFile'

const sha = (bytes: ArrayLike<number>): string => createHash('sha256').update(Uint8Array.from(bytes)).digest('hex').slice(0, 16)

/** 1024 blocks of seeded bytes: 256 × 64 texels. */
function blocks(bytes: number, seed: number): Uint8Array {
  const out = new Uint8Array(1024 * bytes)
  for (let k = 0, s = seed; k < out.length; k++) {
    s = (Math.imul(s, 1664525) + 1013904223) >>> 0
    out[k] = s >>> 24
  }
  return out
}
/** Blocks of all eight modes in turn. */
function bc7Blocks(): Uint8Array {
  const out = blocks(16, 7)
  for (let i = 0; i < 1024; i++) out[i * 16] = (out[i * 16]! & ~((1 << ((i % 8) + 1)) - 1) & 255) | (1 << (i % 8))
  return out
}

interface DdsPlan { width: number; height: number; code?: string; dxgi?: number; bits?: number; masks?: number[]; flags?: number }
function dds({ width, height, code = '', dxgi, bits = 0, masks = [], flags = 4 }: DdsPlan, data: Uint8Array): Uint8Array {
  const head = Buffer.alloc(dxgi === undefined ? 128 : 148)
  head.write('DDS ', 0, 'latin1')
  for (const [at, value] of [[4, 124], [8, 0x1007], [12, height], [16, width], [28, 1], [76, 32], [80, flags], [88, bits], [108, 0x1000], ...masks.map((m, k) => [92 + k * 4, m])]) head.writeUInt32LE(value! >>> 0, at)
  head.write(dxgi === undefined ? code : 'DX10', 84, 'latin1')
  if (dxgi !== undefined) for (const [at, value] of [[128, dxgi], [132, 3], [140, 1]]) head.writeUInt32LE(value!, at)
  return new Uint8Array(Buffer.concat([head, data]))
}

function ktx2(vkFormat: number, width: number, height: number, data: Uint8Array, packing = 0): Uint8Array {
  const head = Buffer.alloc(148)
  head.set([0xab, 0x4b, 0x54, 0x58, 0x20, 0x32, 0x30, 0xbb, 0x0d, 0x0a, 0x1a, 0x0a])
  for (const [at, value] of [[12, vkFormat], [16, 1], [20, width], [24, height], [36, 1], [40, 1], [44, packing], [48, 104], [52, 44], [104, 44], [80, 148], [88, data.length]]) head.writeUInt32LE(value!, at)
  head[118] = 1
  return new Uint8Array(Buffer.concat([head, data]))
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
    ['BC1', { code: 'DXT1' }, blocks(8, 1), '5ddc0ce8499de451'], ['BC2', { code: 'DXT3' }, blocks(16, 2), 'bb687cdb8bd82131'], ['BC3', { code: 'DXT5' }, blocks(16, 3), '1a04046f043f3f2e'],
    ['BC5', { dxgi: 83 }, blocks(16, 5), 'd74207e64c6081a1'], ['BC7', { dxgi: 98 }, bc7Blocks(), 'a8e0aef6a9b2ec07'],
  ] as const)('of %s come out as another decoder has them', async (name, plan, data, expected) => {
    const { header, data: out } = await texels('a.dds', dds({ width: 256, height: 64, ...plan }, data))
    expect(header).toMatchObject({ blockFormat: name, decodes: true })
    expect(sha(out)).toBe(expected)
  })
  it('of BC4: eight steps between two values, or six with the ends', async () => {
    const eight = await texels('a.dds', dds({ width: 4, height: 4, dxgi: 80 }, Uint8Array.of(210, 0, 0b10_001_000, 0b1_100_011_0, 0b111_110_10, 0, 0, 0)))
    expect([...eight.data.subarray(0, 8)]).toEqual([210, 0, 180, 150, 120, 90, 60, 30])
    const six = await texels('a.dds', dds({ width: 4, height: 4, dxgi: 80 }, Uint8Array.of(0, 100, 0b10_001_000, 0b1_100_011_0, 0b111_110_10, 0, 0, 0)))
    expect([...six.data.subarray(0, 8)]).toEqual([0, 100, 20, 40, 60, 80, 0, 255])
  })
  it('at the edge of an odd size are cut', async () => {
    const whole = await texels('a.dds', dds({ width: 8, height: 8, code: 'DXT1' }, blocks(8, 1).subarray(0, 32))), cut = await texels('a.dds', dds({ width: 6, height: 5, code: 'DXT1' }, blocks(8, 1).subarray(0, 32)))
    for (let y = 0; y < 5; y++) expect(cut.data.slice(y * 24, y * 24 + 24)).toEqual(whole.data.slice(y * 32, y * 32 + 24))
  })
  it('in KTX2 are the same as in DDS, packed by zlib, too', async () => {
    const plain = await texels('a.dds', dds({ width: 256, height: 64, dxgi: 98 }, bc7Blocks()))
    expect(sha((await texels('a.ktx2', ktx2(145, 256, 64, bc7Blocks()))).data)).toBe(sha(plain.data))
    expect(sha((await texels('a.ktx2', ktx2(145, 256, 64, deflateSync(bc7Blocks()), 3))).data)).toBe(sha(plain.data))
  })
})

describe('plain texels', () => {
  it('of a DDS lie where its masks say', async () => {
    const bgr = await texels('a.dds', dds({ width: 2, height: 1, bits: 24, masks: [0xff0000, 0xff00, 0xff], flags: 0x40 }, Uint8Array.of(1, 2, 3, 4, 5, 6)))
    expect([bgr.channels, ...bgr.data]).toEqual([3, 3, 2, 1, 6, 5, 4])
    const bgra = await texels('a.dds', dds({ width: 1, height: 1, bits: 32, masks: [0xff0000, 0xff00, 0xff, 0xff000000], flags: 0x41 }, Uint8Array.of(1, 2, 3, 200)))
    expect([bgra.channels, ...bgra.data]).toEqual([4, 3, 2, 1, 200])
    const small = await texels('a.dds', dds({ width: 1, height: 1, bits: 16, masks: [0xf800, 0x7e0, 0x1f], flags: 0x40 }, Uint8Array.of(0x00, 0xf8)))
    expect([...small.data]).toEqual([255, 0, 0])
    const grey = await texels('a.dds', dds({ width: 2, height: 1, bits: 8, masks: [0xff], flags: 0x20000 }, Uint8Array.of(7, 9)))
    expect([grey.channels, ...grey.data]).toEqual([1, 7, 9])
  })
  it('of a KTX2 have the channels and bits of its format', async () => {
    expect([...(await texels('a.ktx2', ktx2(44, 1, 1, Uint8Array.of(1, 2, 3, 4)))).data]).toEqual([3, 2, 1, 4])
    const deep = await texels('a.ktx2', ktx2(77, 1, 1, Uint8Array.of(0x34, 0x12, 0xff, 0xff)))
    expect([deep.depth, deep.header.depth, ...deep.data]).toEqual([16, 16, 0x1234, 0xffff])
  })
})

describe('Basis Universal', () => {
  // 16 × 16 texels: red over x, green 128, blue over y
  const etc1s = 'q0tUWCAyMLsNChoKAAAAAAEAAAAQAAAAEAAAAAAAAAAAAAAAAQAAAAEAAAABAAAAaAAAACwAAACUAAAAJAAAALgAAAAAAAAApgAAAAAAAABeAQAAAAAAAAkAAAAAAAAAAAAAAAAAAAAsAAAAAAAAAAIAKACjAQIAAwMAAAgAAAAAAAAAAAA/AAAAAAAAAAAA/////x8AAABLVFh3cml0ZXIAQmFzaXMgVW5pdmVyc2FsIDIuNTAAABAABQA4AAAAFQAAADEAAAAAAAAAAAAAAAAAAAAJAAAAAAAAAAAAAAAJwAwAAAAAAAAigQBzAwAAAAJgWEy6O4ACEAMAAAAAAMIRAEwAAAAAAAAgOCfCPk8RQhIhZIUoAISEpCSFgqQkhYKkpISChKRMz8/XBwDBRAAAAAAAAPJfTQCYAAAAAAAAQEgBojgMAAAIA8M4gcDyA9IGABMAAAAAAAAIIAAQc2f8JaVfcg8='
  const uastc = 'q0tUWCAyMLsNChoKAAAAAAEAAAAQAAAAEAAAAAAAAAAAAAAAAQAAAAEAAAACAAAAaAAAACwAAACUAAAAJAAAAAAAAAAAAAAAAAAAAAAAAAC4AAAAAAAAAGgAAAAAAAAAAAEAAAAAAAAsAAAAAAAAAAIAKACmAQIAAwMAABAAAAAAAAAAAAB/AAAAAAAAAAAA/////x8AAABLVFh3cml0ZXIAQmFzaXMgVW5pdmVyc2FsIDIuNTAAACi1L/1gAAD1AgBkA9sBD5kA2P+AQchR2WLqc/v5gQua8OuZEMvY/5BDkEOQQ4EGGQPY/79C+QMa8+sZE8sBC7FA+RMgYKNtAwUC4GDAjDvDeGAxYzxI7g7OtiDjkfGwMpm64SjGzKXB'
  it.each([['ETC1S', etc1s, 36], ['UASTC', uastc, 6]])('in %s is transcoded', async (name, text, near) => {
    const { header, data, channels } = await texels('a.ktx2', new Uint8Array(Buffer.from(text, 'base64')))
    expect([header.blockFormat, header.width, header.height, channels]).toEqual([name, 16, 16, 3])
    for (let t = 0; t < 256; t++) [(t % 16) * 16, 128, Math.floor(t / 16) * 16].forEach((wanted, c) => expect(Math.abs(data[t * 3 + c]! - wanted)).toBeLessThan(near))
  })
  it('that is damaged gives a header or a coded fault, never a throw (seeded)', async () => {
    const good = new Uint8Array(Buffer.from(etc1s, 'base64'))
    await fc.assert(fc.asyncProperty(fc.array(fc.tuple(fc.integer({ min: 12, max: good.length - 1 }), fc.nat(255)), { minLength: 1, maxLength: 4 }), async (flips) => {
      const bytes = good.slice()
      for (const [at, value] of flips) bytes[at] = value
      const { measured } = await measureFile('a.ktx2', bytes, { paths: ['a.ktx2'], read: () => null, progress: () => undefined, thumbnail: false })
      expect(measured.facts !== null || measured.fault !== null).toBe(true)
    }), { numRuns: 60, seed: 20261125 })
  })
})

it.each([dds({ width: 64, height: 64, code: 'DXT5' }, new Uint8Array(100)), ktx2(145, 64, 64, new Uint8Array(100))])('a picture that ends inside its largest level is refused', async (bytes) => {
  const { measured } = await measureFile(bytes[0] === 0xab ? 'a.ktx2' : 'a.dds', bytes, { paths: [], read: () => null, progress: () => undefined, thumbnail: false })
  expect(measured.fault?.code).toBe('image/truncated')
})
