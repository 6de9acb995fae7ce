import { mkdir, mkdtemp, rm, writeFile } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import { afterAll, beforeAll, describe, expect, it } from 'vitest'
import type { Rulebook } from '@stern-gate/contract'
import { defaultRulebook } from '@stern-gate/core'
import { crateFiles } from '@stern-gate/core/fixtures'
import { measureFiles } from './checkFiles'
import { completeMeasurements } from './completeMeasurements'
import { createEngine, type Engine } from './createEngine'
import { report } from './deliveryReport'
import { createFactsCache } from './factsCache'
import type { FoundFile } from './findFiles'

let folder: string, engine: Engine, found: FoundFile[]
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-errors-'))
  engine = createEngine({
    workerFile: join(import.meta.dirname, '../../dist/measure-worker.js'),
    threads: 1,
    secondsPerFile: 60,
    memoryMbPerThread: 1024,
  })
  found = await lay('apart', false)
})

async function lay(place: string, embed: boolean): Promise<FoundFile[]> {
  return Promise.all(
    Object.entries(await crateFiles({ hull: false, embed })).map(async ([path, bytes]) => {
      const file = join(folder, place, path)
      await mkdir(dirname(file), { recursive: true })
      await writeFile(file, bytes)
      return { path, file, sizeBytes: bytes.length }
    }),
  )
}
afterAll(async () => {
  await engine.close()
  await rm(folder, { recursive: true, force: true })
})

/** The rulebook with a handheld that has losses measured. */
const asking = (measuresError: boolean): Rulebook => ({
  ...defaultRulebook,
  targets: {
    ...defaultRulebook.targets,
    handheld: { ...defaultRulebook.targets['handheld']!, measuresError },
  },
})
const settings = (rulebook: Rulebook) => ({ rulebook, target: 'handheld', classChoice: null, version: '0' })

describe('what textures lose as their target stores them', () => {
  it('is measured where the target asks, told as a figure, and kept for the next run', async () => {
    const cache = createFactsCache(join(folder, 'cache')),
      placed = new Map(found.map((f) => [f.path, f.file])),
      told: string[] = []
    const first = await measureFiles(engine, found, [], { cache })
    const all = await completeMeasurements(engine, first.files, settings(asking(true)), {
      fileOf: (path) => placed.get(path),
      keep: first.keep,
      show: (done, of, path) => told.push(`${done} of ${of} ${path}`),
    })
    expect(told).toHaveLength(3)
    const colour = all.find((f) => f.path.endsWith('_basecolor.png'))!
    const [key, { psnr }] = Object.entries(colour.stored!)[0]!,
      kept = psnr!
    expect(key.split('|').slice(0, 2)).toEqual([
      defaultRulebook.targets['handheld']!.formats.basecolor,
      'basecolor',
    ])
    expect(kept).toBeGreaterThan(20)
    // One dB more than it keeps is asked for: it is found, with that figure
    const strict: Rulebook = {
      ...asking(true),
      rules: { ...defaultRulebook.rules, 'compression/error': { options: { decibels: kept + 1 } } },
    }
    const { assets } = report(all, settings(strict))
    const said = assets[0]!.findings.filter((f) => f.rule === 'compression/error')
    expect(said[0]).toMatchObject({ message: 'decibels', data: { psnr: Number(kept.toFixed(1)) } })
    // The next run knows it
    const second = await measureFiles(engine, found, [], { cache })
    expect(second.files.find((f) => f.path === colour.path)!.stored).toEqual(colour.stored)
  })
  it('is the same of a picture inside the mesh as of one in a file of its own', async () => {
    const lossesOf = async (files: FoundFile[]) => {
      const placed = new Map(files.map((f) => [f.path, f.file]))
      const measured = await measureFiles(engine, files, [], {})
      const all = await completeMeasurements(engine, measured.files, settings(asking(true)), {
        fileOf: (path) => placed.get(path),
      })
      return {
        holders: all.filter((f) => f.stored).map((f) => f.path.replace(/.*[_.]/, '')),
        losses: Object.fromEntries(all.flatMap((f) => Object.entries(f.stored ?? {}))),
      }
    }
    const apart = await lossesOf(found),
      inside = await lossesOf(await lay('inside', true))
    expect(apart.holders).toEqual(['png', 'png', 'png'])
    expect(inside.holders).toEqual(['glb'])
    expect(inside.losses).toEqual(apart.losses)
    expect(Object.keys(inside.losses)).toHaveLength(3)
  })
  it('is not looked at where the target does not ask, and said to be unmeasured where it cannot be had', async () => {
    const { files } = await measureFiles(engine, found, [], {})
    const none = await completeMeasurements(engine, files, settings(asking(false)), {
      fileOf: () => undefined,
    })
    expect(none.every((f) => f.stored === undefined)).toBe(true)
    const lost = await completeMeasurements(engine, files, settings(asking(true)), {
      fileOf: () => undefined,
    })
    const { assets } = report(lost, settings(asking(true)))
    const said = assets[0]!.findings.filter((f) => f.rule === 'compression/error')
    expect(said.map((f) => [f.message, f.level])).toEqual(said.map(() => ['unmeasured', 'note']))
    expect(said.length).toBeGreaterThan(0)
  })
})
