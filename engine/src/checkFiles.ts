import { bad, type Report, type StandardFacts } from '@stern-gate/contract'
import { isAssetName, isMeshName, kindByExtension, readsBeside, type MeasuredFile } from '@stern-gate/core'
import type { Engine } from './createEngine'
import { report, type ReportOptions } from './deliveryReport'
import { cacheKey, hashFile, type FactsCache } from './factsCache'
import { findAmong, type FindBeside } from './findAmong'
import type { FoundFile } from './findFiles'
import { sha256 } from './hashing'
import { completeMeasurements } from './completeMeasurements'

export interface CheckOptions extends ReportOptions {
  progress?: (done: number, total: number, path: string) => void
  cache?: FactsCache
  /** Have the open standard's validator look at glTF files, too. */
  validate?: boolean
}

/**
 * Measures, assembles and judges files without a database. A mesh given alone may read the files beside and
 * below its folder, nothing else.
 */
export async function checkFiles(
  engine: Engine,
  given: readonly FoundFile[],
  beside: readonly FoundFile[],
  options: CheckOptions,
): Promise<Report> {
  const { files, notRead, keep } = await measureFiles(engine, given, beside, options)
  const placed = new Map([...given, ...beside].map((f) => [f.path, f.file]))
  const all = await completeMeasurements(engine, files, options, { fileOf: (path) => placed.get(path), keep })
  return report(all, { ...options, notRead })
}

/** Files with their facts, and those that were not looked at. */
export interface MeasuredFiles {
  files: MeasuredFile[]
  notRead: string[]
  /** Keeps what was measured of one of the files meanwhile, where a cache keeps any. */
  keep: (file: MeasuredFile) => Promise<void>
}

/** The same without judging. */
export async function measureFiles(
  engine: Engine,
  given: readonly FoundFile[],
  beside: readonly FoundFile[],
  options: Pick<CheckOptions, 'progress' | 'cache' | 'validate'>,
): Promise<MeasuredFiles> {
  // A folder may hold anything: what is no part of an asset by name is left alone unless it was named itself,
  // and the report says so
  const isLookedAt = (f: FoundFile): boolean => isAssetName(f.path) || given.length === 1
  const files = given.filter(isLookedAt)
  const notRead = given.filter((f) => !isLookedAt(f)).map((f) => f.path)
  const measured: MeasuredFile[] = []
  const named = new Set(files.map((f) => f.file))
  const all = [...files, ...beside.filter((b) => !named.has(b.file))]
  const around = findAmong(all)
  let done = 0
  const hashes = new Map<string, Promise<string>>()
  const hashOf = (file: FoundFile): Promise<string> =>
    hashes.get(file.file) ?? hashes.set(file.file, hashFile(file.file, file.sizeBytes)).get(file.file)!
  // What lies around is the same for every mesh of a kind, and is hashed once
  const besides = new Map<string, Promise<string>>()
  const besideOf = (file: FoundFile): Promise<string> => {
    const kind = kindByExtension(file.path)
    const hashed = async (): Promise<string> =>
      sha256(
        (
          await Promise.all(
            all
              .filter((f) => readsBeside(file.path, f.path) && isAssetName(f.path))
              .map(async (f) => `${f.path} ${await hashOf(f).catch(() => 'unreadable')}`),
          )
        ).join('\n'),
      )
    return besides.get(kind) ?? besides.set(kind, hashed()).get(kind)!
  }
  const keyOf = async (file: FoundFile): Promise<string> =>
    cacheKey(file.path, await hashOf(file), isMeshName(file.path) ? await besideOf(file) : '')
  const keys = new Map<string, string>()
  const measureOne = async (file: FoundFile) => {
    const key = options.cache ? await keyOf(file) : null
    if (key !== null) keys.set(file.path, key)
    const known = key === null ? null : options.cache!.find(key)
    if (known && (!options.validate || !isGltf(known) || known.standard))
      measured.push({ path: file.path, ...known })
    else {
      // Where no key was asked for it is hashed while it is measured
      const [{ measured: facts }, hash] = await Promise.all([
        engine.measure({ path: file.path, file: file.file, sha256: '', sizeBytes: file.sizeBytes }, around, {
          thumbnail: false,
        }),
        hashOf(file),
      ])
      facts.sha256 = hash
      if (options.validate && isGltf(facts)) facts.standard = await standardOf(engine, file, around)
      measured.push(facts)
      // A limit that was hit is no property of the file
      if (key !== null && facts.kind !== 'unknown') await options.cache!.keep(key, facts)
    }
  }
  const measureOrRefuse = (file: FoundFile): Promise<void> =>
    measureOne(file)
      .catch((error: unknown) => {
        const refused = unreadable(file, error)
        if (!refused) throw error
        measured.push(refused)
      })
      .finally(() => options.progress?.(++done, files.length, file.path))
  await inTurns(files, 4, measureOrRefuse)
  const asked = new Set(
    measured.flatMap((m) =>
      m.facts?.kind === 'mesh'
        ? [...m.facts.file.images, ...m.facts.file.companions].flatMap((i) => (i.uri === null ? [] : [i.uri]))
        : [],
    ),
  )
  const more = beside.filter((b) => asked.has(b.path) && !named.has(b.file))
  await inTurns(more, 4, measureOrRefuse)
  measured.sort((a, b) => (a.path < b.path ? -1 : 1))
  return {
    files: measured,
    notRead,
    keep: async (file) => {
      const key = keys.get(file.path)
      if (key !== undefined && file.kind !== 'unknown') await options.cache?.keep(key, file)
    },
  }
}

const isGltf = ({ kind, facts }: Pick<MeasuredFile, 'kind' | 'facts'>): boolean =>
  facts !== null && (kind === 'glb' || kind === 'gltf')

/** Null where the validator broke off: then nothing is said. */
async function standardOf(
  engine: Engine,
  file: FoundFile,
  beside: FindBeside,
): Promise<StandardFacts | null> {
  const done = await engine.validate(file, beside)
  return done.ok ? done.value : null
}

/** One file that cannot be opened refuses itself and nothing else; null for trouble of another kind. */
function unreadable({ path, sizeBytes }: FoundFile, error: unknown): MeasuredFile | null {
  const { code, syscall } = error as NodeJS.ErrnoException
  if (syscall === undefined) return null
  return {
    path,
    sha256: '',
    sizeBytes,
    kind: 'unknown',
    facts: null,
    embedded: {},
    fault: bad(
      'file/unreadable',
      `The file cannot be opened (${code ?? syscall}).`,
      'Check that it is still there and that you may read it.',
    ).fault,
  }
}

async function inTurns<T>(
  items: readonly T[],
  width: number,
  each: (item: T) => Promise<void>,
): Promise<void> {
  const queue = [...items]
  await Promise.all(
    Array.from({ length: width }, async () => {
      for (let item = queue.shift(); item !== undefined; item = queue.shift()) await each(item)
    }),
  )
}
