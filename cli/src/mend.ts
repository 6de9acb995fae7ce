import { execFile } from 'node:child_process'
import { mkdir, writeFile } from 'node:fs/promises'
import { dirname, join, relative, resolve } from 'node:path'
import { promisify } from 'node:util'
import {
  bad,
  counts,
  optionsOfOffer,
  type Finding,
  type IntakePreset,
  type RecipeStep,
  type Report,
} from '@stern-gate/contract'
import { isSafe, withIntake, type MeasuredFile } from '@stern-gate/core'
import { completeMeasurements, sha256, type Engine, type FoundFile } from '@stern-gate/engine'
import { assetFiles, insideOnly } from './assetFiles'
import { settingsOf, type MeasuredForRules } from './measureForRules'
import { CannotRun, type Surroundings } from './surroundings'

export interface MendArguments {
  mend?: string | boolean
  /** Name of the intake preset by which meshes are taken in first. */
  intake?: string
  into?: string
  write?: boolean
  force?: boolean
}

/** What mending made: files as they are now, and in words what was done. */
export interface Mended {
  files: MeasuredFile[]
  assets: number
  steps: number
  /** What was written: its path in the delivery, and where it lies. */
  written: FoundFile[]
}

/** Throws CannotRun where the arguments do not say what is to be done, and where. */
export function checkMending({ mend, intake, into, write }: MendArguments): void {
  if (mend === undefined && intake === undefined) return
  if (mend !== undefined && mend !== true && mend !== 'safe' && mend !== 'all')
    throw new CannotRun(
      bad('request/invalid', `--mend takes safe or all.`, 'Write --mend, --mend safe or --mend all.', {
        part: '--mend',
      }).fault,
    )
  if ((into === undefined) === (write !== true))
    throw new CannotRun(
      bad(
        'request/invalid',
        'Where mended files go is not said, or said twice.',
        'Write --into FOLDER, or --write to put them in the place of the files as they are.',
        { part: '--into' },
      ).fault,
    )
}

/** Steps for one asset: what is safe, or the first offer of every finding. Waived findings are left alone. */
export const stepsFor = (findings: readonly Finding[], all: boolean): RecipeStep[] =>
  findings
    .filter(counts)
    .flatMap((finding) => {
      const offer = finding.remedies.find(
        (r) => all || optionsOfOffer(r).every((options) => isSafe(r.remedy, options)),
      )
      return offer
        ? optionsOfOffer(offer).map((options) => ({ remedy: offer.remedy, options, why: finding.rule }))
        : []
    })
    .filter((step, i, steps) => steps.findIndex((s) => sameStep(s, step)) === i)
    .map((step, i) => ({ id: `step-${i}`, on: true, ...step }))

const sameStep = (
  a: Pick<RecipeStep, 'remedy' | 'options'>,
  b: Pick<RecipeStep, 'remedy' | 'options'>,
): boolean => a.remedy === b.remedy && JSON.stringify(a.options) === JSON.stringify(b.options)

/** Applies what is safe, or the first offer of every finding, to the assets of a report. */
export const mendAll = (
  engine: Engine,
  around: Surroundings,
  all: MeasuredForRules,
  report: Report,
  options: MendArguments,
): Promise<Mended> =>
  changeAll(engine, around, all, {
    report,
    stepsOf: (asset) => stepsFor(asset.findings, options.mend === 'all'),
    options,
  })

/** Takes the meshes of a report in by a preset. */
export const takeInAll = (
  engine: Engine,
  around: Surroundings,
  all: MeasuredForRules,
  report: Report,
  { preset, options }: { preset: IntakePreset; options: MendArguments },
): Promise<Mended> =>
  changeAll(engine, around, all, {
    report,
    stepsOf: (asset) => (asset.kind === 'mesh' ? withIntake({ steps: [] }, preset).steps : []),
    options,
  })

/** What was measured with what was made in the place of what it was made of. */
export function afterMending(all: MeasuredForRules, { files, written }: Mended): MeasuredForRules {
  const made = new Set(written.map((f) => f.path))
  return {
    ...all,
    measured: { ...all.measured, files },
    files: [...all.files.filter((f) => !made.has(f.path)), ...written],
  }
}

