import type { Outcome } from '@stern-gate/contract'
import { localPerson } from '../auth/localPerson'
import { keepFromBefore } from '../judging/keepFromBefore'
import type { JobServices } from '../services/services'
import type { AssetRecord } from '../store/assets'
import { createDelivery, type DeliveryRow } from '../store/deliveries'
import { closeDelivery } from './closeDelivery'

/**
 * Delivers an asset's newest version again with the levels and the collision that the one before had. Gives the
 * delivery, closed. Faults: those of keepFromBefore.
 */
export async function deliverKept(services: JobServices, asset: AssetRecord): Promise<Outcome<DeliveryRow>> {
  const { db } = services.connection
  const files = await keepFromBefore(services, asset)
  if (!files.ok) return files
  const note = `${asset.name}: kept from the version before`
  const row = await createDelivery(db, asset.projectId, note, localPerson.name, { files: files.value })
  await closeDelivery(db, row)
  return { ok: true, value: row }
}
