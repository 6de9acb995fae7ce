import { stations, type Tally } from '@stern-gate/contract'
import { assembleAssets, type AssetDraft } from '@stern-gate/core'
import { assetContext } from '../judging/assetContext'
import { judgeAssets } from '../judging/judgeAsset'
import { filesToAssemble } from '../judging/measuredFiles'
import type { Services } from '../services'
import { takeInAssets, type ArrivingAsset } from '../store/arrivingAssets'
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
  const files = await filesToAssemble(db, rows)
  const { rulebook } = await assetContext(db, delivery.projectId)
  const byPath = new Map(rows.map((r) => [r.path, r]))
  const arriving = assembleAssets(files, rulebook).map((draft) => arrivingOf(delivery, draft, byPath))
  const ids: string[] = []
  for (let k = 0; k < arriving.length; k += AT_ONCE) ids.push(...(await db.transaction((tx) => takeInAssets(tx, delivery.projectId, delivery.id, arriving.slice(k, k + AT_ONCE)))))
  // With the names that just came
  await judgeAssets(services, ids, signal, await assetContext(db, delivery.projectId))
  await db.transaction(async (tx) => {
    await setDeliveryState(tx, delivery.id, 'done')
    await addEvent(tx, delivery.projectId, { kind: 'delivery', delivery: delivery.id, state: 'done' })
  })
}

/** So many are taken in by one transaction. */
const AT_ONCE = 200

function arrivingOf(delivery: DeliveryRow, draft: AssetDraft, byPath: ReadonlyMap<string, DeliveryFileRow>): ArrivingAsset {
  const files = draft.files.map(({ path, part }) => {
    const row = byPath.get(path)!
    return { path, part, sha256: row.sha256!, sizeBytes: row.sizeBytes, kind: row.kind, fault: row.fault, factsKey: row.factsKey }
  })
  return { name: draft.name, kind: draft.kind, files, version: { main: draft.main, by: delivery.by, shownName: draft.name, className: '', tally: emptyTally, verdict: 'clear', created: delivery.created } }
}
