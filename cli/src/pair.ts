import { mkdir, writeFile } from 'node:fs/promises'
import { dirname, join, resolve } from 'node:path'
import { ACCEPT_FROM, bad, type PairingCell, type PairingReport } from '@stern-gate/contract'
import { inputWords, planFeeding } from '@stern-gate/core'
import { pairFiles, type Engine, type PairedFiles } from '@stern-gate/engine'
import { assetFiles, insideOnly } from './assetFiles'
import { measureAll, type MeasuredForRules, type MeasureArguments } from './measureForRules'
import { CannotRun, faultText, type ExitCode, type Surroundings } from './surroundings'
import { version } from './version'

export interface PairArguments extends Pick<MeasureArguments, 'rulebook' | 'target' | 'cache'> {
  accept?: string
  into?: string
  /** Surfaces of values are accepted, too. */
  values?: boolean
  format: string
  out?: string
}

/**
 * Says which texture feeds which input of which slot, and with `into` writes the meshes with what was accepted.
 * Exit code 0: every cell that is asked for is fed or accepted; 1: some are open or unsure.
 */
export async function pair(
  engine: Engine,
  around: Surroundings,
  paths: string[],
  options: PairArguments,
): Promise<ExitCode> {
  const accept = acceptFrom(options.accept)
  if (options.format !== 'text' && options.format !== 'json')
    throw new CannotRun(
      bad('request/invalid', `There is no format ${options.format}.`, 'Choose text or json.', {
        part: '--format',
      }).fault,
    )
  const all = await measureAll(engine, around, paths, options)
  try {
    const paired = pairFiles(all.measured.files, all.rules.rulebook, all.target)
    const accepted = isAccepted(accept, options.values === true)
    const report = reportOf(paired, accept, accepted, all)
    const text =
      options.format === 'json' ? `${JSON.stringify(report, null, 2)}\n` : pairingText(report, accepted)
    if (options.out === undefined) around.out(text)
    else await writeFile(resolve(around.cwd, options.out), text)
    if (options.into !== undefined) await writeFed(engine, around, all, paired, accepted, options.into)
    return report.totals.open + report.totals.unsure > 0 ? 1 : 0
  } finally {
    await all.close()
  }
}

function acceptFrom(text: string | undefined): number {
  const accept = text === undefined ? ACCEPT_FROM : Number(text)
  if (text?.trim() !== '' && accept >= 0 && accept <= 1) return accept
  throw new CannotRun(
    bad('request/invalid', `--accept takes a confidence from 0 to 1, not ${text}.`, 'Write --accept 0.9.', {
      part: '--accept',
    }).fault,
  )
}

/**
 * What two slots want alike is for a person. A slot without textures may wait for some: values in their place are
 * only taken where that is asked for.
 */
const isAccepted =
  (accept: number, values: boolean) =>
  ({ state, confidence, preset, rivals }: PairingCell): boolean =>
    state === 'found' && confidence >= accept && rivals.length === 0 && (preset === null || values)

function reportOf(
  { problem, pairing }: PairedFiles,
  accept: number,
  isSure: (cell: PairingCell) => boolean,
  all: MeasuredForRules,
): PairingReport {
  const count = (test: (cell: PairingCell) => boolean): number => pairing.cells.filter(test).length
  const accepted = count(isSure)
  return {
    format: 'stern-gate-pairing/1',
    version,
    accept,
    totals: {
      slots: problem.slots.length,
      textures: problem.textures.length,
      wired: count((c) => c.state === 'wired'),
      accepted,
      unsure: count((c) => c.state === 'found') - accepted,
      open: count((c) => c.state === 'open'),
      tray: pairing.tray.length,
    },
    slots: [...problem.slots],
    textures: [...problem.textures],
    ...pairing,
    refused: [...all.measured.files.flatMap((f) => (f.fault ? [f.fault] : [])), ...all.refused],
  }
}

