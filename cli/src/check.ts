import { writeFile } from 'node:fs/promises'
import { basename, dirname, relative, resolve } from 'node:path'
import { bad, type Fault, type Report } from '@stern-gate/contract'
import { isMeshName } from '@stern-gate/core'
import {
  createFactsCache,
  findFiles,
  measureFiles,
  report,
  type Engine,
  type FoundFile,
  type MeasuredFiles,
} from '@stern-gate/engine'
import { cacheFolder } from './cacheFolder'
import { junitReport } from './junitReport'
import { sarifReport } from './sarifReport'
import { checkMending, mendAll, type MendArguments } from './mend'
import { openArchives } from './openArchives'
import { findRulebook, RULEBOOK_FILE, WAIVERS_FILE, type ProjectRules } from './readRulebook'
import { CannotRun, type ExitCode, type Surroundings } from './surroundings'
import { textReport } from './textReport'
import { showProgress } from './showProgress'
import { version } from './version'

export interface CheckArguments extends MendArguments {
  rulebook?: string
  target?: string
  class?: string
  format: string
  out?: string
  maxCautions?: string
  cache: string | boolean
  validate?: boolean
}

/** Checks files and folders and prints or writes the report. */
export async function check(
  engine: Engine,
  around: Surroundings,
  paths: string[],
  options: CheckArguments,
): Promise<ExitCode> {
  const print = printers[options.format]
  if (!print)
    throw new CannotRun(
      bad('request/invalid', `There is no format ${options.format}.`, 'Use text, json, sarif or junit.', {
        part: '--format',
      }).fault,
    )
  const most = options.maxCautions === undefined ? Infinity : Number(options.maxCautions)
  if (!(most >= 0))
    throw new CannotRun(
      bad(
        'request/invalid',
        `“${options.maxCautions}” is no count.`,
        'Write --max-cautions 20, for example.',
        { part: '--max-cautions' },
      ).fault,
    )
  checkMending(options)
  const all = await measureAll(engine, around, paths, options)
  let report = judgeAll(all, options.class ?? null)
  if (options.mend !== undefined) {
    const mended = await mendAll(engine, around, all, report, options)
    report = judgeAll({ ...all, measured: { ...all.measured, files: mended.files } }, options.class ?? null)
    around.err(
      `${mended.assets} ${mended.assets === 1 ? 'asset' : 'assets'} mended in ${mended.steps} steps, ${mended.written.length} files written; what is left:\n`,
    )
  }
  await all.close()
  const text = print(report)
  if (options.out === undefined) around.out(text)
  else await writeFile(resolve(around.cwd, options.out), text)
  if (report.totals.assets === 0 && report.totals.refused === 0) {
    around.err('Nothing was judged: there is no mesh and no texture among these files.\n')
    return 2
  }
  if (report.totals.cautions > most)
    around.err(`${report.totals.cautions} cautions; at most ${most} are allowed.\n`)
  return report.verdict === 'clear' && report.totals.cautions <= most ? 0 : 1
}

/** What was checked: the report, where its files lie, and an end for what was unpacked. */
export interface Checked {
  report: Report
  files: FoundFile[]
  close: () => Promise<void>
}

/** What was measured, and by which rules it is to be judged. */
export interface MeasuredForRules {
  measured: MeasuredFiles
  rules: ProjectRules
  target: string
  files: FoundFile[]
  refused: readonly Fault[]
  close: () => Promise<void>
}

/** Finds and measures files and folders by the arguments that every such command has. */
export async function measureAll(
  engine: Engine,
  around: Surroundings,
  paths: string[],
  options: Pick<CheckArguments, 'rulebook' | 'target' | 'class' | 'cache' | 'validate'>,
): Promise<MeasuredForRules> {
  const rules = await findRulebook(around.cwd, paths, options.rulebook),
    { rulebook } = rules
  const target = options.target ?? rulebook.defaultTarget
  known(rulebook.targets, target, '--target')
  if (options.class !== undefined) known(rulebook.classes, options.class, '--class')
  const { found: all, missing } = await findFiles(paths, around.cwd)
  if (missing.length > 0)
    throw new CannotRun(
      bad('file/not-found', `There is no file or folder ${missing[0]}.`, 'Check the path.', {
        file: missing[0]!,
      }).fault,
    )
  // The project's own words about its files are none of them
  const found = all.filter((f) => !OWN_FILES.includes(basename(f.file)))
  if (found.length === 0)
    throw new CannotRun(
      bad('file/not-found', 'The folders hold no files.', 'Name files or folders with meshes and textures.')
        .fault,
    )
  const progress = showProgress(around)
  const archives = await openArchives(found)
  const beside = await filesBeside(found, around.cwd)
  const measured = await measureFiles(engine, archives.files, beside, {
    progress: progress.show,
    validate: options.validate === true,
    ...(options.cache === false
      ? {}
      : {
          cache: createFactsCache(
            typeof options.cache === 'string' ? resolve(around.cwd, options.cache) : cacheFolder(),
          ),
        }),
  })
  progress.end()
  return {
    measured,
    rules,
    target,
    files: [...archives.files, ...beside],
    refused: archives.refused,
    close: archives.close,
  }
}

const OWN_FILES = [RULEBOOK_FILE, WAIVERS_FILE]

/** Checks files and folders by the arguments that every such command has. */
export async function checkAll(
  engine: Engine,
  around: Surroundings,
  paths: string[],
  options: Omit<CheckArguments, 'format' | 'out' | 'maxCautions'>,
): Promise<Checked> {
  const all = await measureAll(engine, around, paths, options)
  return { report: judgeAll(all, options.class ?? null), files: all.files, close: all.close }
}

/** Judges what was measured. */
export const judgeAll = (
  { measured, rules, target, refused }: Omit<MeasuredForRules, 'files' | 'close'>,
  classChoice: string | null,
): Report =>
  report(measured.files, {
    refused,
    rulebook: rules.rulebook,
    waivers: rules.waivers,
    target,
    classChoice,
    version,
    notRead: measured.notRead,
  })

/** What lies in the folders of meshes that were named by themselves, for their references. */
export async function filesBeside(found: readonly FoundFile[], cwd: string): Promise<FoundFile[]> {
  const folders = new Set(found.filter((f) => isMeshName(f.path)).map((f) => dirname(f.file)))
  const beside = await Promise.all([...folders].map((folder) => findFiles([folder], folder)))
  return beside
    .flatMap((b) => b.found)
    .map((b) => {
      const inside = !relative(cwd, b.file).startsWith('..')
      return inside ? { ...b, path: relative(cwd, b.file).replaceAll('\\', '/') } : b
    })
}

function known(names: object, name: string, option: string): void {
  if (!(name in names))
    throw new CannotRun(
      bad(
        'request/invalid',
        `The rulebook has no ${name}.`,
        `Choose one of: ${Object.keys(names).join(', ')}.`,
        { part: option },
      ).fault,
    )
}

const printers: Record<string, (report: Report) => string> = {
  json: (report) => `${JSON.stringify(report, null, 2)}\n`,
  text: textReport,
  sarif: sarifReport,
  junit: junitReport,
}
