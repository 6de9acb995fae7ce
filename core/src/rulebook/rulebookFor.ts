import type { Rulebook } from '@stern-gate/contract'
import { compileRulebook } from './compiledRulebook'
import { fitsGlob } from './glob'

/** The rulebook with the settings that its overrides give for a path; the same object for the same settings. */
export function rulebookFor(rulebook: Rulebook, path: string): Rulebook {
  if (rulebook.overrides.length === 0) return rulebook
  const fitting = rulebook.overrides.filter((o) => fitsGlob(o.files, path))
  if (fitting.length === 0) return rulebook
  const { more } = compileRulebook(rulebook),
    key = `for ${fitting.map((o) => rulebook.overrides.indexOf(o)).join()}`
  const known = more.get(key) as Rulebook | undefined
  if (known) return known
  const rules = { ...rulebook.rules }
  for (const { rules: own } of fitting)
    for (const [id, setting] of Object.entries(own))
      rules[id] = {
        ...rules[id],
        ...setting,
        options: { ...rules[id]?.options, ...setting.options },
      }
  const made: Rulebook = { ...rulebook, rules, overrides: [] }
  more.set(key, made)
  return made
}
