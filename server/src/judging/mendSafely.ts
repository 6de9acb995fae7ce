import {
  counts,
  findingSchema,
  optionsOfOffer,
  type Finding,
  type MendPlan,
  type RecipeStep,
} from '@stern-gate/contract'
import { findRemedy, isSafe, safeRemedies } from '@stern-gate/core'
import { sql } from 'drizzle-orm'
import type { Queryable } from '../store/database'

/** Which assets are mended: chosen ones, those of a delivery, or all; and which remedies are left out. */
export interface MendChoice {
  assets: readonly string[] | null
  delivery?: string | undefined
  without: readonly string[]
}

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
  const byAsset = await findingsToMend(db, projectId, choice)
  const sums = new Map<string, { assets: number; steps: number }>(),
    left = { stops: 0, cautions: 0, notes: 0 }
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
      if (safeStepsOf([f], choice.without).length === 0) left[`${f.level}s` as keyof typeof left]++
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
  const remedies = safeRemedies.map((r) => r.id).filter((id) => !choice.without.includes(id))
  const { rows } = await db.execute<{ id: string }>(sql`
    select distinct a.id from assets a join versions v on v.asset_id = a.id and v.number = a.current_version
    join findings f on f.version_id = v.id and not f.waived
    where ${chosen(projectId, choice)} and f.offers && ${sql.param(remedies)}::text[] order by a.id`)
  return rows.map((r) => r.id)
}

/** Findings that count of the chosen assets' newest versions. */
async function findingsToMend(
  db: Queryable,
  projectId: string,
  choice: MendChoice,
): Promise<Map<string, Finding[]>> {
  const { rows } = await db.execute<{ id: string; body: unknown }>(sql`
    select a.id, f.body from assets a join versions v on v.asset_id = a.id and v.number = a.current_version
    join findings f on f.version_id = v.id and not f.waived where ${chosen(projectId, choice)} order by f.id`)
  const byAsset = new Map<string, Finding[]>()
  for (const { id, body } of rows) {
    const known = byAsset.get(id)
    if (known) known.push(findingSchema.parse(body))
    else byAsset.set(id, [findingSchema.parse(body)])
  }
  return byAsset
}

const chosen = (projectId: string, { assets, delivery }: MendChoice) => sql`a.project_id = ${projectId}
  and ${assets === null ? sql`true` : sql`a.id = any(${sql.param([...assets])}::uuid[])`}
  and ${delivery === undefined ? sql`true` : sql`v.delivery_id = ${delivery}`}`
