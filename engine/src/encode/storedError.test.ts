import { describe, expect, it } from 'vitest'
import type { EncodingPlan, StoredError } from '@stern-gate/contract'
import { pixelsOf, pngOf } from '@stern-gate/core/fixtures'
import { storedError } from './storedError'

const soft = pixelsOf(128, 128, 4, (x, y) => [
  Math.round(128 + 90 * Math.sin(x / 20)),
  Math.round(120 + 80 * Math.cos(y / 25)),
  90,
  x < 64 ? 255 : 0,
])
const waves = pixelsOf(64, 64, 3, (x, y) => {
  const nx = 0.4 * Math.sin(x / 6),
    ny = 0.4 * Math.cos(y / 7)
  return [nx, ny, Math.sqrt(1 - nx * nx - ny * ny)].map((v) => Math.round((v / 2 + 0.5) * 255))
})

async function lossAs(
  picture: Parameters<typeof pngOf>[0],
  plan: Pick<EncodingPlan, 'format' | 'role'>,
  cells: Uint32Array | null = null,
): Promise<StoredError> {
  const done = await storedError(pngOf(picture), 'a.png', plan, cells)
  if (!done.ok) throw new Error(done.fault.why)
  return done.value
}

describe('what a texture loses as it is stored', () => {
  it('is told in dB over the channels that say something', async () => {
    const kept = await lossAs(soft, { format: 'BC7', role: 'basecolor' })
    expect(kept).toMatchObject({ format: 'BC7', windows: 1, angle: null, lost: [] })
    expect(kept.psnr!).toBeGreaterThan(40)
  })
  it('names channels that the format does not keep', async () => {
    expect((await lossAs(soft, { format: 'BC1', role: 'basecolor' })).lost).toEqual(['A'])
    expect((await lossAs(soft, { format: 'BC4', role: 'roughness' })).lost).toEqual(['G', 'B', 'A'])
    // A grey map says the same three times
    const grey = pixelsOf(64, 64, 3, (x, y) => Array<number>(3).fill((x * 2 + y) % 256))
    expect((await lossAs(grey, { format: 'BC4', role: 'roughness' })).lost).toEqual([])
  })
  it('takes a grey map for grey though a lossy format coloured it a little, and a few texels of alpha for none', async () => {
    const nearly = pixelsOf(64, 64, 4, (x, y) => {
      const grey = (x * 2 + y) % 250
      return [grey, grey + ((x + y) % 5), grey, x === 9 && y === 9 ? 0 : 253]
    })
    expect((await lossAs(nearly, { format: 'BC4', role: 'roughness' })).lost).toEqual([])
    // One texel in sixty that is blue is meant
    const dotted = pixelsOf(64, 64, 3, (x) => (x === 5 ? [10, 10, 200] : [10, 10, 10]))
    expect((await lossAs(dotted, { format: 'BC4', role: 'roughness' })).lost).toEqual(['G', 'B'])
  })
  it('is an angle for normal maps, whose third channel is found again', async () => {
    const { angle, lost } = await lossAs(waves, { format: 'BC5', role: 'normal' })
    expect(lost).toEqual([])
    expect(angle!.mean).toBeGreaterThan(0)
    expect(angle!.mean).toBeLessThan(1)
    expect(angle!.p95).toBeGreaterThanOrEqual(angle!.mean)
  })
  it('counts over what islands use', async () => {
    const half = pixelsOf(64, 64, 3, (x, y) =>
      x < 32 ? [90, 120, 150] : [(x * 97 + y * 31) % 256, (x * 53 + y * 89) % 256, (x * y * 7) % 256],
    )
    const left = Uint32Array.from({ length: 2048 }, (_, word) => (word % 8 < 4 ? 0xffffffff : 0))
    const plan = { format: 'BC1', role: 'basecolor' } as const
    const all = await lossAs(half, plan),
      used = await lossAs(half, plan, left)
    expect(used.psnr ?? 99).toBeGreaterThan(all.psnr! + 10)
  })
  it('counts in the windows of a large picture, too, where islands use them and nowhere else', async () => {
    // Stripes of cells: every other eight cells across are used, and plain; noise fills what is between
    const stripe = (x: number): boolean => Math.floor(x / 32) % 2 === 0
    const large = pixelsOf(1024, 1024, 3, (x, y) =>
      stripe(x) ? [90, 120, 150] : [(x * 97 + y * 31) % 256, (x * 53 + y * 89) % 256, (x * y * 7) % 256],
    )
    const cells = Uint32Array.from({ length: 2048 }, () => 0x00ff00ff)
    const plan = { format: 'BC1', role: 'basecolor' } as const
    const all = await lossAs(large, plan),
      used = await lossAs(large, plan, cells)
    expect([all.windows, used.windows]).toEqual([4, 4])
    expect(used.psnr ?? 99).toBeGreaterThan(all.psnr! + 10)
  })
  it('is looked for on four windows of a large picture, and refused of what does not decode', async () => {
    const large = pixelsOf(1024, 640, 1, (x, y) => [(x ^ y) & 255])
    expect((await lossAs(large, { format: 'BC4', role: 'height' })).windows).toBe(4)
    const cut = await storedError(
      pngOf(soft).subarray(0, 80),
      'a.png',
      { format: 'BC7', role: 'basecolor' },
      null,
    )
    expect(cut.ok).toBe(false)
  })
})
