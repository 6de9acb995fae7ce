import { createWriteStream } from 'node:fs'
import { rm } from 'node:fs/promises'
import { resolve } from 'node:path'
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
import { checkAll, type CheckArguments } from './check'
import { CannotRun, type ExitCode, type Surroundings } from './surroundings'
import { version } from './version'

export interface DispatchArguments extends Omit<CheckArguments, 'format' | 'out' | 'maxCautions'> {
  out: string
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
    const { entries, assets } = await packed(clear, report.target, checked.files, rulebook)
    const out = resolve(around.cwd, options.out)
    await writeOut(out, entries, manifestOf(report, assets, rulebook))
    around.out(words(report, assets, options.out))
    return report.verdict === 'clear' ? 0 : 1
  } finally {
    await checked.close()
  }
}

async function packed(
  clear: readonly AssetReport[],
  target: string,
  files: readonly FoundFile[],
  rulebook: Rulebook,
): Promise<{ entries: PackageEntry[]; assets: PackagedAsset[] }> {
  const byPath = new Map(files.map((f) => [f.path, f])),
    taken = new Set<string>(),
    entries: PackageEntry[] = [],
    assets: PackagedAsset[] = []
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
  }
  return { entries, assets }
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
  return [...stays, ...refused, packed].join('')
}
