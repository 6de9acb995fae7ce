import { and, eq, inArray, sql } from 'drizzle-orm'
import type { AssetKind, Recipe } from '@stern-gate/contract'
import type { Transaction } from './database'
import { assets, recipes, versionFiles, versions } from './schema'

/** An asset as a delivery brings it: the first of its name, or the next version of one that is there. */
export interface ArrivingAsset {
  name: string
  kind: AssetKind
  version: Omit<typeof versions.$inferInsert, 'assetId' | 'number' | 'deliveryId'>
  files: Omit<typeof versionFiles.$inferInsert, 'versionId' | 'position'>[]
}

/**
 * Takes assets in, each as one new version; safe to run twice for a delivery. Gives their ids in the same
 * order.
 */
export async function takeInAssets(
  tx: Transaction,
  projectId: string,
  deliveryId: string,
  arriving: readonly ArrivingAsset[],
): Promise<string[]> {
  if (arriving.length === 0) return []
  const rows = await ensureAssets(tx, projectId, arriving)
  const known = await tx
    .select({ assetId: versions.assetId })
    .from(versions)
    .where(
      and(
        eq(versions.deliveryId, deliveryId),
        inArray(
          versions.assetId,
          rows.map((r) => r.id),
        ),
      ),
    )
  const there = new Set(known.map((k) => k.assetId))
  const fresh = arriving.flatMap((asset, i) => (there.has(rows[i]!.id) ? [] : [{ asset, row: rows[i]! }]))
  if (fresh.length > 0) {
    const made = await tx
      .insert(versions)
      .values(
        fresh.map(({ asset, row }) => ({
          ...asset.version,
          assetId: row.id,
          number: row.currentVersion + 1,
          deliveryId,
        })),
      )
      .returning({ id: versions.id, assetId: versions.assetId })
    const versionOf = new Map(made.map((v) => [v.assetId, v.id]))
    const files = fresh.flatMap(({ asset, row }) =>
      asset.files.map((f, position) => ({ ...f, position, versionId: versionOf.get(row.id)! })),
    )
    for (let k = 0; k < files.length; k += ROWS)
      await tx.insert(versionFiles).values(files.slice(k, k + ROWS))
    await tx
      .update(assets)
      .set({ currentVersion: sql`${versions.number}`, updated: sql`${versions.created}` })
      .from(versions)
      .where(
        and(
          eq(versions.assetId, assets.id),
          inArray(
            versions.id,
            made.map((v) => v.id),
          ),
        ),
      )
  }
  return rows.map((r) => r.id)
}

/** Rows that go into one statement: its parameters are numbered by 16 bits. */
const ROWS = 1000

/** The assets of these names, made where they are new, in the same order. */
async function ensureAssets(
  tx: Transaction,
  projectId: string,
  arriving: readonly ArrivingAsset[],
): Promise<{ id: string; currentVersion: number }[]> {
  // In one order, so that two deliveries at once do not wait for each other in a ring
  const wanted = [...arriving]
    .sort((a, b) => (keyOf(a) < keyOf(b) ? -1 : 1))
    .map(({ kind, name }) => ({ projectId, kind, name, currentVersion: 0 }))
  await tx.insert(assets).values(wanted).onConflictDoNothing()
  const rows = await tx
    .select({ id: assets.id, kind: assets.kind, name: assets.name, currentVersion: assets.currentVersion })
    .from(assets)
    .where(
      and(
        eq(assets.projectId, projectId),
        inArray(
          assets.name,
          arriving.map((a) => a.name),
        ),
      ),
    )
    .orderBy(assets.id)
    .for('update')
  await tx
    .insert(recipes)
    .values(rows.map((r) => ({ assetId: r.id, body: { steps: [] } satisfies Recipe })))
    .onConflictDoNothing()
  const byKey = new Map(rows.map((r) => [keyOf(r), r]))
  return arriving.map((a) => byKey.get(keyOf(a))!)
}

const keyOf = ({ kind, name }: { kind: string; name: string }): string => `${kind} ${name}`
