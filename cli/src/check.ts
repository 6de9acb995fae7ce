import { writeFile } from 'node:fs/promises'
import { resolve } from 'node:path'
import { bad, type Report, type Rulebook } from '@stern-gate/contract'
import { report, sendingPlans, type Engine, type FoundFile, type SendingPlan } from '@stern-gate/engine'
import { askedWay, takeScenesApart, type ApartArguments } from './apart'
import { junitReport } from './junitReport'
import { measureAll, type MeasuredForRules, type MeasureArguments } from './measureForRules'
import { checkMending, mendAll, type MendArguments } from './mend'
import { sarifReport } from './sarifReport'
import { CannotRun, type ExitCode, type Surroundings } from './surroundings'
import { textReport } from './textReport'
import { version } from './version'

export interface CheckArguments extends MendArguments, MeasureArguments, ApartArguments {
  format: string
  out?: string
  maxCautions?: string
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
  const way = askedWay(options)
  const found = await measureAll(engine, around, paths, options)
  const all = await takeScenesApart(engine, around, found, {
    way,
    into: options.into,
    validate: options.validate === true,
  })
  let report = judgeAll(all, options.class ?? null)
  if (options.mend !== undefined) {
    const mended = await mendAll(engine, around, all, report, options)
    report = judgeAll({ ...all, measured: { ...all.measured, files: mended.files } }, options.class ?? null)
    around.err(
      `${mended.assets} ${mended.assets === 1 ? 'asset' : 'assets'} mended in ${mended.steps} ${mended.steps === 1 ? 'step' : 'steps'}, ${mended.written.length} ${mended.written.length === 1 ? 'file' : 'files'} written; what is left:\n`,
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
  rulebook: Rulebook
  files: FoundFile[]
  /** How each asset goes out to the target, by the path of its main file. */
  plans: () => Map<string, SendingPlan>
  close: () => Promise<void>
}

/** Checks files and folders by the arguments that every such command has. */
export async function checkAll(
  engine: Engine,
  around: Surroundings,
  paths: string[],
  options: MeasureArguments,
): Promise<Checked> {
  const all = await takeScenesApart(engine, around, await measureAll(engine, around, paths, options), {
    way: null,
  })
  return {
    report: judgeAll(all, options.class ?? null),
    rulebook: all.rules.rulebook,
    files: all.files,
    plans: () =>
      sendingPlans(all.measured.files, {
        rulebook: all.rules.rulebook,
        target: all.target,
        classChoice: options.class ?? null,
      }),
    close: all.close,
  }
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

const printers: Record<string, (report: Report) => string> = {
  json: (report) => `${JSON.stringify(report, null, 2)}\n`,
  text: textReport,
  sarif: sarifReport,
  junit: junitReport,
}
