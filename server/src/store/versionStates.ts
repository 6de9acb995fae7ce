import { and, eq, sql, type SQL } from 'drizzle-orm'
import type { Fault, VersionState } from '@stern-gate/contract'
import type { Queryable, Transaction } from './database'
import { assets, recipes, versions } from './schema'

/**
 * What judgements depend on, held still until the transaction ends. Everything that changes assets, recipes or
 * versions begins with this, in the order of the ids: two transactions never wait for each other in a ring.
 */
export const lockAssets = (tx: Transaction, ids: readonly string[]) =>
  tx
    .select({
      id: assets.id,
      revision: recipes.revision,
      currentVersion: assets.currentVersion,
      classChoice: assets.classChoice,
      targetChoice: assets.targetChoice,
    })
    .from(assets)
    .innerJoin(recipes, eq(recipes.assetId, assets.id))
    .where(sql`${assets.id} = any(${sql.param([...ids])}::uuid[])`)
    .orderBy(assets.id)
    .for('update')

/** The newest versions of assets count as unjudged from here on. */
export async function markUnjudged(db: Queryable, ids: readonly string[]): Promise<void> {
  await changeState(db, ids, { state: 'waiting', fault: null })
}

/** Their output is being made and judged; what has a verdict keeps it while it is judged once more. */
export async function markJudging(db: Queryable, ids: readonly string[]): Promise<void> {
  await changeState(db, ids, { state: 'judging', fault: null }, eq(versions.state, 'waiting'))
}

/** Judging failed: there is no verdict, and the asset says why. */
/** Notes of the newest versions of assets whether what is safe is mended once they are judged. */
export async function markForMending(
  tx: Transaction,
  assetIds: readonly string[],
  mend: boolean,
): Promise<void> {
  if (assetIds.length === 0) return
  await tx.execute(sql`
    update versions v set mend_safely = ${mend} from assets a
    where a.id = v.asset_id and a.current_version = v.number and a.id = any(${sql.param([...assetIds])}::uuid[])`)
}

export async function markFailed(db: Queryable, id: string, fault: Fault): Promise<void> {
  await changeState(db, [id], { state: 'failed', fault })
}

async function changeState(
  db: Queryable,
  ids: readonly string[],
  change: { state: VersionState; fault: Fault | null },
  only?: SQL,
): Promise<void> {
  if (ids.length === 0) return
  await db
    .update(versions)
    .set(change)
    .from(assets)
    .where(
      and(
        eq(versions.assetId, assets.id),
        eq(versions.number, assets.currentVersion),
        sql`${assets.id} = any(${sql.param([...ids])}::uuid[])`,
        only,
      ),
    )
}
