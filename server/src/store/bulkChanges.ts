import { and, desc, eq, inArray, sql, type SQL } from 'drizzle-orm'
import * as z from 'zod'
import { findingSchema, type Finding } from '@stern-gate/contract'
import type { Queryable } from './database'
import { assets, bulkChanges, findings, versions } from './schema'

/** What one bulk change did to an asset: the recipe's revision that it made. */
export const bulkBodySchema = z.strictObject({
  assets: z.array(z.strictObject({ asset: z.uuid(), revision: z.int(), steps: z.int() })),
  skipped: z.int(),
})
export type BulkBody = z.infer<typeof bulkBodySchema>
export type BulkRow = typeof bulkChanges.$inferSelect

/** Findings of the newest versions that offer a remedy, with their asset. */
export async function listOffers(
  db: Queryable,
  projectId: string,
): Promise<{ rule: string; remedy: string; asset: string; findings: number }[]> {
  const remedy = sql<string>`offer->>'remedy'`
  const result = await db.execute<{ rule: string; remedy: string; asset: string; findings: number }>(sql`
    select ${findings.rule} as rule, ${remedy} as remedy, ${assets.id} as asset, count(*)::int as findings
    from ${findings} join ${versions} on ${versions.id} = ${findings.versionId} join ${assets} on ${assets.id} = ${versions.assetId} and ${assets.currentVersion} = ${versions.number}
    cross join lateral jsonb_array_elements(${findings.body}->'remedies') as offer
    where ${assets.projectId} = ${projectId} group by 1, 2, 3 order by 1, 2, 3`)
  return result.rows
}

/** Findings of one rule on some assets' newest versions. */
export const listFindingsOfRule = (
  db: Queryable,
  projectId: string,
  rule: string,
  ids: readonly string[],
): Promise<Map<string, Finding[]>> => findingsByAsset(db, projectId, ids, eq(findings.rule, rule))

/** Findings of some assets' newest versions that offer a remedy. */
export const listFindingsWithRemedy = (
  db: Queryable,
  projectId: string,
  remedy: string,
  ids: readonly string[],
): Promise<Map<string, Finding[]>> =>
  findingsByAsset(
    db,
    projectId,
    ids,
    sql`${findings.body}->'remedies' @> ${JSON.stringify([{ remedy }])}::jsonb`,
  )

async function findingsByAsset(
  db: Queryable,
  projectId: string,
  ids: readonly string[],
  which: SQL,
): Promise<Map<string, Finding[]>> {
  const rows = await db
    .select({ asset: assets.id, body: findings.body })
    .from(findings)
    .innerJoin(versions, eq(versions.id, findings.versionId))
    .innerJoin(assets, and(eq(assets.id, versions.assetId), eq(assets.currentVersion, versions.number)))
    .where(and(eq(assets.projectId, projectId), which, inArray(assets.id, [...ids])))
    .orderBy(findings.id)
  const byAsset = new Map<string, Finding[]>()
  for (const { asset, body } of rows)
    byAsset.set(asset, [...(byAsset.get(asset) ?? []), findingSchema.parse(body)])
  return byAsset
}

export async function insertBulkChange(
  db: Queryable,
  row: { projectId: string; by: string; rule: string; remedy: string; body: BulkBody },
): Promise<BulkRow> {
  const [made] = await db.insert(bulkChanges).values(row).returning()
  return made!
}

export async function findBulkChange(db: Queryable, id: string): Promise<BulkRow | null> {
  const [row] = await db.select().from(bulkChanges).where(eq(bulkChanges.id, id))
  return row ?? null
}

/** The newest bulk changes of a project. */
export const listBulkChanges = (db: Queryable, projectId: string, limit: number): Promise<BulkRow[]> =>
  db
    .select()
    .from(bulkChanges)
    .where(eq(bulkChanges.projectId, projectId))
    .orderBy(desc(bulkChanges.created))
    .limit(limit)

export const markUndone = (db: Queryable, id: string): Promise<unknown> =>
  db.update(bulkChanges).set({ undone: true }).where(eq(bulkChanges.id, id))
