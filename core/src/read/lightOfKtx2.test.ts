import { deflateSync } from 'node:zlib'
import { describe, expect, it } from 'vitest'
import { ktx2File, seededBytes } from '../fixtures'
import { lightOfKtx2, type UnpackLevel } from './lightOfKtx2'

const never: UnpackLevel = () => Promise.reject(new Error('nothing is packed'))
const floats = (...values: number[]): Uint8Array => new Uint8Array(Float32Array.of(...values).buffer)
async function light(bytes: Uint8Array, unpack = never) {
  const read = await lightOfKtx2(bytes, unpack)
  if (!read.ok) throw new Error(read.fault.code)
  return read.value
}

describe('the light of a KTX2', () => {
  it('is not cut to what a picture shows, and leaves alpha out', async () => {
    const { width, height, values } = await light(ktx2File(109, 2, 1, floats(12, 0.5, 0, 1, 3, 400, 7, 0.25)))
    expect([width, height, ...values]).toEqual([2, 1, 12, 0.5, 0, 3, 400, 7])
    // Half floats: 1 is 0x3c00, 2 is 0x4000, 65504 is 0x7bff
    const half = Uint8Array.of(0, 0x3c, 0, 0x40, 0xff, 0x7b)
    expect([...(await light(ktx2File(90, 1, 1, half))).values]).toEqual([1, 2, 65_504])
  })
  it('is unpacked first where its level is packed', async () => {
    const packed = deflateSync(floats(1, 2, 3))
    const asked: string[] = []
    const read = await light(ktx2File(106, 1, 1, packed, 3), (bytes, packing) => {
      asked.push(packing)
      expect([...bytes]).toEqual([...packed])
      return Promise.resolve(floats(1, 2, 3))
    })
    expect([asked, [...read.values]]).toEqual([['zlib'], [1, 2, 3]])
  })
  it('is read from BC6H, block by block', async () => {
    const { width, height, values } = await light(ktx2File(143, 6, 5, seededBytes(4 * 16, 3)))
    expect([width, height, values.length]).toEqual([6, 5, 90])
    expect(Math.max(...values)).toBeGreaterThan(1)
  })
  it('is refused where texels are no light, or do not suffice', async () => {
    for (const bytes of [
      ktx2File(43, 1, 1, Uint8Array.of(1, 2, 3, 4)),
      ktx2File(103, 1, 1, floats(1, 2)),
      ktx2File(106, 4, 4, floats(1, 2, 3)),
    ]) {
      const read = await lightOfKtx2(bytes, never)
      expect(read.ok === false && read.fault.code).toBe('image/format-not-read')
    }
    expect(await lightOfKtx2(new Uint8Array(10), never)).toMatchObject({ fault: { code: 'image/truncated' } })
  })
})
