import type { IFlattenedRuleSet } from 'dependency-cruiser'

export const importRules: IFlattenedRuleSet
export const workspaces: readonly string[]
