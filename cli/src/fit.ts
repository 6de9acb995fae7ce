import { writeFile } from 'node:fs/promises'
import { resolve } from 'node:path'
import type { Fit, Proposal } from '@stern-gate/contract'
import { applyProposals, checkRulebook } from '@stern-gate/core'
import { fitFiles, type Engine } from '@stern-gate/engine'
import { measureAll, type MeasureArguments } from './measureForRules'
import { CannotRun, type ExitCode, type Surroundings } from './surroundings'

export interface FitArguments extends Pick<MeasureArguments, 'rulebook' | 'target' | 'cache'> {
  out?: string
  format: string
}

/** Proposes a rulebook from files that are good as they are; writes it, and says what was found. */
export async function fit(
  engine: Engine,
  around: Surroundings,
  paths: string[],
  options: FitArguments,
): Promise<ExitCode> {
  const { measured, rules, target, close } = await measureAll(engine, around, paths, options)
  await close()
  const found = fitFiles(measured.files, rules.rulebook, target)
  if (found.assets === 0) {
    around.err('Nothing was fitted: there is no mesh and no texture among these files.\n')
    return 2
  }
  around.out(options.format === 'json' ? `${JSON.stringify(found, null, 2)}\n` : fitText(found))
  if (options.out === undefined) return 0
  const fitted = checkRulebook({ ...applyProposals(rules.rulebook, found.proposals), name: 'fitted' })
  if (!fitted.ok) throw new CannotRun(fitted.fault)
  await writeFile(resolve(around.cwd, options.out), `${JSON.stringify(fitted.value, null, 2)}\n`)
  around.err(`Written to ${options.out}: check takes it by --rulebook, or finds it as stern-gate.json.\n`)
  return 0
}

/** Of a list so many are named on a terminal. */
const NAMED = 6

function fitText({ assets, proposals }: Fit): string {
  const lines = [
    `${assets} ${assets === 1 ? 'asset' : 'assets'}, ${proposals.length} ${proposals.length === 1 ? 'thing' : 'things'} to say:`,
    '',
  ]
  for (const p of proposals) lines.push(...proposalLines(p), '')
  return `${lines.join('\n')}\n`
}

function proposalLines(p: Proposal): string[] {
  if (p.change.length === 0)
    return [
      `${p.title}: nothing is proposed. ${p.note ?? ''}`,
      ...p.groups.map((g) => `    ${String(g.count).padStart(5)}  ${g.words}: ${g.examples.join(', ')}`),
    ]
  return [
    `${p.title}: fits ${p.fits} of ${p.of}`,
    `    now   ${p.now}`,
    `    then  ${p.then}`,
    ...(p.note ? [`    ${p.note}`] : []),
    ...(p.misfits.length === 0
      ? []
      : [`    not   ${p.misfits.slice(0, NAMED).join(', ')}${p.misfits.length > NAMED ? ' …' : ''}`]),
  ]
}
