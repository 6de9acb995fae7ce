import type { Fit, PatternKind, Proposal, Rulebook } from '@stern-gate/contract'
import { isMeaningful } from '../rulebook/nameWords'
import { rules } from '../rules/index'
import { roleOfName } from '../rulebook/textureRole'
import { compilePattern, fitsPattern } from '../rulebook/pattern'
import { fitClasses } from './fitClasses'
import { fitConventions, fitLayouts, fitRoles, fitWords } from './fitConventions'
import { fitIntake } from './fitIntake'
import { fitNames, type NameFit } from './fitNames'
import type { FitSample } from './fitSample'

const titles: Record<PatternKind, string> = {
  mesh: 'Names of meshes',
  lod: 'Names of levels',
  collision: 'Names of collision meshes',
  texture: 'Names of textures',
  slot: 'Names of material slots',
  clip: 'Names of clips',
}

/**
 * What a rulebook would have to say to fit assets that are good as they are: name patterns, words for roles,
 * classes with their limits, conventions. The same for any order of the assets.
 */
export function fitRulebook(samples: readonly FitSample[], rulebook: Rulebook): Fit {
  const roles = fitRoles(samples, rulebook),
    // Names are split with the words that were just learnt
    learnt = applyProposals(rulebook, roles)
  return {
    assets: samples.length,
    proposals: [
      ...(Object.keys(titles) as PatternKind[]).flatMap((kind) =>
        nameProposal(kind, samples, learnt, rulebook),
      ),
      ...fitWords(samples, unwantedWords(rulebook)),
      ...roles,
      ...fitConventions(samples, rulebook),
      ...fitLayouts(samples, learnt),
      ...fitIntake(samples, rulebook),
      ...fitClasses(samples, rulebook),
    ],
  }
}

/** Words that names/meaningless is set to refuse. */
function unwantedWords({ rules: settings }: Rulebook): readonly string[] {
  const rule = rules.find((r) => r.id === 'names/meaningless')!
  return (rule.options.parse(settings[rule.id]?.options ?? {}) as { words: string[] }).words
}

function nameProposal(
  kind: PatternKind,
  samples: readonly FitSample[],
  learnt: Rulebook,
  rulebook: Rulebook,
): Proposal[] {
  const names = [
    ...new Set(
      samples.flatMap((s) => s.names.filter((n) => n.kind === kind && n.name !== '').map((n) => n.name)),
    ),
  ]
  if (names.length === 0) return []
  const now = rulebook.patterns[kind],
    compiled = compilePattern(now),
    fitNow = compiled.ok ? names.filter((n) => fitsPattern(compiled.value, n)).length : 0
  // What fits already is left as it is
  if (fitNow >= names.length * 0.98) return []
  // Names that say nothing have no custom
  const telling = names.filter((n) => saysSomething(n))
  const fit = fitNames(telling, kind, (word) => roleOfName(learnt, word) !== null)
  if (fit.pattern !== null && fit.fits <= fitNow) return []
  return [patternProposal(kind, now, fit)]
}

const saysSomething = (name: string): boolean =>
  name
    .toLowerCase()
    .split(/[^a-z0-9]+/)
    .some((w) => w !== '' && isMeaningful(w))

const patternProposal = (kind: PatternKind, now: string, fit: NameFit): Proposal => ({
  id: `patterns.${kind}`,
  topic: 'names',
  title: titles[kind],
  now,
  then: fit.pattern ?? '',
  change: fit.pattern === null ? [] : [{ path: ['patterns', kind], value: fit.pattern }],
  fits: fit.fits,
  of: fit.of,
  misfits: fit.misfits.slice(0, 200),
  note:
    fit.pattern === null
      ? fit.of < 5
        ? 'Too few names to tell a custom from.'
        : 'No pattern fits four in five of them.'
      : fit.apart && `Two patterns: ${fit.apart}.`,
  groups: fit.groups.slice(0, 12),
})

/** A rulebook with what proposals put into it; `+` at the end of a path adds to a list. */
export function applyProposals(rulebook: Rulebook, proposals: readonly Pick<Proposal, 'change'>[]): Rulebook {
  const changed = structuredCloneOf(rulebook)
  for (const { path, value } of proposals.flatMap((p) => p.change)) put(changed, path, value)
  return changed as unknown as Rulebook
}

const structuredCloneOf = (value: unknown): Record<string, unknown> =>
  JSON.parse(JSON.stringify(value)) as Record<string, unknown>

function put(into: Record<string, unknown>, path: readonly string[], value: unknown): void {
  const [key, ...rest] = path as [string, ...string[]]
  if (rest.length === 0) into[key] = value
  else if (rest[0] === '+') {
    const list = (into[key] ?? []) as unknown[]
    if (!list.includes(value)) into[key] = [...list, value]
  } else put((into[key] ??= {}) as Record<string, unknown>, rest, value)
}