/** Writes each mesh that accepted cells feed into a folder, with its textures. */
async function writeFed(
  engine: Engine,
  around: Surroundings,
  all: MeasuredForRules,
  { drafts, assets, problem, pairing }: PairedFiles,
  accepted: (cell: PairingCell) => boolean,
  into: string,
): Promise<void> {
  const placed = new Map(all.files.map((f) => [f.path, f.file])),
    measured = new Map(all.measured.files.map((m) => [m.path, m]))
  const plan = planFeeding(assets, problem.textures, pairing.cells.filter(accepted))
  let written = 0
  for (const { asset, join: joined, steps } of plan) {
    const draft = drafts[assets.indexOf(asset)]!
    const files = [...draft.files.map((f) => f.path), ...joined.map((j) => j.texture.path)]
    const done = await engine.mend(
      assetFiles({ name: draft.name, kind: 'mesh', files: [...new Set(files)] }, measured, placed),
      { steps: steps.map((step, i) => ({ id: `step-${i}`, on: true, why: '', ...step })) },
      { thumbnail: false },
    )
    if (!done.ok) {
      around.err(`not written: ${draft.name}: ${faultText(done.fault)}`)
      continue
    }
    for (const file of done.value.files) {
      const target = join(resolve(around.cwd, into), insideOnly(file.path))
      await mkdir(dirname(target), { recursive: true })
      await writeFile(target, file.bytes)
    }
    written++
  }
  around.err(`${written} ${written === 1 ? 'mesh' : 'meshes'} with textures written into ${into}\n`)
}

/** The report for a terminal: a line a cell, slots with something to decide first. */
export function pairingText(report: PairingReport, isSure: (cell: PairingCell) => boolean): string {
  const { totals, accept } = report
  const paths = new Map(report.textures.map((t) => [t.id, t.path]))
  const slots = report.slots
    .map((slot) => ({ slot, cells: report.cells.filter((c) => c.slot === slot.id) }))
    .sort((a, b) => toDecide(b.cells, isSure) - toDecide(a.cells, isSure))
  const lines = slots.flatMap(({ slot, cells }) => [
    `${slot.slot}  on ${slot.asset}`,
    ...cells.map((cell) => cellLine(cell, isSure(cell), paths)),
    '',
  ])
  const tray = report.tray.map((t) => `  ${paths.get(t.texture)!}  (${t.note})`)
  return [
    ...lines,
    ...(tray.length > 0 ? ['In no slot:', ...tray, ''] : []),
    [
      `${totals.slots} slots: ${totals.accepted} cells from ${accept} on, ${totals.unsure} below,`,
      `${totals.open} open, ${totals.wired} fed before;`,
      `${totals.tray} of ${totals.textures} textures in no slot.`,
    ].join(' '),
    '',
  ].join('\n')
}

const toDecide = (cells: readonly PairingCell[], isSure: (cell: PairingCell) => boolean): number =>
  cells.filter((c) => c.state !== 'wired' && !isSure(c)).length

function cellLine(cell: PairingCell, isSure: boolean, paths: ReadonlyMap<string, string>): string {
  const input = inputWords[cell.input].padEnd(12),
    wrong = cell.wrongInput ? ` (its pixels look like ${inputWords[cell.wrongInput]})` : ''
  if (cell.state === 'open') {
    const near = cell.others.map((o) => `${paths.get(o.texture)} ${o.confidence.toFixed(2)}`)
    return `  ?  ${input}  open  ${near.length > 0 ? `nearest: ${near.join(', ')}` : cell.reason}`
  }
  const name =
    cell.texture === null ? `${cell.name}${cell.preset ? ', by values' : ''}` : paths.get(cell.texture)!
  if (cell.state === 'wired') return `     ${input}  fed   ${name}${wrong}`
  const mark = isSure ? '✓' : '?'
  return `  ${mark}  ${input}  ${cell.confidence.toFixed(2)}  ${name}${wrong}\n${' '.repeat(25)}${cell.reason}`
}
