import { launch, type Browser } from 'puppeteer-core'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { readTextureHeader } from '@stern-gate/core'
import { ktx2File, seededBytes } from '@stern-gate/core/fixtures'
import { decodeImage } from '@stern-gate/engine'
import { chromiumFlags } from '../../tools/chromiumFlags.mjs'
import { chromiumPath } from '../../tools/debian.mjs'
import { compressedInPage } from './compressedInPage'

// What is decoded here is held against what the browser's WebGL makes of the same bytes

let browser: Browser, inPage: Awaited<ReturnType<typeof compressedInPage>>

beforeAll(async () => {
  browser = await launch({ executablePath: chromiumPath()!, args: chromiumFlags, protocolTimeout: 120_000 })
  inPage = await compressedInPage(await browser.newPage())
})
afterAll(() => browser.close())

async function decoded(vkFormat: number, width: number, height: number, blocks: Uint8Array) {
  const bytes = ktx2File(vkFormat, width, height, blocks),
    header = readTextureHeader(bytes, 'a.ktx2')
  if (!header.ok) throw new Error(header.fault.why)
  const pixels = await decodeImage(bytes, header.value)
  if (!pixels.ok) throw new Error(pixels.fault.why)
  return pixels.value
}

/**
 * Greatest difference of any value, on the scale of 0 … 1, and the share of texels that are no error to the
 * browser.
 */
async function compare(
  format: string,
  vkFormat: number,
  width: number,
  height: number,
  blocks: Uint8Array,
  meaning: 'linear' | 'srgb' | 'signed' = 'linear',
): Promise<{ worst: number; sound: number }> {
  const { channels, data, depth } = await decoded(vkFormat, width, height, blocks),
    full = depth === 16 ? 65535 : 255
  const texels = await inPage(format, width, height, blocks)
  let worst = 0,
    errors = 0
  for (let t = 0; t < width * height; t++) {
    if (texels[t * 4] === 1 && texels[t * 4 + 1] === 0 && texels[t * 4 + 2] === 1) errors++
    for (let c = 0; c < channels; c++) {
      const shown =
        meaning === 'signed' ? (texels[t * 4 + c]! + 1) / 2 : Math.min(1, Math.max(0, texels[t * 4 + c]!))
      const stored =
        meaning === 'srgb' && c < 3
          ? shown <= 0.0031308
            ? shown * 12.92
            : 1.055 * shown ** (1 / 2.4) - 0.055
          : shown
      worst = Math.max(worst, Math.abs(stored - data[t * channels + c]! / full))
    }
  }
  return { worst, sound: 1 - errors / (width * height) }
}

/** Every mode of BC6H in turn, the reserved ones too. */
function bc6hBlocks(seed: number): Uint8Array {
  const blocks = seededBytes(1024 * 16, seed),
    modes = [0, 1, 2, 6, 10, 14, 18, 22, 26, 30, 3, 7, 11, 15, 19, 23]
  for (let i = 0; i < 1024; i++) {
    const mode = modes[i % 16]!,
      mask = mode < 2 ? 3 : 31
    blocks[i * 16] = (blocks[i * 16]! & ~mask) | mode
  }
  return blocks
}

/**
 * 1024 blocks, of which one in twenty follows the rules by chance: of many more, 900 that are no error here
 * and 124 as they come.
 */
async function astcBlocks(
  [width, height]: readonly [number, number],
  vkFormat: number,
  seed: number,
): Promise<Uint8Array> {
  const CANDIDATES = 32_768,
    all = seededBytes(CANDIDATES * 16, seed),
    across = 128
  const { data } = await decoded(vkFormat, across * width, (CANDIDATES / across) * height, all)
  const isSound = (i: number): boolean => {
    const at = (Math.floor(i / across) * height * across * width + (i % across) * width) * 4
    return !(data[at] === 255 && data[at + 1] === 0 && data[at + 2] === 255)
  }
  const blocks = seededBytes(1024 * 16, seed + 1)
  for (let i = 0, taken = 0; i < CANDIDATES && taken < 900; i++)
    if (isSound(i)) blocks.set(all.subarray(i * 16, i * 16 + 16), taken++ * 16)
  return blocks
}

