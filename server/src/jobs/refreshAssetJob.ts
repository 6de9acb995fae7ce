import { mayRefer } from '@stern-gate/core'
import type { Services } from '../services'
import { judgeAsset } from '../judging/judgeAsset'
import { keepMeasurement } from '../judging/keepMeasurement'
import { findFacts, listOutdatedAssets } from '../store/factsStore'
import { findJudgeables } from '../store/judgements'
import { jobPayloads } from './jobNames'
import type { JobHandler, JobQueue } from './queue'

type RefreshServices = Pick<Services, 'connection' | 'store' | 'engine' | 'log' | 'queue'>

/** Measures the newest version of an asset anew where its facts are of an older measure, and judges it. */
export const refreshAssetJob =
  (services: RefreshServices): JobHandler =>
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
    for (const file of placed) {
      if (file.factsKey === null || known.has(file.factsKey)) continue
      const siblings = mayRefer(file.path)
        ? placed.filter((p) => p !== file).map(({ path, file: place }) => ({ path, file: place }))
        : []
      await keepMeasurement(
        services,
        await services.engine.measure(file, siblings, { signal }),
        file.factsKey,
      )
    }
    await judgeAsset(services, asset, signal)
  }

/** After a measure was changed: has every asset measured anew whose facts are older, in the background. */
export async function refreshOutdated({
  connection,
  queue,
  log,
}: {
  connection: RefreshServices['connection']
  queue: JobQueue
  log: RefreshServices['log']
}): Promise<void> {
  const assets = await listOutdatedAssets(connection.db)
  if (assets.length === 0) return
  log.info({ assets: assets.length }, 'a measure has changed: measuring anew')
  await queue.addMany(
    'refresh_asset',
    assets.map((asset) => ({ payload: { asset }, key: `refresh:${asset}` })),
  )
}