interface Change {
  report: Report
  stepsOf: (asset: Report['assets'][number]) => RecipeStep[]
  options: MendArguments
}

/**
 * Applies steps to the assets of a report and writes what comes out, into a folder or in place. An asset that cannot be
 * changed stays as it is, and is said.
 */
async function changeAll(
  engine: Engine,
  around: Surroundings,
  all: MeasuredForRules,
  { report, stepsOf, options }: Change,
): Promise<Mended> {
  const placed = new Map(all.files.map((f) => [f.path, f.file]))
  const work = report.assets
    .map((asset) => ({ asset, steps: stepsOf(asset) }))
    .filter(({ steps }) => steps.length > 0)
  if (options.write && !options.force)
    await refuseUncommitted(
      around.cwd,
      work.flatMap(({ asset }) => asset.files.flatMap((f) => placed.get(f) ?? [])),
    )
  const measured = new Map(all.measured.files.map((m) => [m.path, m]))
  const hashes = new Map<string, string>()
  const mended: Mended = { files: [], assets: 0, steps: 0, written: [] }
  for (const { asset, steps } of work) {
    const done = await engine.mend(assetFiles(asset, measured, placed), { steps }, { thumbnail: false })
    if (!done.ok) {
      around.err(`not mended: ${asset.name}: ${done.fault.why}\n`)
      continue
    }
    const changed = done.value.results.filter((r) => r.changed).length
    if (changed === 0) continue
    const clash = done.value.files.find((f) => hashes.has(f.path) && hashes.get(f.path) !== sha256(f.bytes))
    if (clash) {
      around.err(`not mended: ${asset.name}: another asset changed ${clash.path}; check once more.\n`)
      continue
    }
    mended.assets++
    mended.steps += changed
    // The main file may have another name or format now
    if (!done.value.files.some((f) => f.path === asset.files[0])) measured.delete(asset.files[0]!)
    for (const [i, file] of done.value.files.entries()) {
      hashes.set(file.path, sha256(file.bytes))
      const measurement = done.value.measurements[i]
      if (measurement) measured.set(file.path, { ...measurement.measured, path: file.path })
      const target = options.write
        ? (placed.get(file.path) ??
          join(
            dirname(placed.get(asset.files[0]!) ?? around.cwd),
            relative(dirname(asset.files[0]!), file.path),
          ))
        : join(resolve(around.cwd, options.into!), insideOnly(file.path))
      await mkdir(dirname(target), { recursive: true })
      await writeFile(target, file.bytes)
      mended.written.push({ path: file.path, file: target, sizeBytes: file.bytes.length })
    }
  }
  const written = new Map(mended.written.map((f) => [f.path, f.file]))
  mended.files = await completeMeasurements(
    engine,
    [...measured.values()].sort((a, b) => (a.path < b.path ? -1 : 1)),
    settingsOf(all),
    { fileOf: (path) => written.get(path) ?? placed.get(path) },
  )
  return mended
}

/** Throws CannotRun where files that would be written over have changes that nobody committed. */
async function refuseUncommitted(cwd: string, files: readonly string[]): Promise<void> {
  const run = promisify(execFile)
  const changed: string[] = []
  for (let k = 0; k < files.length; k += FILES_AT_ONCE) {
    const answer = await run('git', ['status', '--porcelain', '--', ...files.slice(k, k + FILES_AT_ONCE)], {
      cwd,
    }).catch(
      // No work tree, or no git: nothing to compare with
      () => ({ stdout: '' }),
    )
    changed.push(...answer.stdout.split('\n').filter((line) => line !== ''))
  }
  if (changed.length > 0)
    throw new CannotRun(
      bad(
        'request/invalid',
        `${changed.length} of the files have changes that are not committed: ${changed[0]!.slice(3)}${changed.length > 1 ? ' …' : ''}.`,
        'Commit them first, or write --force.',
        { part: '--write' },
      ).fault,
    )
}

const FILES_AT_ONCE = 500
