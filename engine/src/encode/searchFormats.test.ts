import { describe, expect, it } from 'vitest'
import { type FormatSearch, type FormatWish, formatWishSchema } from '@stern-gate/contract'
import { pixelsOf, pngOf } from '@stern-gate/core/fixtures'
import { searchFormats } from './searchFormats'

const bc = ['BC1', 'BC3', 'BC4', 'BC5', 'BC7'] as const
const soft = pixelsOf(128, 128, 3, (x, y) => [
  Math.round(128 + 90 * Math.sin(x / 40)),
  Math.round(120 + 80 * Math.cos(y / 45)),
  Math.round(90 + 40 * Math.sin((x + y) / 50)),
])
const noise = pixelsOf(128, 128, 3, (x, y) => [
  (x * 71 + y * 37) % 256,
  (x * 13 + y * 113) % 256,
  (x * y) % 256,
])
const grey = pixelsOf(64, 64, 3, (x, y) =>
  Array<number>(3).fill(Math.round(128 + 60 * Math.sin(x / 9) * Math.cos(y / 8))),
)
const cut = pixelsOf(64, 64, 4, (x, y) => [120, 90, 60, (x - 32) ** 2 + (y - 32) ** 2 < 600 ? 255 : 0])
const waves = pixelsOf(64, 64, 3, (x, y) => {
  const nx = 0.4 * Math.sin(x / 6),
    ny = 0.4 * Math.cos(y / 7)
  return [nx, ny, Math.sqrt(1 - nx * nx - ny * ny)].map((v) => Math.round((v / 2 + 0.5) * 255))
})
async function search(
  picture: Parameters<typeof pngOf>[0],
  wish: Partial<FormatWish> = {},
  cells: Uint32Array | null = null,
): Promise<FormatSearch> {
  const asked = formatWishSchema.parse({ formats: bc, ...wish })
  const done = await searchFormats(pngOf(picture), 'a.png', asked, cells)
  if (!done.ok) throw new Error(done.fault.why)
  return done.value
}
const formatsOf = ({ tried }: FormatSearch): string[] => [...new Set(tried.map((t) => t.format))].sort()

describe('the smallest format that holds', () => {
  it('is the least in memory of those that hold, and all that were tried say whether they do', async () => {
    const found = await search(soft, { least: 38 })
    expect(found.best).not.toBeNull()
    const holding = found.tried.filter((t) => t.holds)
    expect(found.best!.memoryBytes).toBe(Math.min(...holding.map((t) => t.memoryBytes)))
    expect(found.best!.error!).toBeGreaterThanOrEqual(38)
    for (const t of found.tried) expect(t.holds).toBe(t.error === null || t.error >= 38)
    expect([...found.tried].sort((a, b) => a.memoryBytes - b.memoryBytes).map((t) => t.memoryBytes)).toEqual(
      found.tried.map((t) => t.memoryBytes),
    )
    // What is soft is carried by fewer texels
    expect(found.best!.times).toBeGreaterThan(1)
    expect([found.best!.width, found.best!.height]).toEqual([
      128 / found.best!.times,
      128 / found.best!.times,
    ])
  })
  it('is looked for where islands use the picture: noise beside them asks for nothing', async () => {
    const at = (of: typeof soft, x: number, y: number) => [
      ...of.data.subarray((y * 128 + x) * 3, (y * 128 + x) * 3 + 3),
    ]
    const half = pixelsOf(128, 128, 3, (x, y) => at(x < 64 ? soft : noise, x, y))
    const left = Uint32Array.from({ length: 2048 }, (_, word) => (word % 8 < 4 ? 0xffffffff : 0))
    const all = await search(half, { least: 38 }),
      used = await search(half, { least: 38 }, left)
    expect(used.best!.memoryBytes).toBeLessThan(all.best?.memoryBytes ?? Infinity)
    expect(used.best!.error!).toBeGreaterThanOrEqual(38)
  })
  it('takes its windows where a large picture is used', async () => {
    // The right half is noise that nothing uses; windows of it would refuse every small format
    const wide = pixelsOf(1024, 512, 3, (x, y) =>
      x < 500 ? [90, 100, 110] : [(x * 71 + y * 37) % 256, (x * 13 + y * 113) % 256, (x * y) % 256],
    )
    const left = Uint32Array.from({ length: 2048 }, (_, word) => (word % 8 < 3 ? 0xffffffff : 0))
    const found = await search(wide, { least: 60, formats: ['BC1'] }, left)
    expect(found.windows).toBe(4)
    expect(found.tried.every((t) => t.holds)).toBe(true)
  })
  it('is none where nothing holds', async () => {
    const found = await search(noise, { least: 70 })
    expect(found.best).toBeNull()
    expect(found.tried.every((t) => !t.holds)).toBe(true)
  })
  it('keeps every channel that says something: colour, alpha, or grey alone', async () => {
    expect(formatsOf(await search(soft))).toEqual(['BC1', 'BC3', 'BC7'])
    expect(formatsOf(await search(cut))).toEqual(['BC3', 'BC7'])
    const one = await search(grey, { role: 'roughness', least: 36 })
    expect(formatsOf(one)).toEqual(['BC1', 'BC3', 'BC4', 'BC5', 'BC7'])
    const done = await searchFormats(pngOf(cut), 'a.png', formatWishSchema.parse({ formats: ['BC1', 'BC5'] }))
    expect(done.ok ? '' : done.fault.code).toBe('encode/refused')
  })
  it('of a normal map is told in degrees', async () => {
    const found = await search(waves, { role: 'normal', degrees: 2 })
    expect(found.unit).toBe('degrees')
    expect(formatsOf(found)).not.toContain('BC4')
    expect(found.best!.error!).toBeLessThanOrEqual(2)
    const exact = await search(waves, { role: 'normal', degrees: 0.05 })
    expect(exact.best === null || exact.best.error! <= 0.05).toBe(true)
  })
  it('is tried on windows of what is large, and confirmed on all of it', async () => {
    const large = pixelsOf(1024, 640, 3, (x, y) => [
      Math.round(128 + 90 * Math.sin(x / 60)),
      (y >> 2) & 255,
      90,
    ])
    const found = await search(large, { formats: ['BC1'], least: 30 })
    expect(found.windows).toBe(4)
    expect(found.best!.error!).toBeGreaterThanOrEqual(30)
  })
})
