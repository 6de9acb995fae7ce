import { and, asc, eq, isNull, or, sql } from 'drizzle-orm'
import { waiverScopeSchema, type Waiver } from '@stern-gate/contract'
import type { Queryable, Transaction } from './database'
import { assets, findings, projects, versions, waivers } from './schema'

export type WaiverRow = typeof waivers.$inferSelect
export type NewWaiver = typeof waivers.$inferInsert

/** All waivers of a project, what ends soonest first. */
export const listWaivers = (db: Queryable, projectId: string): Promise<WaiverRow[]> =>
  db
    .select()
    .from(waivers)
    .where(eq(waivers.projectId, projectId))
    .orderBy(sql`${waivers.until} asc nulls last`, asc(waivers.created), asc(waivers.id))

/** Rows that go into one statement: its parameters are numbered by 16 bits. */
const ROWS = 1000

export async function insertWaivers(tx: Transaction, rows: readonly NewWaiver[]): Promise<WaiverRow[]> {
  const made: WaiverRow[] = []
  for (let k = 0; k < rows.length; k += ROWS)
    made.push(
      ...(await tx
        .insert(waivers)
        .values(rows.slice(k, k + ROWS))
        .returning()),
    )
  return made
}

/** What is being judged by the waivers of before is not kept from now on. */
export async function noteWaiversChange(tx: Transaction, projectId: string): Promise<void> {
  await tx
    .update(projects)
    .set({ waiversRevision: sql`${projects.waiversRevision} + 1` })
    .where(eq(projects.id, projectId))
}

export async function findWaiver(db: Queryable, id: string): Promise<WaiverRow | null> {
  const [row] = await db.select().from(waivers).where(eq(waivers.id, id))
  return row ?? null
}

/** Takes waivers out: one, or all of an act. */
export const removeWaivers = (tx: Transaction, row: WaiverRow, act: boolean): Promise<WaiverRow[]> =>
  tx
    .delete(waivers)
    .where(act ? eq(waivers.act, row.act) : eq(waivers.id, row.id))
    .returning()

/** A row as judging takes it. */
export const waiverOf = (row: WaiverRow): Waiver => ({
  rule: row.rule,
  scope: waiverScopeSchema.parse(row.scope),
  reason: row.reason,
  until: row.until,
  by: row.by,
  given: new Date(row.created).toISOString().slice(0, 10),
  value: row.value,
})

/** Assets that a rule has findings on now: those whose judgement a waiver of that reach may change. */
export async function listAssetsWithRule(db: Queryable, projectId: string, rule: string): Promise<string[]> {
  const rows = await db
    .selectDistinct({ id: assets.id })
    .from(findings)
    .innerJoin(versions, eq(versions.id, findings.versionId))
    .innerJoin(assets, and(eq(assets.id, versions.assetId), eq(assets.currentVersion, versions.number)))
    .where(and(eq(assets.projectId, projectId), eq(findings.rule, rule)))
  return rows.map((r) => r.id)
}

/** Waivers whose last day is past and that nobody judged by since; they are noted as seen. */
export async function takeEnded(db: Queryable, today: string): Promise<WaiverRow[]> {
  return db
    .update(waivers)
    .set({ judgedFor: today })
    .where(
      and(
        sql`${waivers.until} < ${today}`,
        or(isNull(waivers.judgedFor), sql`${waivers.judgedFor} <= ${waivers.until}`),
      ),
    )
    .returning()
}

/** Findings of the newest versions of some assets, as they stand in the database. */
export const listFindingsOf = (
  db: Queryable,
  projectId: string,
  ids: readonly string[],
): Promise<{ asset: string; className: string; body: unknown }[]> =>
  db
    .select({ asset: assets.id, className: versions.className, body: findings.body })
    .from(findings)
    .innerJoin(versions, eq(versions.id, findings.versionId))
    .innerJoin(assets, and(eq(assets.id, versions.assetId), eq(assets.currentVersion, versions.number)))
    .where(and(eq(assets.projectId, projectId), sql`${assets.id} = any(${sql.param([...ids])}::uuid[])`))

/** Names of assets by their ids. */
export async function assetNamesOf(db: Queryable, ids: readonly string[]): Promise<Map<string, string>> {
  const rows = await db
    .select({ id: assets.id, name: versions.shownName })
    .from(assets)
    .innerJoin(versions, and(eq(versions.assetId, assets.id), eq(assets.currentVersion, versions.number)))
    .where(sql`${assets.id} = any(${sql.param([...ids])}::uuid[])`)
  return new Map(rows.map((r) => [r.id, r.name]))
}

/** How the findings of some rules in a project stand with the waivers that are for them. */
export const listWaivedFindings = (
  db: Queryable,
  projectId: string,
  ruleIds: readonly string[],
): Promise<{ asset: string; rule: string; body: unknown }[]> =>
  db
    .select({ asset: assets.id, rule: findings.rule, body: findings.body })
    .from(findings)
    .innerJoin(versions, eq(versions.id, findings.versionId))
    .innerJoin(assets, and(eq(assets.id, versions.assetId), eq(assets.currentVersion, versions.number)))
    .where(
      and(
        eq(assets.projectId, projectId),
        sql`${findings.rule} = any(${sql.param([...ruleIds])}::text[])`,
        sql`${findings.body}->'waived' <> 'null'::jsonb`,
      ),
    )
