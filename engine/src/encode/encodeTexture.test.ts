import { describe, expect, it } from 'vitest'
import { encodingPlanSchema, type EncodingPlan } from '@stern-gate/contract'
import { readTextureHeader } from '@stern-gate/core'
import { pixelsOf, pngOf } from '@stern-gate/core/fixtures'
import { read } from 'ktx-parse'
import { encodeTexture } from './encodeTexture'

/** A soft picture with an edge in it, as colour maps are. */
const paint = pixelsOf(64, 64, 4, (x, y) => [
  Math.round(128 + 90 * Math.sin(x / 9)),
  Math.round(120 + 80 * Math.cos(y / 11)),
  x < 20 ? 40 : 150,
  (x - 32) ** 2 + (y - 32) ** 2 < 600 ? 255 : 0,
])
const grey = pixelsOf(64, 64, 1, (x, y) => [Math.round(128 + 60 * Math.sin(x / 9) + 50 * Math.cos(y / 8))])
const waves = pixelsOf(64, 64, 3, (x, y) => {
  const nx = 0.4 * Math.sin(x / 6),
    ny = 0.4 * Math.cos(y / 7)
  return [nx, ny, Math.sqrt(1 - nx * nx - ny * ny)].map((v) => Math.round((v / 2 + 0.5) * 255))
})
async function encoded(
  picture: Parameters<typeof pngOf>[0],
  plan: Partial<EncodingPlan>,
  cells: Uint32Array | null = null,
) {
  const done = await encodeTexture(
    pngOf(picture),
    'a.png',
    encodingPlanSchema.parse({ quality: 'fast', ...plan }),
    cells,
  )
  if (!done.ok) throw new Error(done.fault.why)
  const header = readTextureHeader(done.value.file, plan.container === 'dds' ? 'a.dds' : 'a.ktx2')
  if (!header.ok) throw new Error(header.fault.why)
  return { ...done.value, header: header.value }
}

