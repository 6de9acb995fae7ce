import { and, eq, inArray } from 'drizzle-orm'
import type { Intake } from '@stern-gate/contract'
import { localPerson } from '../auth/localPerson'
import { giveWaivers } from '../judging/givenWaivers'
import { keepFromBefore } from '../judging/keepFromBefore'
import type { JobServices } from '../services/services'
import { findAsset } from '../store/assets'
import { createDelivery } from '../store/deliveries'
import { assets, findings, versions } from '../store/schema'
import { closeDelivery } from './closeDelivery'

const LESS = 'files/less-than-before'

/**
 * What the intake preset of a delivery says of parts that its new versions lack: kept from the version before, as a
 * version of its own, or accepted as gone. What cannot be kept, a clip for one, goes on being asked.
 */
export async function settleAbsent(
  services: JobServices,
  projectId: string,
  assetIds: readonly string[],
  { name, absent }: Pick<Intake, 'name' | 'absent'>,
): Promise<void> {
  if (absent === 'ask' || assetIds.length === 0) return
  const { db } = services.connection
  const found = await db
    .select({ asset: assets.id, fingerprint: findings.fingerprint })
    .from(findings)
    .innerJoin(versions, eq(versions.id, findings.versionId))
    .innerJoin(assets, and(eq(assets.id, versions.assetId), eq(assets.currentVersion, versions.number)))
    .where(and(inArray(assets.id, [...assetIds]), eq(findings.rule, LESS), eq(findings.waived, false)))
  if (found.length === 0) return
  if (absent === 'gone') {
    const reason = `The intake preset ${name} says that what is absent is gone`
    await giveWaivers(services, projectId, { findings: found, assets: [], reason, until: null })
    return
  }
  for (const id of new Set(found.map((f) => f.asset))) {
    const asset = await findAsset(db, id)
    if (!asset) continue
    const files = await keepFromBefore(services, asset)
    if (!files.ok) continue
    const row = await createDelivery(
      db,
      projectId,
      `${asset.name}: kept from the version before`,
      localPerson.name,
      { files: files.value },
    )
    await closeDelivery(db, row)
  }
}
