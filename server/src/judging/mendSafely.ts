import { counts, optionsOfOffer, type Finding, type MendPlan, type RecipeStep } from '@stern-gate/contract'
import { findRemedy, isSafe, safeRemedies } from '@stern-gate/core'
import { countLevels, listFindingsToMend, type MendChoice } from '../store/bulkChanges'
import type { Queryable } from '../store/database'

/** A step that is safe, with the rule whose finding offers it. */
export type SafeStep = Pick<RecipeStep, 'remedy' | 'options' | 'why'>

/** The safe steps that findings of one asset offer: of each finding the first that is. */
export function safeStepsOf(findings: readonly Finding[], without: readonly string[]): SafeStep[] {
  return findings.filter(counts).flatMap((finding) => {
    const offer = finding.remedies.find(
      (r) => !without.includes(r.remedy) && optionsOfOffer(r).every((options) => isSafe(r.remedy, options)),
    )
    return offer
      ? optionsOfOffer(offer).map((options) => ({ remedy: offer.remedy, options, why: finding.rule }))
      : []
  })
}

/** What mending would do, by remedy, and how many findings would stay. */
export async function planMending(db: Queryable, projectId: string, choice: MendChoice): Promise<MendPlan> {
  const byAsset = await listFindingsToMend(db, projectId, choice, safeIds(choice)),
    left = await countLevels(db, projectId, choice)
  const sums = new Map<string, { assets: number; steps: number }>()
  let assets = 0,
    steps = 0
  for (const findings of byAsset.values()) {
    const own = safeStepsOf(findings, choice.without)
    if (own.length > 0) assets++
    steps += own.length
    for (const remedy of new Set(own.map((s) => s.remedy))) {
      const known = sums.get(remedy) ?? { assets: 0, steps: 0 }
      sums.set(remedy, {
        assets: known.assets + 1,
        steps: known.steps + own.filter((s) => s.remedy === remedy).length,
      })
    }
    for (const f of findings)
      if (safeStepsOf([f], choice.without).length > 0) left[`${f.level}s` as keyof typeof left]--
  }
  return {
    assets,
    steps,
    remedies: [...sums]
      .map(([remedy, { assets: n, steps: s }]) => ({
        remedy,
        title: findRemedy(remedy)!.title,
        about: findRemedy(remedy)!.about,
        assets: n,
        steps: s,
      }))
      .sort((a, b) => b.assets - a.assets || (a.remedy < b.remedy ? -1 : 1)),
    left,
  }
}

/** Assets that a safe remedy could do something for, in the order of their ids. */
export async function listMendable(db: Queryable, projectId: string, choice: MendChoice): Promise<string[]> {
  const found = await listFindingsToMend(db, projectId, choice, safeIds(choice))
  return [...found]
    .filter(([, findings]) => safeStepsOf(findings, choice.without).length > 0)
    .map(([asset]) => asset)
    .sort()
}

const safeIds = ({ without }: MendChoice): string[] =>
  safeRemedies.map((r) => r.id).filter((id) => !without.includes(id))
