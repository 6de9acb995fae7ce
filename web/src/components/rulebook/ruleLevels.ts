import type { Level, RuleInfo, Rulebook } from '@stern-gate/contract'

/** What a rule is set to: a level, or not judged at all. */
export type RuleState = Level | 'off'
export const ruleStates: readonly RuleState[] = ['stop', 'caution', 'note', 'off']

/** What a rulebook sets a rule to, for all classes or for one. */
export function levelNow(
  rulebook: Rulebook | null,
  rule: RuleInfo,
  className: string | null = null,
): RuleState {
  const setting = rulebook?.rules[rule.id]
  if (className !== null && setting?.levelByClass?.[className] !== undefined)
    return setting.levelByClass[className]
  return setting?.enabled === false ? 'off' : (setting?.level ?? rule.level)
}
