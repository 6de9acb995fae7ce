import fc from 'fast-check'
import sharp from 'sharp'
import { describe, expect, it } from 'vitest'
import type { TextureFacts } from '@stern-gate/contract'
import { measureFile, pictureOf } from './measureFile'
import { floatTiff } from './tiffFixture'

const measure = (path: string, bytes: Uint8Array) =>
  measureFile(path, bytes, { find: () => null, progress: () => undefined, thumbnail: false })
async function factsOf(path: string, bytes: Uint8Array): Promise<TextureFacts> {
  const { measured } = await measure(path, bytes)
  if (measured.facts?.kind !== 'texture') throw new Error(JSON.stringify(measured.fault))
  return measured.facts
}
/** 24 × 16 texels: red over x, green 51, blue over y, alpha 204. */
const texels = (channels: number): Buffer =>
  Buffer.from(
    Array.from({ length: 24 * 16 }, (_, t) =>
      [(t % 24) * 10, 51, Math.floor(t / 24) * 15, 204].slice(0, channels),
    ).flat(),
  )
const picture = (channels: 3 | 4) => sharp(texels(channels), { raw: { width: 24, height: 16, channels } })
const means = (facts: TextureFacts): number[] => facts.channels!.map((c) => c.mean * 255)

/** Header, table and blocks of a row each that hold nothing. */
const exr = (width: number, height: number, channels: string[], cut = Infinity): Uint8Array => {
  const attribute = (name: string, type: string, value: Buffer) =>
    Buffer.concat([
      Buffer.from(`${name}\0${type}\0`),
      Buffer.from(Uint32Array.of(value.length).buffer),
      value,
    ])
  const list = Buffer.concat([
    ...channels.map((c) => Buffer.concat([Buffer.from(`${c}\0`), Buffer.alloc(16)])),
    Buffer.alloc(1),
  ])
  return new Uint8Array(
    Buffer.concat([
      Buffer.from([0x76, 0x2f, 0x31, 1, 2, 0, 0, 0]),
      attribute('channels', 'chlist', list),
      attribute('dataWindow', 'box2i', Buffer.from(Int32Array.of(0, 0, width - 1, height - 1).buffer)),
      Buffer.alloc(1),
      Buffer.alloc(Math.max(0, height) * 8),
      ...Array.from({ length: Math.max(0, height) }, (_, y) => Buffer.from(Int32Array.of(y, 0).buffer)),
    ]).subarray(0, cut),
  )
}
/**
 * One scanline block a row without packing, 32-bit floats; values by channel name in their order in the file.
 */