const STEP = 1.01 / 255

describe('1024 blocks are what the browser shows', () => {
  it.each([
    ['BC7', 'COMPRESSED_RGBA_BPTC_UNORM_EXT', 145, seededBytes(1024 * 16, 7), 1e-6],
    ['BC6H', 'COMPRESSED_RGB_BPTC_UNSIGNED_FLOAT_EXT', 143, bc6hBlocks(3), 1e-5],
    ['BC6H signed', 'COMPRESSED_RGB_BPTC_SIGNED_FLOAT_EXT', 144, bc6hBlocks(4), 1e-5],
    ['ETC2 without alpha', 'COMPRESSED_RGB8_ETC2', 147, seededBytes(1024 * 8, 11), 1e-6],
    [
      'ETC2 with one bit of alpha',
      'COMPRESSED_RGB8_PUNCHTHROUGH_ALPHA1_ETC2',
      149,
      seededBytes(1024 * 8, 12),
      1e-6,
    ],
    ['ETC2 with alpha', 'COMPRESSED_RGBA8_ETC2_EAC', 151, seededBytes(1024 * 16, 13), 1e-6],
    ['EAC of one channel', 'COMPRESSED_R11_EAC', 153, seededBytes(1024 * 8, 14), 1 / 2047],
    ['EAC of two', 'COMPRESSED_RG11_EAC', 155, seededBytes(1024 * 16, 15), 1 / 2047],
  ] as const)('%s', async (_name, format, vkFormat, blocks, tolerance) => {
    expect((await compare(format, vkFormat, 256, 64, blocks)).worst).toBeLessThan(tolerance)
  })
})

// The browser cuts BC4 and BC5 to 8 bits, and to EAC it adds half a step of 1/128, which the specification
// does only where there are no signs
describe('1024 blocks with signs are what the browser shows, −1 … 1 laid over 0 … 1', () => {
  it.each([
    ['BC4', 'COMPRESSED_SIGNED_RED_RGTC1_EXT', 140, seededBytes(1024 * 8, 21), 1.5 / 254],
    ['BC5', 'COMPRESSED_SIGNED_RED_GREEN_RGTC2_EXT', 142, seededBytes(1024 * 16, 22), 1.5 / 254],
    ['EAC of one channel', 'COMPRESSED_SIGNED_R11_EAC', 154, seededBytes(1024 * 8, 24), 5.1 / 2046],
    ['EAC of two', 'COMPRESSED_SIGNED_RG11_EAC', 156, seededBytes(1024 * 16, 25), 5.1 / 2046],
  ] as const)('%s', async (_name, format, vkFormat, blocks, tolerance) => {
    expect((await compare(format, vkFormat, 256, 64, blocks, 'signed')).worst).toBeLessThan(tolerance)
  })
})

describe('ASTC blocks are what the browser shows, to one step of 8 bits', () => {
  const sizes = [
    [4, 4],
    [5, 4],
    [5, 5],
    [6, 5],
    [6, 6],
    [8, 5],
    [8, 6],
    [8, 8],
    [10, 5],
    [10, 6],
    [10, 8],
    [10, 10],
    [12, 10],
    [12, 12],
  ] as const
  it.each(sizes.map(([width, height], k) => [width, height, k] as const))(
    'of %i × %i',
    async (width, height, k) => {
      const { worst, sound } = await compare(
        `COMPRESSED_RGBA_ASTC_${width}x${height}_KHR`,
        157 + 2 * k,
        32 * width,
        32 * height,
        await astcBlocks([width, height], 157 + 2 * k, 100 + k),
      )
      expect(worst).toBeLessThan(STEP)
      expect(sound).toBeGreaterThan(0.8)
    },
  )
  it('of 6 × 6 as colours', async () => {
    expect(
      (
        await compare(
          'COMPRESSED_SRGB8_ALPHA8_ASTC_6x6_KHR',
          166,
          192,
          192,
          await astcBlocks([6, 6], 166, 77),
          'srgb',
        )
      ).worst,
    ).toBeLessThan(STEP)
  })
})
