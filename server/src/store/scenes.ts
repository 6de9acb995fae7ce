import { and, desc, eq, inArray, sql } from 'drizzle-orm'
import * as z from 'zod'
import {
  faultSchema,
  keptPartSchema,
  sceneChangesSchema,
  scenePlanSchema,
  type Fault,
  type KeptPart,
  type SceneChanges,
  type ScenePlan,
} from '@stern-gate/contract'
import { fileStem } from '@stern-gate/core'
import type { Queryable } from './database'
import { assets, deliveryFiles, findings, scenes, versionFiles, versions } from './schema'

/** A file of many objects, how it is taken apart, and what it gave the last time. */
export interface SceneRecord {
  id: string
  projectId: string
  key: string
  plan: ScenePlan
  path: string | null
  sha256: string | null
  factsKey: string | null
  deliveryId: string | null
  parts: KeptPart[]
  changes: SceneChanges | null
  fault: Fault | null
  revision: number
}

/** What a scene is known by from one export to the next: the file's name, whatever its folder and format. */
export const sceneKey = (path: string): string => fileStem(path).toLowerCase()

const recordOf = (row: typeof scenes.$inferSelect): SceneRecord => ({
  ...row,
  plan: scenePlanSchema.parse(row.plan),
  parts: z.array(keptPartSchema).parse(row.parts),
  changes: sceneChangesSchema.nullable().parse(row.changes),
  fault: faultSchema.nullable().parse(row.fault),
})

export async function findScene(db: Queryable, id: string): Promise<SceneRecord | null> {
  const [row] = await db.select().from(scenes).where(eq(scenes.id, id))
  return row ? recordOf(row) : null
}

export async function listScenes(db: Queryable, projectId: string): Promise<SceneRecord[]> {
  return (await db.select().from(scenes).where(eq(scenes.projectId, projectId)).orderBy(scenes.key)).map(
    recordOf,
  )
}

/** Scenes of a project by their keys. */
export async function findScenes(
  db: Queryable,
  projectId: string,
  keys: readonly string[],
): Promise<Map<string, SceneRecord>> {
  if (keys.length === 0) return new Map()
  const rows = await db
    .select()
    .from(scenes)
    .where(and(eq(scenes.projectId, projectId), inArray(scenes.key, [...new Set(keys)])))
  return new Map(rows.map((r) => [r.key, recordOf(r)]))
}

/** The file that a scene is now. */
export type SceneFile = Pick<SceneRecord, 'path' | 'sha256' | 'factsKey' | 'deliveryId'>

/** Notes a scene under its key with what became of it; a plan that is there already is replaced. */
export async function saveScene(
  db: Queryable,
  projectId: string,
  key: string,
  scene: SceneFile & Pick<SceneRecord, 'plan' | 'parts' | 'changes' | 'fault'>,
): Promise<SceneRecord> {
  const [row] = await db
    .insert(scenes)
    .values({ projectId, key, ...scene })
    .onConflictDoUpdate({ target: [scenes.projectId, scenes.key], set: scene })
    .returning()
  return recordOf(row!)
}

/** Makes a scene of a file that is kept whole, or points the one of its key at that file. */
export async function openScene(
  db: Queryable,
  projectId: string,
  key: string,
  file: SceneFile,
  plan: ScenePlan,
): Promise<SceneRecord> {
  const [row] = await db
    .insert(scenes)
    .values({ projectId, key, plan, ...file })
    .onConflictDoUpdate({ target: [scenes.projectId, scenes.key], set: { ...file } })
    .returning()
  return recordOf(row!)
}

/** Saves a plan over the revision that it was made from; false: somebody else was quicker. */
export async function savePlan(
  db: Queryable,
  id: string,
  revision: number,
  plan: ScenePlan,
): Promise<boolean> {
  const saved = await db
    .update(scenes)
    .set({ plan, revision: revision + 1 })
    .where(and(eq(scenes.id, id), eq(scenes.revision, revision)))
    .returning({ id: scenes.id })
  return saved.length > 0
}

