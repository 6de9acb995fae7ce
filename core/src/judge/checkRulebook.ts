import {
  bad,
  good,
  rulebookSchema,
  type Outcome,
  type RemedyOptions,
  type Rulebook,
} from '@stern-gate/contract'
import { compilePattern } from '../rulebook/pattern'
import { upgradeRulebook } from '../rulebook/upgradeRulebook'
import { intake } from '../remedies/files/intake'
import { findRemedy } from '../remedies/index'
import { SURFACE, surfaceMistakes } from '../surfaces/sharedSurfaces'
import { rules } from '../rules/index'

/**
 * The door for rulebooks: schema, patterns that compile, rules that exist, options that fit. Faults:
 * rulebook/invalid, pattern/invalid.
 */
export function checkRulebook(raw: unknown): Outcome<Rulebook> {
  const parsed = rulebookSchema.safeParse(upgradeRulebook(raw))
  if (!parsed.success) {
    const issue = parsed.error.issues[0]!
    return bad(
      'rulebook/invalid',
      `${issue.path.join('.') || 'the whole'}: ${issue.message}`,
      'Correct the named field of the rulebook.',
      { part: issue.path.join('.') },
    )
  }
  for (const source of Object.values(parsed.data.patterns)) {
    const compiled = compilePattern(source)
    if (!compiled.ok) return compiled
  }
  for (const [id, setting] of Object.entries(parsed.data.rules)) {
    const rule = rules.find((r) => r.id === id)
    if (!rule)
      return bad(
        'rulebook/invalid',
        `rules.${id}: there is no such rule.`,
        'See the list of rules for the ids.',
        { part: `rules.${id}` },
      )
    const options = rule.options.safeParse(setting.options ?? {})
    if (!options.success)
      return bad(
        'rulebook/invalid',
        `rules.${id}.options: ${options.error.issues[0]!.message}`,
        "See the rule's page for its options.",
        { part: `rules.${id}` },
      )
  }
  for (const [name, { options }] of Object.entries(parsed.data.intake)) {
    const read = intake.options.safeParse(options)
    if (read.success) continue
    const { path, message } = read.error.issues[0]!,
      part = ['intake', name, 'options', ...path].join('.')
    return bad('rulebook/invalid', `${part}: ${message}`, 'See the options of files/intake.', { part })
  }
  const [mistake] = surfaceMistakes(parsed.data.surfaces, surfaceMistake)
  if (mistake)
    return bad('rulebook/invalid', `${mistake.part}: ${mistake.why}`, 'Correct the named surface.', {
      part: mistake.part,
    })
  return good(parsed.data)
}

/** What is wrong with values of a surface, as options of the step that sets them; null: nothing. */
function surfaceMistake(options: RemedyOptions): string | null {
  const read = findRemedy(SURFACE)!.options.safeParse(options)
  if (read.success) return null
  const { path, message } = read.error.issues[0]!
  return [path.join('.'), message].filter(Boolean).join(' ')
}
