import { findAmong } from '@stern-gate/engine'
import type { JobServices } from '../services/services'
import { judgeAsset } from '../judging/judgeAsset'
import { keepMeasurement } from '../judging/keepMeasurement'
import { findFacts, listOutdatedAssets } from '../store/factsStore'
import { addJobs } from '../store/jobQueue'
import { findJudgeables } from '../store/judgements'
import { markUnjudged } from '../store/versionStates'
import { jobPayloads } from './jobNames'
import type { JobHandler } from './queue'

/** Measures the newest version of an asset anew where its facts are of an older measure, and judges it. */
export const refreshAssetJob =
  (services: JobServices): JobHandler =>
  async (payload, { signal }) => {
    const { asset } = jobPayloads.refresh_asset.parse(payload),
      { db } = services.connection
    const [found] = await findJudgeables(db, [asset])
    if (!found) return
    const known = await findFacts(
      db,
      found.files.flatMap((f) => f.factsKey ?? []),
    )
    const placed = found.files.map((f) => ({ ...f, file: services.store.localFile(f.sha256) }))
    const beside = findAmong(placed)
    for (const file of placed) {
      if (file.factsKey === null || known.has(file.factsKey)) continue
      await keepMeasurement(services, await services.engine.measure(file, beside, { signal }), file.factsKey)
    }
    await judgeAsset(services, asset, signal)
  }

/**
 * After a measure was changed: has every asset measured anew whose facts are older, in the background. Until
 * then they count as unjudged.
 */
export async function refreshOutdated({ connection: { db }, log }: JobServices): Promise<void> {
  const assets = await listOutdatedAssets(db)
  if (assets.length === 0) return
  log.info({ assets: assets.length }, 'a measure has changed: measuring anew')
  await db.transaction(async (tx) => {
    await markUnjudged(tx, assets)
    await addJobs(
      tx,
      'refresh_asset',
      assets.map((asset) => ({ payload: { asset }, key: `refresh:${asset}` })),
    )
  })
}
