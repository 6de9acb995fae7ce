import { mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import {
  encodedFormats,
  encodingPlanSchema,
  type EncodedFormat,
  type EncodingFacts,
} from '@stern-gate/contract'
import { pixelsOf } from '@stern-gate/core/fixtures'
import { encodePng, type Engine } from '@stern-gate/engine'
import { middlePair, once } from './clock'
import { openEngine } from './checkAll'
import type { Figure } from './figure'

/** Side of each picture, and how many are encoded in a round; two for each of two threads. */
const SIDE = 512,
  PICTURES = 4,
  ROUNDS = 3
/** BC4 and BC5 keep one channel and two: they are not for colour. */
const colourFormats = encodedFormats.filter((f) => f !== 'BC4' && f !== 'BC5')

/** Each block format on one thread and on two, and what the usual effort loses against the library's best. */
export async function encodingFigures(tell: (line: string) => void): Promise<Figure[]> {
  const folder = await mkdtemp(join(tmpdir(), 'stern-bench-encode-'))
  const one = openEngine(1),
    two = openEngine(2)
  try {
    const files = await layPictures(folder),
      figures: Figure[] = []
    for (const format of colourFormats) {
      tell(`${format}: one thread and two`)
      figures.push(await speedOf(format, files, one, two), await lossOf(format, files[0]!, two))
    }
    return figures
  } finally {
    await Promise.all([one.close(), two.close()])
    await rm(folder, { recursive: true, force: true })
  }
}

/** Weathered paint: soft light, grain, scratches and an edge in the alpha; another for each number. */
async function layPictures(folder: string): Promise<string[]> {
  const files = Array.from({ length: PICTURES }, (_, n) => join(folder, `paint${n}.png`))
  for (const [n, file] of files.entries()) {
    const picture = pixelsOf(SIDE, SIDE, 4, (x, y) => {
      const grain = ((x * 73 + y * 151 + n * 57) ^ (x * y)) % 23,
        scratch = (x + 3 * y + n * 40) % 97 < 2 ? 60 : 0
      return [
        130 + 60 * Math.sin((x + n * 30) / 31) + grain,
        110 + 50 * Math.cos(y / 43) + grain / 2 + scratch,
        80 + scratch + grain,
        (x - 256) ** 2 + (y - 256) ** 2 < 48_000 ? 255 : 40,
      ].map((v) => Math.round(Math.min(255, v)))
    })
    await writeFile(file, await encodePng(picture))
  }
  return files
}

async function encodeOne(
  engine: Engine,
  file: string,
  format: EncodedFormat,
  quality: 'good' | 'best',
): Promise<EncodingFacts> {
  const plan = encodingPlanSchema.parse({ format, quality, role: 'basecolor', mips: false })
  const done = await engine.encode({ file, path: 'paint.png', cells: null }, plan)
  if (!done.ok) throw new Error(done.fault.why)
  return done.value.facts
}

async function speedOf(
  format: EncodedFormat,
  files: readonly string[],
  one: Engine,
  two: Engine,
): Promise<Figure> {
  const all = (engine: Engine) => () => Promise.all(files.map((f) => encodeOne(engine, f, format, 'good')))
  // Threads compile the encoder once
  await all(one)()
  await all(two)()
  const pairs: [number, number][] = []
  for (let i = 0; i < ROUNDS; i++) pairs.push([await once(all(one)), await once(all(two))])
  const [alone, together] = middlePair(pairs),
    megapixels = (SIDE * SIDE * files.length) / 1e6
  const rate = (ms: number): string => (megapixels / (ms / 1000)).toFixed(2)
  return {
    what: `${format} of 512²: decoded, encoded, read back and measured, two threads against one`,
    measured: `${rate(together)} MPixel/s against ${rate(alone)}`,
    ratio: alone / together,
    wanted: { least: 1.8 },
  }
}

async function lossOf(format: EncodedFormat, file: string, engine: Engine): Promise<Figure> {
  const good = await encodeOne(engine, file, format, 'good'),
    best = await encodeOne(engine, file, format, 'best')
  const dB = ({ psnrAll }: EncodingFacts): string => (psnrAll === null ? 'exact' : `${psnrAll.toFixed(1)} dB`)
  return {
    what: `${format}: error of “good” against the library’s most thorough settings`,
    measured: `${dB(good)} against ${dB(best)}`,
    ratio: null,
    wanted: null,
  }
}
