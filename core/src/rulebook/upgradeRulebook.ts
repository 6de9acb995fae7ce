import { renamedRules } from '@stern-gate/contract'

/**
 * Brings a rulebook as an older application wrote it to the form of this one: rules under their new ids. What
 * it cannot make sense of stays as it is, for the door to refuse (see checkRulebook). Gives back the same
 * object where there is nothing to do.
 */
export function upgradeRulebook(raw: unknown): unknown {
  if (!isRecord(raw) || !isRecord(raw['rules'])) return raw
  const rules = Object.entries(raw['rules'])
  if (!rules.some(([id]) => id in renamedRules)) return raw
  return { ...raw, rules: Object.fromEntries(rules.map(([id, v]) => [renamedRules[id] ?? id, v])) }
}

const isRecord = (value: unknown): value is Record<string, unknown> =>
  typeof value === 'object' && value !== null && !Array.isArray(value)
