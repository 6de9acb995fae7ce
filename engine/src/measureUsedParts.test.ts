import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import { defaultRulebook, unmeasuredTextures, assembleAssets, type MeasuredFile } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { measureFiles } from './checkFiles'
import { createEngine, type Engine } from './createEngine'
import { createFactsCache } from './factsCache'
import type { FoundFile } from './findFiles'
import { measureUsedParts } from './measureUsedParts'

let folder: string, engine: Engine
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-used-'))
  engine = createEngine({
    workerFile: join(import.meta.dirname, '../../dist/measure-worker.js'),
    threads: 1,
    secondsPerFile: 60,
    memoryMbPerThread: 1024,
  })
})
afterAll(async () => {
  await engine.close()
  await rm(folder, { recursive: true, force: true })
})

async function lay(name: string, embed: boolean): Promise<FoundFile[]> {
  const files = await crateFiles({ name, textureName: name, hull: false, uvScale: 0.5, embed })
  return Promise.all(
    Object.entries(files).map(async ([path, bytes]) => {
      const file = join(folder, path)
      await mkdir(dirname(file), { recursive: true })
      await writeFile(file, bytes)
      return { path, file, sizeBytes: bytes.length }
    }),
  )
}
const missing = (files: readonly MeasuredFile[]) =>
  assembleAssets(files, defaultRulebook).flatMap((draft) => unmeasuredTextures(draft, files))

describe('textures of which a part is used', () => {
  it('are measured over that part, and kept so that the next run knows it', async () => {
    const found = await lay('harbour_crate_a', false)
    const cache = createFactsCache(join(folder, 'cache'))
    const placed = new Map(found.map((f) => [f.path, f.file]))
    const first = await measureFiles(engine, found, [], { cache })
    expect(missing(first.files)).toHaveLength(3)
    const all = await measureUsedParts(engine, first.files, defaultRulebook, {
      fileOf: (path) => placed.get(path),
      keep: first.keep,
    })
    expect(missing(all)).toEqual([])
    const normal = all.find((f) => f.path.endsWith('_normal.png'))!
    expect(Object.values(normal.used!)).toMatchObject([{ share: expect.closeTo(0.25, 1) as number }])
    const second = await measureFiles(engine, found, [], { cache })
    expect(missing(second.files)).toEqual([])
    expect(second.files.find((f) => f.path === normal.path)!.used).toEqual(normal.used)
  })
  it('come with the mesh where they stand inside it', async () => {
    const found = await lay('harbour_crate_b', true)
    const { files } = await measureFiles(engine, found, [], {})
    const mesh = files.find((f) => f.facts?.kind === 'mesh')!
    expect(Object.values(mesh.used!).map((u) => u?.share.toFixed(2))).toEqual(['0.25', '0.25', '0.25'])
    expect(missing(files)).toEqual([])
  })
  it('go on with the figures of the whole picture where the file is not to be had', async () => {
    const found = await lay('harbour_crate_c', false)
    const { files } = await measureFiles(engine, found, [], {})
    const same = await measureUsedParts(engine, files, defaultRulebook, { fileOf: () => undefined })
    expect(same).toEqual(files)
  })
})
