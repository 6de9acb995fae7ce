import { and, asc, desc, eq, lt, or, sql } from 'drizzle-orm'
import {
  recipeSchema,
  tallySchema,
  verdictSchema,
  versionStateSchema,
  type AssetRow,
  type Recipe,
  type Rulebook,
} from '@stern-gate/contract'
import { upgradeRecipe } from '@stern-gate/core'
import type { Queryable, Transaction } from './database'
import { assets, recipes, versionFiles, versions } from './schema'
import { lockAssets, markUnjudged } from './versionStates'

export type AssetRecord = typeof assets.$inferSelect
export type VersionRecord = typeof versions.$inferSelect
export type VersionFileRecord = typeof versionFiles.$inferSelect

export async function findAsset(db: Queryable, id: string): Promise<AssetRecord | null> {
  const [row] = await db.select().from(assets).where(eq(assets.id, id))
  return row ?? null
}

export async function findVersion(
  db: Queryable,
  assetId: string,
  number: number,
): Promise<VersionRecord | null> {
  const [row] = await db
    .select()
    .from(versions)
    .where(and(eq(versions.assetId, assetId), eq(versions.number, number)))
  return row ?? null
}

export const listVersions = (db: Queryable, assetId: string): Promise<VersionRecord[]> =>
  db.select().from(versions).where(eq(versions.assetId, assetId)).orderBy(asc(versions.number))

export const listVersionFiles = (db: Queryable, versionId: string): Promise<VersionFileRecord[]> =>
  db
    .select()
    .from(versionFiles)
    .where(eq(versionFiles.versionId, versionId))
    .orderBy(asc(versionFiles.position))

export interface RecipeRecord {
  revision: number
  recipe: Recipe
  history: Recipe[]
}

/** A recipe as it was stored, by whatever version, in the form of this one. */
export const readRecipe = (body: unknown): Recipe => upgradeRecipe(recipeSchema.parse(body))

export async function getRecipe(db: Queryable, assetId: string): Promise<RecipeRecord> {
  const [row] = await db.select().from(recipes).where(eq(recipes.assetId, assetId))
  return {
    revision: row?.revision ?? 0,
    recipe: readRecipe(row?.body ?? { steps: [] }),
    history: (Array.isArray(row?.history) ? row.history : []).map(readRecipe),
  }
}

/** At most this many earlier recipes are kept for undo, with so many steps all together. */
const UNDO_DEPTH = 50
const UNDO_STEPS = 40_000

/** The newest earlier recipes, as many as are kept; the last one always is. */
export function keptHistory(history: readonly Recipe[]): Recipe[] {
  const kept: Recipe[] = []
  let steps = 0
  for (let i = history.length - 1; i >= 0 && kept.length < UNDO_DEPTH; i--) {
    steps += history[i]!.steps.length
    if (kept.length > 0 && steps > UNDO_STEPS) break
    kept.unshift(history[i]!)
  }
  return kept
}

/**
 * Saves a recipe if nobody was faster; false when the revision is no longer the newest. The asset counts as
 * unjudged from then on.
 */
export async function saveRecipe(
  tx: Transaction,
  assetId: string,
  revision: number,
  recipe: Recipe,
  history: Recipe[],
): Promise<boolean> {
  await lockAssets(tx, [assetId])
  const changed = await tx
    .update(recipes)
    .set({ revision: revision + 1, body: recipe, history: keptHistory(history) })
    .where(and(eq(recipes.assetId, assetId), eq(recipes.revision, revision)))
    .returning({ id: recipes.assetId })
  if (changed.length === 0) return false
  await tx
    .update(assets)
    .set({ updated: sql`now()` })
    .where(eq(assets.id, assetId))
  await markUnjudged(tx, [assetId])
  return true
}

/** Notes a chosen class or target; the asset counts as unjudged from then on. */
export async function saveChoice(
  tx: Transaction,
  id: string,
  choice: { classChoice?: string | null; targetChoice?: string | null },
): Promise<void> {
  if (Object.keys(choice).length === 0) return
  await lockAssets(tx, [id])
  await tx.update(assets).set(choice).where(eq(assets.id, id))
  await markUnjudged(tx, [id])
}

/** One page of assets, newest first, by key: `before` is the last row of the page before. */
export async function listAssets(
  db: Queryable,
  projectId: string,
  rulebook: Rulebook,
  page: { limit: number; before: { updated: string; id: string } | null },
): Promise<AssetRow[]> {
  const older = page.before
    ? or(
        lt(assets.updated, page.before.updated),
        and(eq(assets.updated, page.before.updated), lt(assets.id, page.before.id)),
      )
    : undefined
  const rows = await db
    .select({
      asset: assets,
      version: versions,
      stops: levelCount('stop'),
      cautions: levelCount('caution'),
      notes: levelCount('note'),
      steps: sql<number>`(select jsonb_array_length(body->'steps') from recipes where recipes.asset_id = ${assets.id})`,
    })
    .from(assets)
    .innerJoin(versions, and(eq(versions.assetId, assets.id), eq(versions.number, assets.currentVersion)))
    .where(and(eq(assets.projectId, projectId), older))
    .orderBy(desc(assets.updated), desc(assets.id))
    .limit(page.limit)
  return rows.map(({ asset, version, ...counts }) => ({
    id: asset.id,
    name: version.shownName,
    kind: asset.kind,
    class: version.className,
    classTitle: rulebook.classes[version.className]?.title ?? version.className,
    version: version.number,
    ...shownState(version),
    tally: tallySchema.parse(version.tally),
    headline: version.headline,
    thumbnail: version.thumbnail,
    by: version.by,
    waived: version.waived,
    updated: new Date(asset.updated).toISOString(),
    ...counts,
  }))
}

/** A verdict is shown only where it is that of the newest judgement. */
const shownState = (version: VersionRecord): Pick<AssetRow, 'state' | 'verdict'> => {
  const state = versionStateSchema.parse(version.state)
  return { state, verdict: state === 'judged' ? verdictSchema.parse(version.verdict) : null }
}

const levelCount = (level: string) =>
  sql<number>`(select count(*)::int from findings where findings.version_id = ${versions.id} and findings.level = ${level} and not findings.waived)`

/** Names in a project, for proposals. */
export async function listAssetNames(db: Queryable, projectId: string): Promise<string[]> {
  const rows = await db.select({ name: assets.name }).from(assets).where(eq(assets.projectId, projectId))
  return rows.map((r) => r.name)
}
