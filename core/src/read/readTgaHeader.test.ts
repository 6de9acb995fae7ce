import { describe, expect, it } from 'vitest'
import { readTgaHeader } from './readTgaHeader'

const RGB = 2,
  PACKED_RGB = 10
/** A TGA of 2 × 2 texels. */
const tga = (type: number, bits: number, alphaBits: number, body: number[]): Uint8Array =>
  Uint8Array.from([0, 0, type, 0, 0, 0, 0, 0, 0, 0, 0, 0, 2, 0, 2, 0, bits, alphaBits, ...body])
const texel = (alpha: number): number[] => [1, 2, 3, alpha]
const channelsOf = (bytes: Uint8Array): number | string => {
  const header = readTgaHeader(bytes)
  return header.ok ? header.value.channels : header.fault.code
}

describe('alpha of a TGA of 32 bits', () => {
  it.each([
    ['stated', tga(RGB, 32, 8, [0, 0, 0, 0].flatMap(texel)), 4],
    ['not stated, and 0 everywhere', tga(RGB, 32, 0, [0, 0, 0, 0].flatMap(texel)), 3],
    ['not stated, and there', tga(RGB, 32, 0, [0, 0, 0, 9].flatMap(texel)), 4],
    [
      'not stated, and there in a packet of single texels',
      tga(PACKED_RGB, 32, 0, [128 + 1, ...texel(0), 1, ...texel(0), ...texel(7)]),
      4,
    ],
    [
      'not stated, and 0 in all packets',
      tga(PACKED_RGB, 32, 0, [128 + 1, ...texel(0), 1, ...texel(0), ...texel(0)]),
      3,
    ],
    ['not stated, in packets that break off', tga(PACKED_RGB, 32, 0, [128 + 1, 1]), 3],
    [
      'none: 24 bits',
      tga(
        RGB,
        24,
        0,
        [0, 0, 0, 0].flatMap(() => [1, 2, 3]),
      ),
      3,
    ],
    ['too short', tga(RGB, 32, 0, texel(3)), 'image/truncated'],
  ])('%s', (_, bytes, channels) => expect(channelsOf(bytes)).toBe(channels))
})
