import { nothingAround } from './findAmong'
import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { readFileSync } from 'node:fs'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { EXR_READER, endingExrReader } from '../../tools/exrReader.mjs'
import { createEngine, type Engine } from './createEngine'
import { sha256 } from './hashing'

const number = (bytes: 2 | 4 | 8, value: number): number[] =>
  Array.from({ length: bytes }, (_, k) => Math.floor(value / 256 ** k) % 256)
const text = (value: string): number[] => [...Buffer.from(value), 0]
const attribute = (name: string, type: string, value: number[]): number[] => [
  ...text(name),
  ...text(type),
  ...number(4, value.length),
  ...value,
]
const SIDE = 32,
  PIZ = 4
const window = [0, 0, SIDE - 1, SIDE - 1].flatMap((v) => number(4, v)),
  one = [0, 0, 128, 63],
  none = number(4, 0)

/**
 * A grey picture of 32 × 32 halves in one block of PIZ: two codes of one bit each, and so many bits of zeros,
 * each of which is one value.
 */
function picture(bits: number): Uint8Array {
  const code = [
    ...number(4, 0),
    ...number(4, 1),
    ...none,
    ...number(4, bits),
    ...none,
    0b00000100,
    0b00010000,
    ...Array<number>(Math.ceil(bits / 8)).fill(0),
  ]
  const block = [...number(2, 0), ...number(2, 0), 1, ...number(4, code.length), ...code]
  const head = [
    0x76,
    0x2f,
    0x31,
    0x01,
    2,
    0,
    0,
    0,
    ...attribute('channels', 'chlist', [
      ...text('Y'),
      ...number(4, 1),
      0,
      0,
      0,
      0,
      ...number(4, 1),
      ...number(4, 1),
      0,
    ]),
    ...attribute('compression', 'compression', [PIZ]),
    ...attribute('dataWindow', 'box2i', window),
    ...attribute('displayWindow', 'box2i', window),
    ...attribute('lineOrder', 'lineOrder', [0]),
    ...attribute('pixelAspectRatio', 'float', one),
    ...attribute('screenWindowCenter', 'v2f', [...none, ...none]),
    ...attribute('screenWindowWidth', 'float', one),
    0,
  ]
  return Uint8Array.from([
    ...head,
    ...number(8, head.length + 8),
    ...none,
    ...number(4, block.length),
    ...block,
  ])
}

describe('the reader of OpenEXR', () => {
  let engine: Engine,
    folder = ''
  beforeAll(async () => {
    folder = await mkdtemp(join(tmpdir(), 'stern-exr-'))
    engine = createEngine({
      workerFile: join(import.meta.dirname, '../../dist/measure-worker.js'),
      threads: 1,
      secondsPerFile: 20,
      memoryMbPerThread: 512,
    })
  })
  afterAll(async () => {
    await engine.close()
    await rm(folder, { recursive: true, force: true })
  })
  const measure = async (bytes: Uint8Array) => {
    const file = join(folder, 'a.exr')
    await writeFile(file, bytes)
    return (
      await engine.measure(
        { path: 'a.exr', file, sha256: sha256(bytes), sizeBytes: bytes.length },
        nothingAround,
      )
    ).measured
  }
  it('reads a block that holds what it says', async () =>
    expect(await measure(picture(SIDE * SIDE))).toMatchObject({
      fault: null,
      facts: { header: { width: SIDE }, notMeasured: [] },
    }))
  it('ends in a damaged block that holds more, and does not take its last step for ever', async () =>
    expect(await measure(picture(SIDE * SIDE + 40))).toMatchObject({
      fault: null,
      facts: { header: { width: SIDE }, channels: null, notMeasured: [{ code: 'image/undecodable' }] },
    }))
  it('is mended only as long as it is the text that was looked at', () => {
    const path = createRequire(import.meta.url).resolve('three/examples/jsm/loaders/EXRLoader.js'),
      own = readFileSync(path, 'utf8')
    expect(path).toMatch(EXR_READER)
    expect(endingExrReader(own)).not.toBe(own)
    expect(() => endingExrReader(endingExrReader(own))).toThrow('another EXR reader')
  })
})
