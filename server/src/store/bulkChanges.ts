import { and, desc, eq, inArray, sql, type SQL } from 'drizzle-orm'
import * as z from 'zod'
import {
  bulkRequestSchema,
  filePartSchema,
  findingSchema,
  recipeSchema,
  renamedRemedies,
  renamedRules,
  type Finding,
  type Recipe,
} from '@stern-gate/contract'
import { keptHistory, readRecipe } from './assets'
import type { Queryable, Transaction } from './database'
import { assets, bulkChanges, findings, recipes, versions } from './schema'
import { lockAssets, markUnjudged } from './versionStates'

const bulkAssetSchema = z.strictObject({ asset: z.uuid(), revision: z.int(), steps: z.int() })

/** A row of the files of a version, as it is put back. */
const storedFileSchema = z.strictObject({
  path: z.string(),
  part: filePartSchema,
  sha256: z.string(),
  sizeBytes: z.int(),
  kind: z.string(),
  fault: z.unknown(),
  factsKey: z.string().nullable(),
})
export type StoredFile = z.infer<typeof storedFileSchema>

/** What one bulk change did, and what of it is still to be done. */
export const bulkBodySchema = z.strictObject({
  assets: z.array(bulkAssetSchema).describe('with the revision of the recipe that it made'),
  skipped: z.int(),
  /** What was asked for; null for changes of older versions, which were made at once. */
  request: bulkRequestSchema.nullable().default(null),
  /** So many of the assets that were asked for are done; undoing counts those that it made. */
  next: z.int().default(0),
  kept: z.int().default(0).describe('assets that undoing left alone, for their recipe was changed since'),
  joined: z
    .array(z.strictObject({ asset: z.uuid(), version: z.uuid(), path: z.string() }))
    .default([])
    .describe('textures that joined a mesh'),
  emptied: z
    .array(
      z.strictObject({
        name: z.string(),
        delivery: z.uuid(),
        main: z.string(),
        by: z.string(),
        created: z.string(),
        files: z.array(storedFileSchema),
        recipe: recipeSchema,
      }),
    )
    .default([])
    .describe('texture sets of which all textures joined meshes, as they were'),
})
export type BulkBody = z.infer<typeof bulkBodySchema>
/** A change that has done nothing yet, with nothing asked for. */
export const emptyBody: BulkBody = bulkBodySchema.parse({ assets: [], skipped: 0 })
export type BulkRow = typeof bulkChanges.$inferSelect

/** The body of a change, with ids of rules and remedies as they are now. */
export const readBulkBody = (row: BulkRow): BulkBody => bulkBodySchema.parse(row.body)
export const bulkRule = (row: BulkRow): string =>
  row.rule
    .split(' ')
    .map((id) => renamedRules[id] ?? id)
    .join(' ')
export const bulkRemedy = (row: BulkRow): string => renamedRemedies[row.remedy] ?? row.remedy

export interface OfferCount {
  rule: string
  remedy: string
  assets: number
  findings: number
}

/** What findings of some assets' newest versions offer: how many assets, how many findings. */
export async function countOffers(
  db: Queryable,
  projectId: string,
  ids: readonly string[],
): Promise<OfferCount[]> {
  const { rows } = await db.execute<OfferCount & Record<string, unknown>>(sql`
    select f.rule, remedy, count(distinct a.id)::int as assets, count(*)::int as findings
    from assets a join versions v on v.asset_id = a.id and v.number = a.current_version
    join findings f on f.version_id = v.id and not f.waived cross join lateral unnest(f.offers) as remedy
    where a.project_id = ${projectId} and a.id = any(${sql.param([...ids])}::uuid[])
    group by f.rule, remedy order by 3 desc, 4 desc, 1, 2`)
  return rows
}

/** How many of these assets have a finding that offers a remedy. */
export async function countOffering(
  db: Queryable,
  projectId: string,
  ids: readonly string[],
  remedy: string,
): Promise<number> {
  const { rows } = await db.execute<{ n: number }>(sql`
    select count(distinct a.id)::int as n
    from assets a join versions v on v.asset_id = a.id and v.number = a.current_version
    join findings f on f.version_id = v.id and not f.waived
    where a.project_id = ${projectId} and a.id = any(${sql.param([...ids])}::uuid[]) and ${remedy} = any(f.offers)`)
  return rows[0]!.n
}

/** Findings of one rule on some assets' newest versions. */
export const listFindingsOfRule = (
  db: Queryable,
  projectId: string,
  rule: string,
  ids: readonly string[],
): Promise<Map<string, Finding[]>> => findingsByAsset(db, projectId, ids, eq(findings.rule, rule))

/** Every finding of some assets' newest versions that counts. */
export const listFindingsOfAssets = (
  db: Queryable,
  projectId: string,
  ids: readonly string[],
): Promise<Map<string, Finding[]>> => findingsByAsset(db, projectId, ids, sql`true`)

/** Findings of some assets' newest versions that offer a remedy. */
export const listFindingsWithRemedy = (
  db: Queryable,
  projectId: string,
  remedy: string,
  ids: readonly string[],
): Promise<Map<string, Finding[]>> =>
  findingsByAsset(db, projectId, ids, sql`${remedy} = any(${findings.offers})`)

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
    .where(
      and(eq(assets.projectId, projectId), eq(findings.waived, false), which, inArray(assets.id, [...ids])),
    )
    .orderBy(findings.id)
  return groupedByAsset(rows)
}

