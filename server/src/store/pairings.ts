import { and, desc, eq, inArray, sql } from 'drizzle-orm'
import type { Recipe } from '@stern-gate/contract'
import { readRecipe } from './assets'
import type { StoredFile } from './bulkChanges'
import type { Queryable, Transaction } from './database'
import { assets, findings, recipes, versionFiles, versions } from './schema'

/** Rules whose findings say that a slot waits for a texture, or a texture for a slot. */
const WAITING = ['slots/missing-input', 'files/unreferenced-texture']

const newestVersion = and(eq(versions.assetId, assets.id), eq(versions.number, assets.currentVersion))

/** Meshes whose newest version came by a delivery. */
export const listMeshesOfDelivery = (
  db: Queryable,
  projectId: string,
  delivery: string,
): Promise<{ id: string }[]> =>
  db
    .select({ id: assets.id })
    .from(assets)
    .innerJoin(versions, newestVersion)
    .where(and(eq(assets.projectId, projectId), eq(assets.kind, 'mesh'), eq(versions.deliveryId, delivery)))
    .orderBy(assets.id)

/** Meshes with slots that lack a texture or with textures that nothing uses, the newest first. */
export const listWaitingMeshes = (db: Queryable, projectId: string): Promise<{ id: string }[]> =>
  db
    .select({ id: assets.id })
    .from(assets)
    .innerJoin(versions, newestVersion)
    .where(
      and(
        eq(assets.projectId, projectId),
        eq(assets.kind, 'mesh'),
        sql`exists (select 1 from ${findings} where ${findings.versionId} = ${versions.id}
          and ${inArray(findings.rule, WAITING)} and not ${findings.waived})`,
      ),
    )
    .orderBy(desc(assets.updated), assets.id)

/** Texture sets, the newest first. */
export const listTextureSets = (db: Queryable, projectId: string): Promise<{ id: string }[]> =>
  db
    .select({ id: assets.id })
    .from(assets)
    .where(and(eq(assets.projectId, projectId), eq(assets.kind, 'texture-set')))
    .orderBy(desc(assets.updated), assets.id)

/** Meshes with slots that lack a texture, and texture sets, by number. */
export async function countWaiting(
  db: Queryable,
  projectId: string,
): Promise<{ meshes: number; sets: number }> {
  const { rows } = await db.execute<{ meshes: number; sets: number }>(sql`
    select count(*) filter (where a.kind = 'texture-set')::int as sets,
      count(*) filter (where a.kind = 'mesh' and exists (
        select 1 from findings f where f.version_id = v.id and f.rule = 'slots/missing-input' and not f.waived
      ))::int as meshes
    from assets a join versions v on v.asset_id = a.id and v.number = a.current_version
    where a.project_id = ${projectId}`)
  return { ...rows[0]! }
}

/** Meshes of these names with their recipes and the files of their newest version. */
export async function listMeshesOfNames(
  db: Queryable,
  projectId: string,
  names: readonly string[],
): Promise<{ name: string; recipe: Recipe; files: StoredFile[] }[]> {
  if (names.length === 0) return []
  const rows = await db
    .select({ name: assets.name, version: versions.id, recipe: recipes.body })
    .from(assets)
    .innerJoin(versions, newestVersion)
    .innerJoin(recipes, eq(recipes.assetId, assets.id))
    .where(and(eq(assets.projectId, projectId), eq(assets.kind, 'mesh'), inArray(assets.name, [...names])))
  const files =
    rows.length === 0
      ? []
      : await db
          .select()
          .from(versionFiles)
          .where(
            inArray(
              versionFiles.versionId,
              rows.map((r) => r.version),
            ),
          )
  return rows.map(({ name, version, recipe }) => ({
    name,
    recipe: readRecipe(recipe),
    files: files.filter((f) => f.versionId === version).map(storedFile),
  }))
}

/** How many versions each asset has. */
export async function countVersions(db: Queryable, ids: readonly string[]): Promise<Map<string, number>> {
  if (ids.length === 0) return new Map()
  const rows = await db
    .select({ id: versions.assetId, n: sql<number>`count(*)::int` })
    .from(versions)
    .where(inArray(versions.assetId, [...ids]))
    .groupBy(versions.assetId)
  return new Map(rows.map((r) => [r.id, r.n]))
}

/** Puts files behind those of a version; none of their paths may be taken there. */
export async function joinFiles(
  tx: Transaction,
  versionId: string,
  files: readonly StoredFile[],
): Promise<void> {
  if (files.length === 0) return
  const [last] = await tx
    .select({ position: sql<number>`coalesce(max(${versionFiles.position}), -1)::int` })
    .from(versionFiles)
    .where(eq(versionFiles.versionId, versionId))
  await tx
    .insert(versionFiles)
    .values(files.map((file, i) => ({ ...file, versionId, position: last!.position + 1 + i })))
}

/** Takes one file out of a version. */
export const takeFileOut = (tx: Transaction, versionId: string, path: string): Promise<unknown> =>
  tx.delete(versionFiles).where(and(eq(versionFiles.versionId, versionId), eq(versionFiles.path, path)))

/** A row of a version's files without its place. */
export const storedFile = ({
  path,
  part,
  sha256,
  sizeBytes,
  kind,
  fault,
  factsKey,
}: typeof versionFiles.$inferSelect): StoredFile => ({ path, part, sha256, sizeBytes, kind, fault, factsKey })
