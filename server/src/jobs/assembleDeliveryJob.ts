import { stations, type Tally } from '@stern-gate/contract'
import { assembleAssets, type AssetDraft } from '@stern-gate/core'
import { assetContext } from '../judging/assetContext'
import { judgeAsset } from '../judging/judgeAsset'
import { measuredFiles } from '../judging/measuredFiles'
import type { Services } from '../services'
import { ensureAsset, findAsset, findVersionOfDelivery, insertVersion } from '../store/assets'
import { findDelivery, listFiles, setDeliveryState, type DeliveryFileRow, type DeliveryRow } from '../store/deliveries'
import { addEvent } from '../store/eventLog'
import { jobPayloads } from './jobNames'
import type { JobHandler } from './queue'

type AssembleServices = Pick<Services, 'connection' | 'store' | 'engine' | 'log' | 'queue'>

const emptyTally = Object.fromEntries(stations.map((s) => [s, { state: 'none', count: 0 }])) as Tally

/** Makes assets and versions of a measured delivery and judges them. Run twice it finds its versions there. */
export const assembleDeliveryJob = (services: AssembleServices): JobHandler => async (payload, { signal }) => {
  const { db } = services.connection
  const delivery = await findDelivery(db, jobPayloads.assemble_delivery.parse(payload).delivery)
  if (!delivery || delivery.state !== 'measuring') return
  const rows = (await listFiles(db, delivery.id)).filter((f) => f.sha256 !== null)
  const { files } = await measuredFiles(db, rows)
  const { rulebook } = await assetContext(db, delivery.projectId)
  const ids: string[] = []
  for (const draft of assembleAssets(files, rulebook)) ids.push(await takeIn(services, delivery, draft, rows))
  // With the names that just came
  const context = await assetContext(db, delivery.projectId)
  for (const id of ids) await judgeAsset(services, id, signal, context)
  await db.transaction(async (tx) => {
    await setDeliveryState(tx, delivery.id, 'done')
    await addEvent(tx, delivery.projectId, { kind: 'delivery', delivery: delivery.id, state: 'done' })
  })
}

async function takeIn(services: AssembleServices, delivery: DeliveryRow, draft: AssetDraft, rows: readonly DeliveryFileRow[]): Promise<string> {
  return services.connection.db.transaction(async (tx) => {
    const { id } = await ensureAsset(tx, delivery.projectId, draft.kind, draft.name)
    if (await findVersionOfDelivery(tx, id, delivery.id)) return id
    const asset = (await findAsset(tx, id))!
    const files = draft.files.map(({ path, part }) => {
      const row = rows.find((r) => r.path === path)!
      return { path, part, sha256: row.sha256!, sizeBytes: row.sizeBytes, kind: row.kind, fault: row.fault, factsKey: row.factsKey }
    })
    const version = { assetId: id, number: asset.currentVersion + 1, deliveryId: delivery.id, main: draft.main, by: delivery.by, shownName: draft.name, className: '', tally: emptyTally, verdict: 'clear', created: delivery.created }
    await insertVersion(tx, version, files)
    return id
  })
}