function exrOf(
  width: number,
  height: number,
  planes: Record<string, (x: number, y: number) => number>,
): Uint8Array {
  const attribute = (name: string, type: string, value: Buffer) =>
    Buffer.concat([
      Buffer.from(`${name}\0${type}\0`),
      Buffer.from(Uint32Array.of(value.length).buffer),
      value,
    ])
  const names = Object.keys(planes).sort(),
    box = Buffer.from(Int32Array.of(0, 0, width - 1, height - 1).buffer)
  const list = Buffer.concat([
    ...names.map((c) =>
      Buffer.concat([Buffer.from(`${c}\0`), Buffer.from(Uint32Array.of(2, 0, 1, 1).buffer)]),
    ),
    Buffer.alloc(1),
  ])
  const head = Buffer.concat([
    Buffer.from([0x76, 0x2f, 0x31, 1, 2, 0, 0, 0]),
    attribute('channels', 'chlist', list),
    attribute('compression', 'compression', Buffer.from([0])),
    attribute('dataWindow', 'box2i', box),
    attribute('displayWindow', 'box2i', box),
    attribute('lineOrder', 'lineOrder', Buffer.from([0])),
    attribute('pixelAspectRatio', 'float', Buffer.from(Float32Array.of(1).buffer)),
    attribute('screenWindowCenter', 'v2f', Buffer.alloc(8)),
    attribute('screenWindowWidth', 'float', Buffer.from(Float32Array.of(1).buffer)),
    Buffer.alloc(1),
  ])
  const size = names.length * width * 4
  const rows = Array.from({ length: height }, (_, y) =>
    Buffer.concat([
      Buffer.from(Int32Array.of(y, size).buffer),
      Buffer.from(
        new Float32Array(names.flatMap((n) => Array.from({ length: width }, (_, x) => planes[n]!(x, y))))
          .buffer,
      ),
    ]),
  )
  const offsets = BigUint64Array.from({ length: height }, (_, y) =>
    BigInt(head.length + height * 8 + y * (size + 8)),
  )
  return new Uint8Array(Buffer.concat([head, Buffer.from(offsets.buffer), ...rows]))
}
/** A Radiance picture of flat scanlines, each texel three mantissas and a shared exponent. */
const hdrOf = (width: number, height: number, texel: (x: number, y: number) => number[]): Uint8Array =>
  new Uint8Array(
    Buffer.concat([
      Buffer.from(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n-Y ${height} +X ${width}\n`),
      Buffer.from(
        Array.from({ length: width * height }, (_, t) => texel(t % width, Math.floor(t / width))).flat(),
      ),
    ]),
  )
const hdr = (size: string): Uint8Array =>
  new TextEncoder().encode(`#?RADIANCE\nFORMAT=32-bit_rle_rgbe\n\n${size}\n....`)

describe('pictures', () => {
  it('in TIFF of 8 and 16 bit are measured texel for texel', async () => {
    const eight = await factsOf(
      'a.tif',
      new Uint8Array(await picture(4).tiff({ compression: 'lzw' }).toBuffer()),
    )
    expect(eight.header).toMatchObject({
      format: 'tiff',
      width: 24,
      height: 16,
      channels: 4,
      depth: 8,
      alpha: true,
      decodes: true,
    })
    expect(means(eight)).toEqual([
      expect.closeTo(115, 3),
      expect.closeTo(51, 3),
      expect.closeTo(112.5, 3),
      expect.closeTo(204, 3),
    ])
    const deep = await factsOf(
      'b.tiff',
      new Uint8Array(
        await sharp(
          Uint16Array.from(texels(3), (v) => v * 257),
          { raw: { width: 24, height: 16, channels: 3 } },
        )
          .toColourspace('rgb16')
          .tiff({ compression: 'none' })
          .toBuffer(),
      ),
    )
    expect([deep.header.depth, deep.header.channels]).toEqual([16, 3])
    expect(means(deep)).toEqual([expect.closeTo(115, 1), expect.closeTo(51, 1), expect.closeTo(112.5, 1)])
  })
  it('in grey TIFF have one channel', async () => {
    const grey = await factsOf(
      'g.tif',
      new Uint8Array(
        await sharp(Buffer.alloc(64, 90), { raw: { width: 8, height: 8, channels: 1 } })
          .toColourspace('b-w')
          .tiff()
          .toBuffer(),
      ),
    )
    expect([grey.header.channels, means(grey)]).toEqual([1, [expect.closeTo(90, 3)]])
  })
  it.each(
    [1, 2, 3, 4].flatMap((channels) => ([16, 32, 64] as const).map((bits) => [bits, channels] as const)),
  )(
    'in TIFF of %i-bit floats are read, with what goes beyond 0 … 1, in %i channels',
    async (bits, channels) => {
      const values = Array.from({ length: 6 * channels }, (_, i) => i * 0.25 - 0.5)
      const facts = await factsOf('f.tif', floatTiff(3, 2, channels, values, bits))
      expect(facts.header).toMatchObject({
        format: 'tiff',
        width: 3,
        height: 2,
        channels,
        depth: 32,
        decodes: true,
      })
      expect(facts.floats).toMatchObject({ min: -0.5, max: values.at(-1)!, notFinite: 0 })
      expect(facts.floats!.above).toBeCloseTo(values.filter((v) => v > 1).length / values.length, 9)
      // Each channel on its own, cut to 0 … 1
      expect(facts.channels!.map((c) => c.mean)).toEqual(
        Array.from(
          { length: channels },
          (_, c) =>
            expect.closeTo(
              values
                .filter((_, i) => i % channels === c)
                .reduce((sum, v) => sum + Math.min(1, Math.max(0, v)), 0) / 6,
              4,
            ) as number,
        ),
      )
    },
  )
  it('in EXR are measured the right way up; what goes beyond 0 … 1 is told', async () => {
    const facts = await factsOf(
      'a.exr',
      exrOf(4, 2, {
        R: (x) => x / 4,
        G: (_, y) => (y === 0 ? 0.75 : 0.25),
        B: (x, y) => (x === 3 && y === 0 ? 6 : -0.5),
      }),
    )
    expect(facts.header).toMatchObject({
      format: 'exr',
      width: 4,
      height: 2,
      channels: 3,
      depth: 32,
      decodes: true,
    })
    expect(facts.channels!.map((c) => Number(c.mean.toFixed(3)))).toEqual([0.375, 0.5, 0.125])
    expect(facts.floats).toEqual({ min: -0.5, max: 6, above: 1 / 24, below: 7 / 24, notFinite: 0 })
    const top = await pictureOf(
      exrOf(4, 2, { R: (x) => x / 4, G: (_, y) => (y === 0 ? 0.75 : 0.25), B: () => 0 }),
      'a.exr',
    )
    const { data } = await sharp((top as { value: Uint8Array }).value)
      .raw({ depth: 'ushort' })
      .toColourspace('rgb16')
      .toBuffer({ resolveWithObject: true })
    expect(
      [data.readUInt16LE(2), data.readUInt16LE(4 * 3 * 2 + 2)].map((v) => Math.round((v / 65535) * 4)),
    ).toEqual([3, 1])
  })
  it('in Radiance HDR likewise: the mantissas stand over a shared exponent', async () => {
    // 128 · 2^(129 − 136) = 1; 64 of it is a half
    const facts = await factsOf(
      'a.hdr',
      hdrOf(4, 2, (x, y) => [64, 128, y === 0 ? 128 : 0, x === 3 ? 131 : 129]),
    )
    expect(facts.floats).toMatchObject({ min: 0, max: expect.closeTo(4, 1), notFinite: 0 })
    expect(facts.channels!.map((c) => Number(c.mean.toFixed(2)))).toEqual([0.63, 1, 0.5])
  })
  it('in EXR and HDR whose texels cannot be read keep what their header says', async () => {
    const facts = await factsOf('a.exr', exr(64, 32, ['A', 'B', 'G', 'R']))
    expect(facts).toMatchObject({
      header: {
        format: 'exr',
        width: 64,
        height: 32,
        channels: 4,
        alpha: true,
        depth: 32,
        colourSpace: 'linear',
      },
      channels: null,
      notMeasured: [{ code: 'image/undecodable' }],
    })
    expect((await factsOf('b.exr', exr(64, 32, ['Y']))).header.channels).toBe(1)
    expect((await factsOf('a.hdr', hdr('-Y 128 +X 256'))).header).toMatchObject({
      format: 'hdr',
      width: 256,
      height: 128,
      channels: 3,
    })
  })
  it.each([
    ['a.exr', exr(64, 32, ['R'], 40), 'image/truncated'],
    ['a.exr', exr(64, 32, ['R']).subarray(0, -9), 'image/truncated'],
    ['a.exr', exr(0, 32, ['R']), 'image/bad-structure'],
    ['a.hdr', hdr('nonsense'), 'image/bad-structure'],
    ['a.hdr', new TextEncoder().encode('#?RADIANCE\nFORMAT'), 'image/truncated'],
    ['a.exr', exr(60_000, 60_000, ['R']), 'image/too-large'],
    ['a.tif', Uint8Array.of(0x49, 0x49, 0x2b, 0, 8, 0, 0, 0, 0, 0), 'image/format-not-read'],
    ['a.tif', Uint8Array.of(0x49, 0x49, 0x2a, 0, 200, 0, 0, 0), 'image/truncated'],
  ])('%s that is damaged is refused', async (path, bytes, code) =>
    expect((await measure(path, bytes)).measured.fault?.code).toBe(code),
  )
  it.each(['tif', 'half.tif', 'avif', 'exr', 'hdr'])(
    'in %s with changed bytes give facts or a coded fault, never a throw (seeded)',
    async (extension) => {
      const good =
        extension === 'half.tif'
          ? floatTiff(
              9,
              5,
              3,
              Array.from({ length: 135 }, (_, i) => i / 40),
              16,
            )
          : extension === 'tif'
            ? new Uint8Array(await picture(3).tiff().toBuffer())
            : extension === 'avif'
              ? new Uint8Array(await picture(4).avif().toBuffer())
              : extension === 'exr'
                ? exr(64, 32, ['B', 'G', 'R'])
                : hdr('-Y 128 +X 256')
      await fc.assert(
        fc.asyncProperty(
          fc.array(fc.tuple(fc.nat(Math.min(good.length - 1, 700)), fc.nat(255)), {
            minLength: 1,
            maxLength: 6,
          }),
          fc.option(fc.nat(good.length), { freq: 3 }),
          async (flips, cut) => {
            const bytes = good.slice(0, cut ?? good.length)
            for (const [at, value] of flips) if (at < bytes.length) bytes[at] = value
            const { measured } = await measure(`a.${extension}`, bytes)
            expect(measured.facts !== null || measured.fault !== null).toBe(true)
          },
        ),
        { numRuns: 80, seed: 20261125 },
      )
    },
  )
})