function groupedByAsset(rows: readonly { asset: string; body: unknown }[]): Map<string, Finding[]> {
  const byAsset = new Map<string, Finding[]>()
  for (const { asset, body } of rows) {
    const known = byAsset.get(asset)
    if (known) known.push(findingSchema.parse(body))
    else byAsset.set(asset, [findingSchema.parse(body)])
  }
  return byAsset
}

/** Which assets are mended: chosen ones, those of a delivery, or all; and which remedies are left out. */
export interface MendChoice {
  assets: readonly string[] | null
  delivery?: string | undefined
  without: readonly string[]
}

/** Findings of the chosen assets' newest versions that count and offer one of these remedies. */
export async function listFindingsToMend(
  db: Queryable,
  projectId: string,
  choice: MendChoice,
  remedies: readonly string[],
): Promise<Map<string, Finding[]>> {
  const { rows } = await db.execute<{ asset: string; body: unknown }>(sql`
    select a.id as asset, f.body from ${newest} join findings f on f.version_id = v.id and not f.waived
    where ${chosenForMending(projectId, choice)} and f.offers && ${sql.param([...remedies])}::text[] order by f.id`)
  return groupedByAsset(rows)
}

/** How many findings of each level the chosen assets have that count. */
export async function countLevels(
  db: Queryable,
  projectId: string,
  choice: MendChoice,
): Promise<{ stops: number; cautions: number; notes: number }> {
  const { rows } = await db.execute<{ stops: number; cautions: number; notes: number }>(sql`
    select coalesce(sum(v.stops), 0)::int as stops, coalesce(sum(v.cautions), 0)::int as cautions,
      coalesce(sum(v.notes), 0)::int as notes
    from ${newest} where ${chosenForMending(projectId, choice)}`)
  return { ...rows[0]! }
}

const newest = sql.raw('assets a join versions v on v.asset_id = a.id and v.number = a.current_version')

const chosenForMending = (projectId: string, { assets: ids, delivery }: MendChoice): SQL =>
  sql`a.project_id = ${projectId}
    and ${ids === null ? sql`true` : sql`a.id = any(${sql.param([...ids])}::uuid[])`}
    and ${delivery === undefined ? sql`true` : sql`v.delivery_id = ${delivery}`}`

export interface HeldRecipe {
  revision: number
  recipe: Recipe
  history: Recipe[]
}

/** The recipes of some assets of a project, held still until the transaction ends. */
export async function lockRecipes(
  tx: Transaction,
  projectId: string,
  ids: readonly string[],
): Promise<Map<string, HeldRecipe>> {
  await lockAssets(tx, ids)
  const rows = await tx
    .select({ id: recipes.assetId, revision: recipes.revision, body: recipes.body, history: recipes.history })
    .from(recipes)
    .innerJoin(assets, eq(assets.id, recipes.assetId))
    .where(and(eq(assets.projectId, projectId), inArray(recipes.assetId, [...ids])))
  return new Map(
    rows.map(({ id, revision, body, history }) => [
      id,
      {
        revision,
        recipe: readRecipe(body),
        history: (Array.isArray(history) ? history : []).map(readRecipe),
      },
    ]),
  )
}

/** Writes many recipes by one statement, each as its next revision; their assets count as unjudged. */
export async function saveRecipes(tx: Transaction, changed: ReadonlyMap<string, HeldRecipe>): Promise<void> {
  if (changed.size === 0) return
  const rows = [...changed].map(([id, { revision, recipe, history }]) => ({
    id,
    revision: revision + 1,
    body: recipe,
    history: keptHistory(history),
  }))
  await tx.execute(sql`
    update recipes set revision = c.revision, body = c.body, history = c.history
    from jsonb_to_recordset(${JSON.stringify(rows)}::jsonb) as c(id uuid, revision int, body jsonb, history jsonb)
    where recipes.asset_id = c.id`)
  const ids = [...changed.keys()]
  await tx.execute(sql`update assets set updated = now() where id = any(${sql.param(ids)}::uuid[])`)
  await markUnjudged(tx, ids)
}

export async function insertBulkChange(
  db: Queryable,
  row: { projectId: string; by: string; rule: string; remedy: string; body: BulkBody },
): Promise<BulkRow> {
  const [made] = await db
    .insert(bulkChanges)
    .values({ ...row, state: 'working' })
    .returning()
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

/** How far a change is; within the transaction that moved it on. */
export const moveBulkChange = (
  tx: Queryable,
  id: string,
  change: { state: 'working' | 'done' | 'undoing'; body: BulkBody; undone?: boolean },
): Promise<unknown> => tx.update(bulkChanges).set(change).where(eq(bulkChanges.id, id))

/** A change and the right to move it on, until the transaction ends. */
export async function lockBulkChange(tx: Transaction, id: string): Promise<BulkRow | null> {
  const [row] = await tx.select().from(bulkChanges).where(eq(bulkChanges.id, id)).for('update')
  return row ?? null
}
