import { mkdtemp, mkdir, readdir, writeFile } from 'node:fs/promises'
import { createRequire } from 'node:module'
import { tmpdir } from 'node:os'
import { dirname, join } from 'node:path'
import Ajv from 'ajv'
import { JSDOM } from 'jsdom'
import { beforeAll, describe, expect, it } from 'vitest'
import { createEngine, type Engine } from '@stern-gate/engine'
import { crateFiles, type CrateOptions } from '@stern-gate/core/fixtures'
import { createProgram } from './program'

const workerFile = join(import.meta.dirname, '../../dist/measure-worker.js')
let folder = '',
  measured = 0
beforeAll(async () => {
  folder = await mkdtemp(join(tmpdir(), 'stern-reports-'))
})

async function lay(name: string, options: CrateOptions, more: Record<string, string> = {}): Promise<string> {
  for (const [path, bytes] of Object.entries({
    ...(await crateFiles({ textureSize: [512, 512], ...options })),
    ...more,
  })) {
    await mkdir(dirname(join(folder, name, path)), { recursive: true })
    await writeFile(join(folder, name, path), bytes)
  }
  return name
}

/** Counts how many files are measured, over the real engine. */
function countingEngine(): Engine {
  const engine = createEngine({ workerFile, threads: 1, secondsPerFile: 60, memoryMbPerThread: 1024 })
  return {
    ...engine,
    measure: (...args) => {
      measured++
      return engine.measure(...args)
    },
  }
}

async function stern(...args: string[]) {
  let out = '',
    err = ''
  measured = 0
  const exit = await createProgram({
    openEngine: countingEngine,
    cwd: folder,
    out: (t) => (out += t),
    err: (t) => (err += t),
    terminal: false,
  }).run([...args, '--cache', 'cache'])
  return { exit, out, err, measured }
}

describe('SARIF', () => {
  it('keeps to its schema, and says where and what to do', async () => {
    const { out } = await stern(
      'check',
      await lay(
        'sarif',
        { green: 'down', slivers: 3, slotName: 'crate wood', nodeScale: [2, 1, 1], embed: true },
        { 'broken.glb': 'glTF' },
      ),
      '--format',
      'sarif',
    )
    const log = JSON.parse(out) as {
      runs: {
        results: {
          ruleId: string
          ruleIndex?: number
          level: string
          locations: {
            physicalLocation: { artifactLocation: { uri: string } }
            logicalLocations?: { name: string; kind: string }[]
          }[]
        }[]
        tool: { driver: { rules: { id: string }[] } }
      }[]
    }
    const schema = createRequire(import.meta.url)(
      '@microsoft/jest-sarif/lib/schemas/sarif-2.1.0-rtm.5.json',
    ) as object
    const ajv = new Ajv({ unknownFormats: 'ignore', schemaId: 'auto', logger: false })
    ajv.addMetaSchema(createRequire(import.meta.url)('ajv/lib/refs/json-schema-draft-04.json') as object)
    const validate = ajv.compile(schema)
    expect([validate(log), validate.errors]).toEqual([true, null])
    const { results, tool } = log.runs[0]!
    for (const r of results)
      if (r.ruleIndex !== undefined) expect(tool.driver.rules[r.ruleIndex]!.id).toBe(r.ruleId)
    expect(results.find((r) => r.ruleId === 'colour/normal-green')).toMatchObject({
      level: 'error',
      locations: [{ physicalLocation: { artifactLocation: { uri: 'sarif/props/harbour_crate_a.glb' } } }],
    })
    expect(
      results.find((r) => r.ruleId === 'mesh/degenerate')!.locations[0]!.logicalLocations,
    ).toContainEqual({
      name: 'harbour_crate_a',
      fullyQualifiedName: 'harbour_crate_a/part 1',
      kind: 'object',
    })
    expect(results.some((r) => r.ruleId.startsWith('gltf/') || r.ruleId.startsWith('file/'))).toBe(true)
  })
})

describe('JUnit', () => {
  it('is well formed, whatever the names hold, and counts what failed', async () => {
    const { out, exit } = await stern(
      'check',
      await lay('junit', { slotName: 'crate <&"wood">', green: 'down' }),
      '--format',
      'junit',
    )
    const document = new new JSDOM('').window.DOMParser().parseFromString(out, 'text/xml')
    expect(document.querySelector('parsererror')).toBeNull()
    const root = document.documentElement
    expect(Number(root.getAttribute('tests'))).toBe(document.querySelectorAll('testcase').length)
    expect(Number(root.getAttribute('failures'))).toBe(document.querySelectorAll('failure').length)
    expect([...document.querySelectorAll('failure')].map((f) => f.getAttribute('type'))).toContain(
      'colour/normal-green',
    )
    expect(exit).toBe(1)
  })
})

describe('--max-cautions', () => {
  it('holds what has more cautions, and says so', async () => {
    const name = await lay('cautious', { slivers: 3, at: [0.4, 0, 0] })
    expect((await stern('check', name)).exit).toBe(0)
    expect((await stern('check', name, '--max-cautions', '2')).exit).toBe(0)
    const held = await stern('check', name, '--max-cautions', '1')
    expect([held.exit, held.err]).toEqual([1, '2 cautions; at most 1 are allowed.\n'])
    expect((await stern('check', name, '--max-cautions', 'some')).exit).toBe(2)
  })
})

describe('the cache', () => {
  it('gives the same report without measuring again, until a file changes', async () => {
    const name = await lay('kept', { green: 'down' })
    const first = await stern('check', name, '--format', 'json')
    const second = await stern('check', name, '--format', 'json')
    expect([first.measured, second.measured]).toEqual([4, 0])
    expect(second.out).toBe(first.out)
    await lay('kept', { green: 'up' })
    const third = await stern('check', name, '--format', 'json')
    expect(third.measured).toBe(1)
    expect(third.out).not.toContain('colour/normal-green')
  })
  it('that was damaged is written anew', async () => {
    const name = await lay('damaged', {})
    await stern('check', name)
    for (const shard of await readdir(join(folder, 'cache')))
      for (const file of await readdir(join(folder, 'cache', shard)))
        await writeFile(join(folder, 'cache', shard, file), '{')
    const again = await stern('check', name)
    expect([again.exit, again.measured]).toEqual([0, 4])
  })
  it('is not asked with --no-cache', async () => {
    const name = await lay('fresh', {})
    await stern('check', name)
    let count = 0
    const engine = () => {
      const real = countingEngine()
      return {
        ...real,
        measure: (...a: Parameters<Engine['measure']>) => {
          count++
          return real.measure(...a)
        },
      }
    }
    await createProgram({
      openEngine: engine,
      cwd: folder,
      out: () => undefined,
      err: () => undefined,
      terminal: false,
    }).run(['check', name, '--no-cache'])
    expect(count).toBe(4)
  })
})