describe('a texture encoded for real', () => {
  it.each([
    ['BC1', 8, 30],
    ['BC3', 16, 30],
    ['BC7', 16, 38],
    ['ETC2', 16, 28],
    ['ASTC 4×4', 16, 36],
    ['ASTC 6×6', 16, 30],
    ['ASTC 8×8', 16, 26],
  ] as const)('as %s is read back by our readers and close to its source', async (format, block, least) => {
    const { facts, header, file } = await encoded(paint, { format, role: 'basecolor' })
    expect(header).toMatchObject({
      format: 'ktx2',
      width: 64,
      height: 64,
      decodes: true,
      colourSpace: 'srgb',
    })
    expect(facts.levels).toBe(7)
    expect(facts.psnrAll!).toBeGreaterThan(least)
    expect(facts.compared).toEqual(format === 'BC1' ? ['R', 'G', 'B'] : ['R', 'G', 'B', 'A'])
    const side = format.startsWith('ASTC') ? Number(format.at(-1)) : 4
    const container = read(file)
    expect(container.levels.map((l) => l.levelData.length)).toEqual(
      [64, 32, 16, 8, 4, 2, 1].map((s) => Math.ceil(s / side) ** 2 * block),
    )
    expect(container.dataFormatDescriptor[0]!.texelBlockDimension.slice(0, 2)).toEqual([side - 1, side - 1])
    expect(facts.memoryBytes).toBe(container.levels.reduce((sum, l) => sum + l.levelData.length, 0))
  })
  it.each(['UASTC', 'ETC1S'] as const)('as %s is a whole KTX2 of Basis Universal', async (format) => {
    const { facts, header } = await encoded(paint, { format, role: 'basecolor' })
    expect(header).toMatchObject({ format: 'ktx2', width: 64, height: 64 })
    expect(facts.psnrAll!).toBeGreaterThan(format === 'UASTC' ? 36 : 22)
    expect(facts.levels).toBe(7)
  })
  it('keeps one channel as BC4 and two as BC5, whose vectors are measured in degrees', async () => {
    const one = await encoded(grey, { format: 'BC4', role: 'roughness' })
    expect([one.facts.compared, one.facts.psnr.length]).toEqual([['R'], 1])
    expect(one.facts.psnrAll!).toBeGreaterThan(40)
    expect(one.header.colourSpace).toBe('linear')
    const two = await encoded(waves, { format: 'BC5', role: 'normal' })
    expect(two.facts.compared).toEqual(['R', 'G'])
    expect(two.facts.angle!.mean).toBeLessThan(1)
    expect(two.facts.angle!.p95).toBeLessThanOrEqual(two.facts.angle!.most)
    // The picture of it has its third channel again
    expect(readTextureHeader(two.picture, 'a.png')).toMatchObject({ value: { channels: 3 } })
  })
  it('is a DDS where that is asked for, and refused where DDS has no number for it', async () => {
    const { header, facts } = await encoded(paint, { format: 'BC7', container: 'dds', mips: false })
    expect(header).toMatchObject({ format: 'dds', blockFormat: 'BC7', decodes: true, width: 64 })
    expect([facts.levels, facts.fileBytes]).toEqual([1, 148 + 256 * 16])
    await expect(encoded(paint, { format: 'ASTC 4×4', container: 'dds' })).rejects.toThrow(
      'no number for ASTC',
    )
    await expect(encoded(paint, { format: 'ETC1S', container: 'dds' })).rejects.toThrow('no number for ETC1S')
  })
  it('is no worse with more effort, and says what a cutout still draws', async () => {
    const fast = await encoded(paint, { format: 'BC7', role: 'basecolor', cutoff: 0.5 }),
      best = await encoded(paint, { format: 'BC7', role: 'basecolor', quality: 'best' })
    expect(best.facts.ssim).toBeGreaterThan(0.98)
    expect(fast.facts.coverage!.encoded).toBeCloseTo(fast.facts.coverage!.source, 2)
    expect(best.facts.coverage).toBeNull()
  })
  it('says of every smaller level how far it is from its mip, and what a cutout draws of it', async () => {
    const { facts } = await encoded(paint, { format: 'BC7', role: 'basecolor', cutoff: 0.5 })
    expect(facts.smaller.map((l) => [l.width, l.height])).toEqual([32, 16, 8, 4, 2, 1].map((s) => [s, s]))
    for (const { psnr, angle } of facts.smaller) {
      expect(psnr ?? 99).toBeGreaterThan(20)
      expect(angle).toBeNull()
    }
    // The mips keep the coverage, to the nearest texel of their size
    for (const { width, coverage } of facts.smaller.slice(0, 3))
      expect(Math.abs(coverage! - facts.coverage!.source)).toBeLessThan(1.5 / width)
    const normals = await encoded(waves, { format: 'BC5', role: 'normal' })
    expect(normals.facts.smaller[0]!.angle).toBeGreaterThan(0)
    // What the library made has no mips of ours to be held against
    expect((await encoded(paint, { format: 'UASTC' })).facts.smaller).toEqual([])
    expect((await encoded(paint, { format: 'BC7', mips: false })).facts.smaller).toEqual([])
  })
  it('is compared where islands use it: noise beside them says nothing', async () => {
    const half = pixelsOf(64, 64, 3, (x, y) =>
      x < 32 ? [90, 120, 150] : [(x * 97 + y * 31) % 256, (x * 53 + y * 89) % 256, (x * y * 7) % 256],
    )
    // Cells of 256 × 256 as bits: the first four of eight words of every row
    const left = Uint32Array.from({ length: 2048 }, (_, word) => (word % 8 < 4 ? 0xffffffff : 0))
    const all = await encoded(half, { format: 'BC1', role: 'basecolor' }),
      used = await encoded(half, { format: 'BC1', role: 'basecolor' }, left)
    expect([all.facts.used, used.facts.used]).toEqual([null, 0.5])
    expect(used.facts.psnrAll ?? 99).toBeGreaterThan(all.facts.psnrAll! + 10)
  })
  it('takes sides that are no whole blocks, and 16 bit', async () => {
    const odd = await encoded(
      pixelsOf(30, 18, 3, (x, y) => [x * 8, y * 12, 90]),
      {
        format: 'ASTC 5×5',
        role: 'basecolor',
      },
    )
    expect(odd.header).toMatchObject({ width: 30, height: 18 })
    expect(odd.facts.psnrAll!).toBeGreaterThan(28)
    const deep = await encoded(
      pixelsOf(16, 16, 1, (x, y) => [x * 4000 + y], 16),
      { format: 'BC4', role: 'height' },
    )
    expect(deep.facts.psnrAll!).toBeGreaterThan(35)
  })
  it('is encoded in strips where it is large, and refused where the library takes it whole or not at all', async () => {
    const wide = pixelsOf(4096, 1024, 1, (x, y) => [(x >> 4) ^ (y >> 4)])
    const { facts, file } = await encoded(wide, { format: 'BC4', role: 'height', mips: false })
    expect(read(file).levels[0]!.levelData.length).toBe(1024 * 256 * 8)
    // Each block has one value: strips that were put together wrongly would differ
    expect(facts.psnrAll).toBeNull()
    await expect(
      encoded(
        pixelsOf(4096, 3200, 1, () => [7]),
        { format: 'UASTC', mips: false },
      ),
    ).rejects.toThrow('4096 × 3200 texels are more than the encoder of UASTC takes')
  }, 60_000)
  it('says what is wrong with a picture that cannot be read', async () => {
    const plan = encodingPlanSchema.parse({ format: 'BC7' })
    expect(await encodeTexture(pngOf(paint).subarray(0, 90), 'a.png', plan)).toMatchObject({ ok: false })
  })
})