/** Marks a delivered file as taken apart: it makes no asset of its own. */
export const markApart = (db: Queryable, file: string): Promise<unknown> =>
  db.update(deliveryFiles).set({ state: 'apart' }).where(eq(deliveryFiles.id, file))

/** Notes which scene assets were taken out of. */
export async function setSceneOfAssets(db: Queryable, scene: string, ids: readonly string[]): Promise<void> {
  if (ids.length > 0)
    await db
      .update(assets)
      .set({ sceneId: scene })
      .where(inArray(assets.id, [...ids]))
}

/** Assets that were taken out of a scene, with their names as they came. */
export const listSceneAssets = (db: Queryable, scene: string): Promise<{ id: string; name: string }[]> =>
  db.select({ id: assets.id, name: assets.name }).from(assets).where(eq(assets.sceneId, scene))

/** Assets whose newest version is a file as a whole, under the name of the scene. */
export async function listWholeAssets(
  db: Queryable,
  projectId: string,
  { sha256, key }: { sha256: string; key: string },
): Promise<string[]> {
  const rows = await db
    .select({ id: assets.id, main: versions.main })
    .from(assets)
    .innerJoin(versions, and(eq(versions.assetId, assets.id), eq(versions.number, assets.currentVersion)))
    .innerJoin(versionFiles, eq(versionFiles.versionId, versions.id))
    .where(
      and(
        eq(assets.projectId, projectId),
        eq(assets.kind, 'mesh'),
        eq(versionFiles.sha256, sha256),
        sql`${versionFiles.path} = ${versions.main}`,
      ),
    )
  // The same bytes under another name are another asset
  return rows.filter((r) => sceneKey(r.main) === key).map((r) => r.id)
}

/** Takes assets out of the project, with all that was said of them. */
export async function removeAssets(db: Queryable, ids: readonly string[]): Promise<void> {
  if (ids.length > 0) await db.delete(assets).where(inArray(assets.id, [...ids]))
}

/** Which of these names mesh assets have that are no part of the scene, and not the scene as a whole. */
export async function findNamesTaken(
  db: Queryable,
  scene: Pick<SceneRecord, 'id' | 'projectId' | 'sha256' | 'key'>,
  names: readonly string[],
): Promise<string[]> {
  if (names.length === 0) return []
  const whole =
    scene.sha256 === null
      ? []
      : await listWholeAssets(db, scene.projectId, { sha256: scene.sha256, key: scene.key })
  const rows = await db
    .select({ id: assets.id, name: assets.name })
    .from(assets)
    .where(
      and(
        eq(assets.projectId, scene.projectId),
        eq(assets.kind, 'mesh'),
        sql`${assets.sceneId} is distinct from ${scene.id}::uuid`,
        inArray(assets.name, [...names]),
      ),
    )
    .orderBy(assets.name)
  return rows.filter((r) => !whole.includes(r.id)).map((r) => r.name)
}

/** The newest assets that look like several things, as the rule for it found. */
export async function listSeveral(
  db: Queryable,
  projectId: string,
): Promise<{ asset: string; name: string; things: number; delivery: string }[]> {
  const rows = await db
    .select({
      asset: assets.id,
      name: assets.name,
      things: sql<number>`coalesce((${findings.body}->'data'->>'count')::int, 0)`,
      delivery: versions.deliveryId,
    })
    .from(findings)
    .innerJoin(versions, eq(versions.id, findings.versionId))
    .innerJoin(assets, and(eq(assets.id, versions.assetId), eq(assets.currentVersion, versions.number)))
    .where(
      and(
        eq(findings.rule, 'files/several-things'),
        eq(findings.waived, false),
        eq(assets.projectId, projectId),
      ),
    )
    .orderBy(desc(assets.updated), assets.id)
    .limit(20)
  return rows
}
