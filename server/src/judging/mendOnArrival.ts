import { randomUUID } from 'node:crypto'
import { inArray } from 'drizzle-orm'
import type { RecipeStep } from '@stern-gate/contract'
import { lockRecipes, saveRecipes, type HeldRecipe } from '../store/bulkChanges'
import type { Transaction } from '../store/database'
import { addJudging } from '../store/jobQueue'
import type { Judgeable, JudgedVersion } from '../store/judgements'
import { versions } from '../store/schema'
import { safeStepsOf } from './mendSafely'

/**
 * Adds what is safe to the recipes of assets that were just judged for the first time and came by a preset that
 * says so; in the transaction that keeps their judgement. Done once for a version: whoever takes a step back keeps
 * it taken back.
 */
export async function mendOnArrival(
  tx: Transaction,
  projectId: string,
  judged: readonly { of: Judgeable; judged: JudgedVersion }[],
): Promise<void> {
  const due = judged.filter((j) => j.of.version.mendSafely)
  if (due.length === 0) return
  await tx
    .update(versions)
    .set({ mendSafely: false })
    .where(
      inArray(
        versions.id,
        due.map((j) => j.of.version.id),
      ),
    )
  const held = await lockRecipes(
      tx,
      projectId,
      due.map((j) => j.of.asset.id),
    ),
    changed = new Map<string, HeldRecipe>()
  for (const { of, judged: own } of due) {
    const now = held.get(of.asset.id),
      steps = safeStepsOf(own.findings, [])
    if (!now || steps.length === 0) continue
    const added = steps.map((step): RecipeStep => ({ id: randomUUID(), on: true, ...step }))
    changed.set(of.asset.id, {
      revision: now.revision,
      recipe: { steps: [...now.recipe.steps, ...added] },
      history: [...now.history, now.recipe],
    })
  }
  await saveRecipes(tx, changed)
  await addJudging(tx, [...changed.keys()], { soon: true })
}
