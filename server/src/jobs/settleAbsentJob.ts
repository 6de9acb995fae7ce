import { and, eq } from 'drizzle-orm'
import { giveWaivers } from '../judging/givenWaivers'
import { intakeOf } from '../judging/intakeOfDelivery'
import { LESS_THAN_BEFORE } from '../judging/previousVersions'
import type { JobServices } from '../services/services'
import { findAsset } from '../store/assets'
import { findDelivery } from '../store/deliveries'
import { assets, findings, versions } from '../store/schema'
import { deliverKept } from './deliverKept'
import { jobPayloads } from './jobNames'
import type { JobHandler } from './queue'

/**
 * Does what the intake preset of a delivery says of parts that its new versions lack: kept from the version before, as
 * a version of its own, or accepted as gone. What cannot be kept, a clip for one, goes on being asked for. Run twice it
 * finds what is still open.
 */
export const settleAbsentJob =
  (services: JobServices): JobHandler =>
  async (payload, { signal }) => {
    const { db } = services.connection
    const delivery = await findDelivery(db, jobPayloads.settle_absent.parse(payload).delivery),
      intake = delivery && intakeOf(delivery)
    if (!intake || intake.absent === 'ask') return
    const open = await db
      .select({ asset: assets.id, fingerprint: findings.fingerprint })
      .from(findings)
      .innerJoin(versions, eq(versions.id, findings.versionId))
      .innerJoin(assets, and(eq(assets.id, versions.assetId), eq(assets.currentVersion, versions.number)))
      .where(
        and(
          eq(versions.deliveryId, delivery.id),
          eq(findings.rule, LESS_THAN_BEFORE),
          eq(findings.waived, false),
        ),
      )
    if (open.length === 0) return
    if (intake.absent === 'gone') {
      const reason = `The intake preset ${intake.name} says that what is absent is gone`
      await giveWaivers(services, delivery.projectId, { findings: open, assets: [], reason, until: null })
      return
    }
    for (const id of new Set(open.map((f) => f.asset))) {
      signal.throwIfAborted()
      const asset = await findAsset(db, id)
      if (asset) await deliverKept(services, asset)
    }
  }
