import { and, eq } from 'drizzle-orm'
import { intakeSchema, type Intake } from '@stern-gate/contract'
import { withIntake } from '@stern-gate/core'
import { localPerson } from '../auth/localPerson'
import type { JobServices } from '../services/services'
import { getRecipe, saveRecipe } from '../store/assets'
import type { Transaction } from '../store/database'
import { setDeliveryIntake, type DeliveryRow } from '../store/deliveries'
import { addEvent, addEvents } from '../store/eventLog'
import { addJudging } from '../store/jobQueue'
import { assets, versions } from '../store/schema'
import { lockAssets, markForMending, markUnjudged } from '../store/versionStates'

/** How the assets of a delivery are taken in; null: as they came. */
export const intakeOf = (delivery: Pick<DeliveryRow, 'intake'>): Intake | null =>
  delivery.intake === null ? null : intakeSchema.parse(delivery.intake)

/**
 * Makes the intake the first step of each asset's recipe, where it is not so already. Gives those that
 * changed.
 */
export async function takeInBy(
  tx: Transaction,
  assetIds: readonly string[],
  intake: Intake | null,
): Promise<string[]> {
  const changed: string[] = []
  await lockAssets(tx, assetIds)
  for (const id of assetIds) {
    const now = await getRecipe(tx, id),
      next = withIntake(now.recipe, intake)
    if (next === now.recipe) continue
    if (await saveRecipe(tx, id, now.revision, next, [...now.history, now.recipe])) changed.push(id)
  }
  return changed
}

/**
 * Chooses how a delivery is taken in. What it brought already is taken in anew, in the background; assets
 * that a later delivery brought again stay as they are.
 */
export async function chooseIntake(
  { connection: { db } }: Pick<JobServices, 'connection'>,
  delivery: DeliveryRow,
  intake: Intake | null,
): Promise<void> {
  await db.transaction(async (tx) => {
    await setDeliveryIntake(tx, delivery.id, intake)
    const rows = await tx
      .select({ id: assets.id, kind: assets.kind })
      .from(versions)
      .innerJoin(assets, and(eq(assets.id, versions.assetId), eq(assets.currentVersion, versions.number)))
      .where(eq(versions.deliveryId, delivery.id))
    const taken = await takeInBy(
        tx,
        rows.filter((r) => r.kind === 'mesh').map((r) => r.id),
        intake,
      ),
      all = rows.map((r) => r.id),
      ids = intake?.mend ? all : taken
    await markForMending(tx, all, intake?.mend ?? false)
    if (intake?.mend) await markUnjudged(tx, all)
    await addJudging(tx, ids)
    await addEvent(
      tx,
      delivery.projectId,
      { kind: 'delivery', delivery: delivery.id, state: delivery.state },
      localPerson.name,
    )
    await addEvents(
      tx,
      delivery.projectId,
      ids.map((asset) => ({ kind: 'asset', asset })),
      localPerson.name,
    )
  })
}
