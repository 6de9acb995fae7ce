import { writeFile } from 'node:fs/promises'
import { resolve } from 'node:path'
import { bad, type IntakePreset, type Report, type Rulebook } from '@stern-gate/contract'
import { countOf, intakePresets } from '@stern-gate/core'
import { report, sendingPlans, type Engine, type FoundFile, type SendingPlan } from '@stern-gate/engine'
import { askedWay, takeScenesApart, type ApartArguments } from './apart'
import { junitReport } from './junitReport'
import { measureAll, type MeasuredForRules, type MeasureArguments } from './measureForRules'
import { afterMending, checkMending, mendAll, takeInAll, type MendArguments, type Mended } from './mend'
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
  const asked = askedWay(options)
  const found = await measureAll(engine, around, paths, options)
  const preset = options.intake === undefined ? null : presetCalled(found.rules.rulebook, options.intake)
  const whole = await takeScenesApart(engine, around, found, {
    way: asked ?? preset?.apart ?? null,
    into: options.into,
    validate: options.validate === true,
  })
  const { all, report } = await changeAsAsked(engine, around, whole, { preset, options })
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

/** Takes meshes in by a preset and mends, as far as either is asked for, and judges what is there then. */
async function changeAsAsked(
  engine: Engine,
  around: Surroundings,
  found: MeasuredForRules,
  { preset, options }: { preset: IntakePreset | null; options: CheckArguments },
): Promise<{ all: MeasuredForRules; report: Report }> {
  let all = found,
    report = judgeAll(all, options.class ?? null)
  const take = (done: Mended, words: string): void => {
    all = afterMending(all, done)
    report = judgeAll(all, options.class ?? null)
    around.err(
      `${countOf(done.assets, 'asset')} ${words}, ${countOf(done.written.length, 'file')} written; what is left:\n`,
    )
  }
  if (preset)
    take(
      await takeInAll(engine, around, all, report, { preset, options }),
      `taken in by the preset ${preset.name}`,
    )
  // What a preset says of mending on arrival holds where nothing else is asked for
  const mend = options.mend ?? (preset?.mend ? 'safe' : undefined)
  if (mend !== undefined) {
    // With a preset the files were written a moment ago: to git they are changed, and nobody has touched them since
    const force = options.force === true || preset !== null
    const done = await mendAll(engine, around, all, report, { ...options, mend, force })
    take(done, `mended in ${countOf(done.steps, 'step')}`)
  }
  return { all, report }
}

/** The intake preset of a name. Throws CannotRun where the rulebook has none, with those that it has. */
function presetCalled(rulebook: Rulebook, name: string): IntakePreset {
  const presets = intakePresets(rulebook),
    found = presets.find((p) => p.name === name)
  if (found) return found
  throw new CannotRun(
    bad(
      'request/invalid',
      `The rulebook has no intake preset called ${name}.`,
      presets.length > 0
        ? `Use ${presets.map((p) => p.name).join(', ')}.`
        : 'Write one into its “intake”; the page Rulebook has them under Intake.',
      { part: '--intake' },
    ).fault,
  )
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
