import { findAmong } from '@stern-gate/engine'
import type { JobServices } from '../services/services'
import { judgeAsset } from '../judging/judgeAsset'
import { keepMeasurement } from '../judging/keepMeasurement'
import { activeSteps } from '@stern-gate/contract'
import { outputKey } from '../judging/makeOutput'
import { resolvedRecipe } from '../judging/resolvedRecipe'
import type { Queryable } from '../store/database'
import { findFacts, listOutdatedAssets } from '../store/factsStore'
import { addJobs } from '../store/jobQueue'
import { findJudgeables, listAssetsWithSteps } from '../store/judgements'
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
      if (file.factsKey === null || known.get(file.factsKey)?.fresh) continue
      await keepMeasurement(services, await services.engine.measure(file, beside, { signal }), file.factsKey)
    }
    await judgeAsset(services, asset, signal)
  }

/**
 * After an update: has every asset measured, made or judged anew whose facts, output or judgement are of an older
 * version, in the background. Until then they count as unjudged.
 */
export async function refreshOutdated({ connection: { db }, log }: JobServices): Promise<void> {
  const outdated = [...new Set([...(await listOutdatedAssets(db)), ...(await listOutdatedOutputs(db))])]
  if (outdated.length === 0) return
  log.info({ assets: outdated.length }, 'rules, measures or remedies have changed: judging anew')
  for (let k = 0; k < outdated.length; k += AT_ONCE) {
    const assets = outdated.slice(k, k + AT_ONCE)
    await db.transaction(async (tx) => {
      await markUnjudged(tx, assets)
      await addJobs(
        tx,
        'refresh_asset',
        assets.map((asset) => ({ payload: { asset }, key: `refresh:${asset}` })),
      )
    })
  }
}

/** So many are read, or noted by one transaction. */
const AT_ONCE = 1000

/** Assets whose output was made of other steps, or by other versions of remedies, than it would be now. */
async function listOutdatedOutputs(db: Queryable): Promise<string[]> {
  const withSteps = await listAssetsWithSteps(db),
    outdated: string[] = []
  for (let k = 0; k < withSteps.length; k += AT_ONCE)
    for (const { asset, version, files, recipe } of await findJudgeables(db, withSteps.slice(k, k + AT_ONCE)))
      if (
        version.state === 'judged' &&
        version.outputFault === null &&
        activeSteps(recipe).length > 0 &&
        version.outputKey !== outputKey(files, await resolvedRecipe(db, asset.projectId, recipe))
      )
        outdated.push(asset.id)
  return outdated
}
