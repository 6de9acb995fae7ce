import { createHash } from 'node:crypto'
import { mkdir, mkdtemp, readFile, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join } from 'node:path'
import { crateFiles, pixelsOf } from '@stern-gate/core/fixtures'
import { encodePng, findFiles, type FoundFile } from '@stern-gate/engine'
import { threadsFor } from '@stern-gate/engine/pool'
import { checkOnce } from './checkAll'
import { inPairs } from './clock'
import type { Figure } from './figure'
import { warmThreadsFigures } from './warmThreads'

/**
 * 500 files in one go: one thread against as many as the command has, and the second run from the cache
 * against hashing.
 */
export async function deliveryFigures(tell: (line: string) => void): Promise<Figure[]> {
  const folder = await mkdtemp(join(tmpdir(), 'stern-bench-'))
  try {
    await layFiles(folder)
    const { found } = await findFiles([join(folder, 'harbour')], folder)
    const check = (threads: number, cached: boolean): Promise<void> =>
      checkOnce(found, threads, cached ? join(folder, 'cache') : null)
    tell('500 files: one thread, all threads')
    const threads = threadsFor(2),
      [one, all] = await inPairs(
        2,
        () => check(1, false),
        () => check(threads, false),
      )
    tell('500 files: from the cache')
    await check(threads, true)
    const [second, hashing] = await inPairs(
      9,
      () => check(threads, true),
      () => hashAll(found),
    )
    const warm = await warmThreadsFigures(join(folder, 'harbour'), tell)
    const large = await largeFile(folder, tell)
    return [
      ...warm,
      {
        what: 'The same by a command that begins cold: three threads against one',
        measured: `${one.toFixed(0)} ms against ${all.toFixed(0)} ms`,
        ratio: one / all,
        wanted: null,
      },
      {
        what: '500 files: from the cache against hashing them one after the other',
        measured: `${second.toFixed(0)} ms against ${hashing.toFixed(0)} ms`,
        ratio: second / hashing,
        wanted: { most: 1.3 },
      },
      large,
    ]
  } finally {
    await rm(folder, { recursive: true, force: true })
  }
}

/** Hashes files one after the other, on one thread, as a plain tool does. */
async function hashAll(found: readonly FoundFile[]): Promise<void> {
  for (const { file } of found)
    createHash('sha256')
      .update(await readFile(file))
      .digest('hex')
}

/** 250 crates and 250 pictures, no two alike. */
async function layFiles(folder: string): Promise<void> {
  await mkdir(join(folder, 'harbour'))
  for (let i = 0; i < 250; i++) {
    const files = await crateFiles({ grid: 16, size: 1 + i / 1e4 })
    const glb = Object.entries(files).find(([path]) => path.endsWith('.glb'))![1]
    await writeFile(join(folder, 'harbour', `harbour_crate${i}_a.glb`), glb)
    await writeFile(
      join(folder, 'harbour', `harbour_plank${i}_a_basecolor.png`),
      await encodePng(pixelsOf(512, 512, 3, (x, y) => [(x + i) % 256, (y * 3 + i) % 256, (x * y + i) % 256])),
    )
  }
}

/** A game's textures are megabytes, not kilobytes: 40 files of 8 MB. */
async function largeFile(folder: string, tell: (line: string) => void): Promise<Figure> {
  tell('40 files of 8 MB: from the cache')
  await mkdir(join(folder, 'large'))
  for (let i = 0; i < 40; i++) {
    let state = 1 + i
    const noise = pixelsOf(1650, 1650, 3, () =>
      [0, 1, 2].map(() => ((state = (state * 1103515245 + 12345) & 0x7fffffff) >> 16) & 255),
    )
    await writeFile(join(folder, 'large', `harbour_wall${i}_a_basecolor.png`), await encodePng(noise))
  }
  const { found } = await findFiles([join(folder, 'large')], folder)
  await checkOnce(found, 2, join(folder, 'cache'))
  const [second, hashing] = await inPairs(
    15,
    () => checkOnce(found, 2, join(folder, 'cache')),
    () => hashAll(found),
  )
  return {
    what: '40 files of 8 MB: from the cache against hashing them one after the other',
    measured: `${second.toFixed(0)} ms against ${hashing.toFixed(0)} ms`,
    ratio: second / hashing,
    wanted: { most: 1.3 },
  }
}
