import { createWriteStream } from 'node:fs'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { pipeline } from 'node:stream/promises'
import {
  bad,
  type AssetReport,
  type Manifest,
  type PackagedAsset,
  type Report,
  type Rulebook,
} from '@stern-gate/contract'
import { isMeshKind, isTextureKind, kindByExtension, originOf, packagedAsset } from '@stern-gate/core'
import { hashFile, writePackage, type Engine, type FoundFile, type PackageEntry } from '@stern-gate/engine'
import { checkAll, type CheckArguments, type Checked } from './check'
import { encodeForDispatch } from './encodeForDispatch'
import { showProgress } from './showProgress'
import { CannotRun, type ExitCode, type Surroundings } from './surroundings'
import { version } from './version'

export interface DispatchArguments extends Omit<CheckArguments, 'format' | 'out' | 'maxCautions'> {
  out: string
  encode?: boolean
}

/** Checks files and folders and packs the assets that are clear, with a manifest. */
export async function dispatch(
  engine: Engine,
  around: Surroundings,
  paths: string[],
  options: DispatchArguments,
): Promise<ExitCode> {
  const checked = await checkAll(engine, around, paths, options),
    { rulebook } = checked
  try {
    const { report } = checked,
      clear = report.assets.filter((a) => a.verdict === 'clear')
    if (clear.length === 0)
      throw new CannotRun(
        bad(
          'dispatch/empty',
          `None of the ${report.assets.length} assets is clear; there is nothing to pack.`,
          'See what holds them by stern-gate check.',
        ).fault,
      )
    const { entries, assets, sources } = await packed(clear, report.target, checked.files, rulebook)
    const out = resolve(around.cwd, options.out)
    const folder = await mkdtemp(join(tmpdir(), 'stern-gate-'))
    try {
      if (options.encode) entries.push(...(await encoded(engine, around, folder, checked, sources)))
      await writeOut(out, entries, manifestOf(report, assets, rulebook))
    } finally {
      await rm(folder, { recursive: true, force: true })
    }
    around.out(words(report, assets, options.out))
    return report.verdict === 'clear' ? 0 : 1
  } finally {
    await checked.close()
  }
}

/** Paths that the files of each asset came by, in their order in the package. */
type Sources = ReadonlyMap<PackagedAsset, readonly string[]>

/** Textures as the target stores them. */
async function encoded(
  engine: Engine,
  around: Surroundings,
  folder: string,
  { files, encodings }: Checked,
  sources: Sources,
): Promise<PackageEntry[]> {
  const wanted = encodings(),
    byPath = new Map(files.map((f) => [f.path, f.file]))
  const progress = showProgress(around)
  const entries = await encodeForDispatch(
    engine,
    folder,
    [...sources].map(([asset, own]) => ({
      asset,
      wanted: wanted.get(own[0]!) ?? [],
      placeOf: (path) => {
        const packed = asset.files[own.indexOf(path)]?.path,
          file = byPath.get(path)
        return packed !== undefined && file !== undefined ? { file, packed } : undefined
      },
    })),
    progress.show,
  )
  progress.end()
  return entries
}

async function packed(
  clear: readonly AssetReport[],
  target: string,
  files: readonly FoundFile[],
  rulebook: Rulebook,
): Promise<{ entries: PackageEntry[]; assets: PackagedAsset[]; sources: Sources }> {
  const byPath = new Map(files.map((f) => [f.path, f])),
    taken = new Set<string>(),
    entries: PackageEntry[] = [],
    assets: PackagedAsset[] = [],
    sources = new Map<PackagedAsset, readonly string[]>()
  const sorted = [...clear].sort((a, b) => (`${a.kind} ${a.name}` < `${b.kind} ${b.name}` ? -1 : 1))
  for (const { name, kind, class: className, findings, carryOver, files: own } of sorted) {
    const came = await Promise.all(
      own.map(async (path) => {
        const { file, sizeBytes } = byPath.get(path)!
        return { path, part: partOf(path), sha256: await hashFile(file, sizeBytes), sizeBytes }
      }),
    )
    const asset = packagedAsset(
      target,
      {
        id: null,
        name,
        kind,
        class: className,
        version: null,
        recipe: [],
        main: (came.find((f) => f.part === 'mesh') ?? came[0]!).path,
        files: came,
        origin: originOf(rulebook, came[0]!.path, null).given,
        carryOver: carryOver.filter((l) => l.fate !== 'kept'),
        findings,
      },
      taken,
    )
    for (const [i, { path }] of asset.files.entries()) entries.push({ path, file: byPath.get(own[i]!)!.file })
    assets.push(asset)
    sources.set(asset, own)
  }
  return { entries, assets, sources }
}

const partOf = (path: string): PackagedAsset['files'][number]['part'] => {
  const kind = kindByExtension(path)
  return isMeshKind(kind) ? 'mesh' : isTextureKind(kind) ? 'texture' : 'buffer'
}

const manifestOf = (report: Report, assets: PackagedAsset[], { terms }: Rulebook): Manifest => ({
  format: 'stern-gate-manifest/1',
  version,
  project: null,
  dispatch: null,
  target: report.target,
  rulebook: { name: report.rulebook, revision: null },
  terms,
  assets,
  scenes: [],
})

/** A package that could not be written to its end is taken away again. */
async function writeOut(out: string, entries: readonly PackageEntry[], manifest: Manifest): Promise<void> {
  try {
    await pipeline(writePackage(entries, manifest), createWriteStream(out))
  } catch (error) {
    await rm(out, { force: true }).catch(() => undefined)
    const { code = 'an unknown fault' } = error as NodeJS.ErrnoException
    throw new CannotRun(
      bad(
        'file/unreadable',
        `The package cannot be written (${String(code)}).`,
        'Check the path of --out, and that there is room.',
        { file: out },
      ).fault,
    )
  }
}

function words(report: Report, assets: readonly PackagedAsset[], out: string): string {
  const held = report.assets.filter((a) => a.verdict === 'held')
  const files = assets.reduce((sum, a) => sum + a.files.length, 0)
  const stays = held.map((a) => {
    const stops = a.findings.filter((f) => f.level === 'stop')
    return `  stays  ${a.name}: ${stops[0]?.text ?? 'held'}${stops.length > 1 ? ` (and ${stops.length - 1} more)` : ''}\n`
  })
  const refused = report.refused.map((f) => `  refused  ${f.where.file ?? ''}: ${f.why}\n`)
  const packed = `Packed ${assets.length} of ${report.assets.length} assets (${files} files) into ${out}.\n`
  const left = assets.flatMap((a) => a.notEncoded.map((n) => `  not encoded  ${n.of}: ${n.why}\n`)),
    made = assets.reduce((sum, a) => sum + a.encoded.length, 0)
  const encoded =
    made > 0 ? `${made} ${made === 1 ? 'texture' : 'textures'} encoded for ${report.target}.\n` : ''
  return [...stays, ...refused, ...left, packed, encoded].join('')
}
