import { and, eq, inArray } from 'drizzle-orm'
import type * as z from 'zod'
import type { setOriginSchema } from '@stern-gate/contract'
import { localPerson } from '../auth/localPerson'
import type { JobServices } from '../services/services'
import { addEvents } from '../store/eventLog'
import { addJudging } from '../store/jobQueue'
import { assets, versions } from '../store/schema'
import { lockAssets } from '../store/versionStates'

/** So many assets are changed by one statement. */
const AT_ONCE = 1000

/** Says where assets came from, and has them judged by it. Gives how many there were. */
export async function giveOrigin(
  { connection: { db } }: Pick<JobServices, 'connection'>,
  projectId: string,
  { assets: chosen, delivery, origin }: z.output<typeof setOriginSchema>,
): Promise<number> {
  return db.transaction(async (tx) => {
    const ids =
      chosen ??
      (delivery === null
        ? []
        : (
            await tx
              .select({ id: assets.id })
              .from(versions)
              .innerJoin(
                assets,
                and(eq(assets.id, versions.assetId), eq(assets.currentVersion, versions.number)),
              )
              .where(eq(versions.deliveryId, delivery))
          ).map((r) => r.id))
    let changed = 0
    for (let k = 0; k < ids.length; k += AT_ONCE) {
      const some = ids.slice(k, k + AT_ONCE)
      await lockAssets(tx, some)
      const rows = await tx
        .update(assets)
        .set({ origin })
        .where(and(eq(assets.projectId, projectId), inArray(assets.id, some)))
        .returning({ id: assets.id })
      changed += rows.length
      await addJudging(
        tx,
        rows.map((r) => r.id),
        { soon: true },
      )
      await addEvents(
        tx,
        projectId,
        rows.map(({ id }) => ({ kind: 'asset', asset: id })),
        localPerson.name,
      )
    }
    return changed
  })
}
