import { stat, readdir } from 'node:fs/promises'
import { basename, dirname, join, relative, resolve, sep } from 'node:path'
import {
  bad,
  type AssetReport,
  type Fault,
  type Report,
  type Rulebook,
  type StandardFacts,
  type Verdict,
} from '@stern-gate/contract'
import {
  assembleAssets,
  buildSubject,
  commonFamily,
  isAssetName,
  isMeshName,
  isSystemFile,
  judge,
  kindByExtension,
  readsBeside,
  refusedFiles,
  type MeasuredFile,
} from '@stern-gate/core'
import type { Engine } from './createEngine'
import { cacheKey, hashFile, type FactsCache } from './factsCache'
import { findAmong, type FindBeside } from './findAmong'
import { sha256 } from './hashing'

export interface FoundFile {
  path: string
  file: string
  sizeBytes: number
}

/**
 * Lists files and what is in folders, with paths relative to the folder that holds them all (the working
 * folder where that covers them). Links and dot files are left out.
 */
export async function findFiles(
  given: readonly string[],
  cwd: string,
): Promise<{ found: FoundFile[]; missing: string[] }> {
  const found: FoundFile[] = [],
    missing: string[] = [],
    known = new Set<string>()
  for (const name of given) {
    const absolute = resolve(cwd, name)
    const info = await stat(absolute).catch(() => null)
    if (!info) {
      missing.push(name)
      continue
    }
    const inside = !relative(cwd, absolute).startsWith('..') && relative(cwd, absolute) !== ''
    const root = inside ? cwd : info.isDirectory() ? absolute : dirname(absolute)
    const add = (file: string, sizeBytes: number) =>
      void (
        known.has(file) ||
        (known.add(file),
        found.push({ path: relative(root, file).split(sep).join('/') || basename(file), file, sizeBytes }))
      )
    if (info.isFile()) add(absolute, info.size)
    else await walk(absolute, add)
  }
  return { found, missing }
}

async function walk(folder: string, add: (file: string, sizeBytes: number) => void): Promise<void> {
  const entries = await readdir(folder, { withFileTypes: true })
  for (const entry of entries.sort((a, b) => (a.name < b.name ? -1 : 1))) {
    if (isSystemFile(entry.name) || entry.name === 'node_modules') continue
    const path = join(folder, entry.name)
    if (entry.isDirectory()) await walk(path, add)
    else if (entry.isFile()) add(path, (await stat(path)).size)
  }
}

export interface CheckOptions {
  rulebook: Rulebook
  target: string
  classChoice: string | null
  version: string
  progress?: (done: number, total: number, path: string) => void
  cache?: FactsCache
  /** What was refused before any file was measured. */ refused?: readonly Fault[]
  /** Have the open standard's validator look at glTF files, too. */ validate?: boolean
  /** Files that were not looked at. */ notRead?: readonly string[]
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
  const measureOne = async (file: FoundFile) => {
    const key = options.cache ? await keyOf(file) : null
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
  return report(measured, { ...options, notRead })
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

/** Judges measured files as one delivery. */
export function report(measured: readonly MeasuredFile[], options: Omit<CheckOptions, 'progress'>): Report {
  const drafts = assembleAssets(measured, options.rulebook)
  const taken = new Set(drafts.map((d) => d.name))
  const family = commonFamily(drafts.map((d) => d.name))
  const byPath = new Map(measured.map((m) => [m.path, m]))
  const assets: AssetReport[] = drafts.map((draft) => {
    const subject = buildSubject(
      draft,
      draft.files.map((f) => byPath.get(f.path)!),
      {
        rulebook: options.rulebook,
        targetName: options.target,
        classChoice: options.classChoice,
        taken,
        family,
      },
    )
    const { findings, tally, verdict } = judge(subject)
    return {
      name: draft.name,
      kind: draft.kind,
      class: subject.className,
      classFrom: subject.classFrom,
      files: draft.files.map((f) => f.path),
      verdict,
      tally,
      findings,
    }
  })
  const refused: Fault[] = [...(options.refused ?? []), ...refusedFiles(measured)]
  const count = (level: string) => assets.flatMap((a) => a.findings).filter((f) => f.level === level).length
  const held = assets.filter((a) => a.verdict === 'held').length
  const verdict: Verdict = held > 0 || refused.length > 0 ? 'held' : 'clear'
  return {
    format: 'stern-gate-report/1',
    version: options.version,
    rulebook: options.rulebook.name,
    target: options.target,
    verdict,
    totals: {
      assets: assets.length,
      held,
      stops: count('stop'),
      cautions: count('caution'),
      notes: count('note'),
      refused: refused.length,
    },
    assets,
    refused,
    notRead: [...(options.notRead ?? [])].sort(),
  }
}
