import { createWriteStream } from 'node:fs'
import { mkdtemp, rm } from 'node:fs/promises'
import { tmpdir } from 'node:os'
import { join, resolve } from 'node:path'
import { pipeline } from 'node:stream/promises'
import {
  bad,
  good,
  type AssetReport,
  type Fault,
  type Manifest,
  type PackagedAsset,
  type Report,
  type Rulebook,
} from '@stern-gate/contract'
import { originOf, packagedAsset, packagedLightmap, packagedStep, type PassStep } from '@stern-gate/core'
import { writePackage, type Engine, type PackageEntry } from '@stern-gate/engine'
import { checkAll, type CheckArguments, type Checked } from './check'
import { encodeForDispatch } from './encodeForDispatch'
import { asTheyCame, madeForTarget, type SentFile } from './sendOut'
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
      clear = report.assets.filter((a) => a.verdict === 'clear'),
      held: NotSent[] = [],
      packed: PackagedAsset[] = []
    if (clear.length === 0)
      throw new CannotRun(
        bad(
          'dispatch/empty',
          `None of the ${report.assets.length} assets is clear; there is nothing to pack.`,
          'See what holds them by stern-gate check.',
        ).fault,
      )
    const out = resolve(around.cwd, options.out)
    const folder = await mkdtemp(join(tmpdir(), 'stern-gate-'))
    try {
      const sent = await sendOut(engine, around, folder, checked, clear)
      held.push(...sent.held)
      if (sent.assets.size === 0) throw new CannotRun(sent.held[0]!.fault)
      const entries: PackageEntry[] = [...sent.assets].flatMap(([asset, { files }]) =>
        asset.files.map(({ path }, i) => ({ path, file: files[i]!.file })),
      )
      if (options.encode) entries.push(...(await encoded(engine, around, folder, checked, sent.assets)))
      await writeOut(out, entries, manifestOf(report, [...sent.assets.keys()], rulebook))
      packed.push(...sent.assets.keys())
    } finally {
      await rm(folder, { recursive: true, force: true })
    }
    around.out(words(report, packed, held, options.out))
    return report.verdict === 'clear' && held.length === 0 ? 0 : 1
  } finally {
    await checked.close()
  }
}

/** An asset that could not be made for its target. */
interface NotSent {
  name: string
  fault: Fault
}

/** The files of each asset of a package, in their order there, and the path that its main file came by. */
type Sent = ReadonlyMap<PackagedAsset, { cameAs: string; files: readonly SentFile[] }>

/** Textures as the target stores them. */
async function encoded(
  engine: Engine,
  around: Surroundings,
  folder: string,
  { plans }: Checked,
  sent: Sent,
): Promise<PackageEntry[]> {
  const wanted = plans()
  const progress = showProgress(around)
  const entries = await encodeForDispatch(
    engine,
    folder,
    [...sent].map(([asset, { cameAs, files }]) => ({
      asset,
      wanted: wanted.get(cameAs)?.encodings ?? [],
      placeOf: (path) => {
        const at = files.findIndex((f) => f.cameAs === path)
        return at < 0 ? undefined : { file: files[at]!.file, packed: asset.files[at]!.path }
      },
    })),
    progress.show,
  )
  progress.end()
  return entries
}

/** Clear assets with their files as they go out; what the target has otherwise is made, into `folder`. */
async function sendOut(
  engine: Engine,
  around: Surroundings,
  folder: string,
  { files, plans, report: { target }, rulebook }: Checked,
  clear: readonly AssetReport[],
): Promise<{ assets: Sent; held: NotSent[] }> {
  const byPath = new Map(files.map((f) => [f.path, f])),
    taken = new Set<string>(),
    assets = new Map<PackagedAsset, { cameAs: string; files: readonly SentFile[] }>(),
    held: NotSent[] = [],
    known = plans()
  const progress = showProgress(around)
  const sorted = [...clear].sort((a, b) => (`${a.kind} ${a.name}` < `${b.kind} ${b.name}` ? -1 : 1))
  for (const [i, own] of sorted.entries()) {
    const came = await asTheyCame(own, byPath),
      plan = known.get(own.files[0]!)
    const pass = plan?.pass ?? []
    if (pass.length > 0) progress.show(i, sorted.length, own.name)
    const sent = pass.length > 0 ? await madeForTarget(engine, folder, came, plan!, target) : good(came)
    if (!sent.ok) {
      held.push({ name: own.name, fault: sent.fault })
      continue
    }
    const levels = plan?.levels ?? []
    const asset = packagedOf(own, sent.value, { pass, levels, target, rulebook, taken })
    assets.set(asset, { cameAs: own.files[0]!, files: sent.value })
  }
  progress.end()
  return { assets, held }
}

const packagedOf = (
  { name, kind, class: className, findings, carryOver, files }: AssetReport,
  sent: readonly SentFile[],
  about: {
    pass: readonly PassStep[]
    levels: PackagedAsset['levels']
    target: string
    rulebook: Rulebook
    taken: Set<string>
  },
): PackagedAsset =>
  packagedAsset(
    about.target,
    {
      id: null,
      name,
      kind,
      class: className,
      version: null,
      recipe: [],
      made: about.pass.map(packagedStep),
      levels: about.levels,
      lightmap:
        kind === 'mesh'
          ? packagedLightmap(about.rulebook.classes[className], about.rulebook.targets[about.target])
          : null,
      main: (sent.find((f) => f.part === 'mesh') ?? sent[0]!).path,
      files: sent.map(({ path, part, sha256, sizeBytes }) => ({ path, part, sha256, sizeBytes })),
      origin: originOf(about.rulebook, files[0]!, null).given,
      carryOver: carryOver.filter((l) => l.fate !== 'kept'),
      findings,
    },
    about.taken,
  )

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

function words(
  report: Report,
  assets: readonly PackagedAsset[],
  notSent: readonly NotSent[],
  out: string,
): string {
  const held = report.assets.filter((a) => a.verdict === 'held')
  const files = assets.reduce((sum, a) => sum + a.files.length, 0)
  const stays = held.map((a) => {
    const stops = a.findings.filter((f) => f.level === 'stop')
    return `  stays  ${a.name}: ${stops[0]?.text ?? 'held'}${stops.length > 1 ? ` (and ${stops.length - 1} more)` : ''}\n`
  })
  const unmade = notSent.map((n) => `  stays  ${n.name}: ${n.fault.why}\n`)
  const refused = report.refused.map((f) => `  refused  ${f.where.file ?? ''}: ${f.why}\n`)
  const packed = `Packed ${assets.length} of ${report.assets.length} assets (${files} files) into ${out}.\n`
  const left = assets.flatMap((a) => a.notEncoded.map((n) => `  not encoded  ${n.of}: ${n.why}\n`)),
    made = assets.reduce((sum, a) => sum + a.encoded.length, 0)
  const encoded =
    made > 0 ? `${made} ${made === 1 ? 'texture' : 'textures'} encoded for ${report.target}.\n` : ''
  return [...stays, ...unmade, ...refused, ...left, packed, encoded].join('')
}
