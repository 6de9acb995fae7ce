import { continueBulkChange } from '../judging/bulkChange'
import { assetContext } from '../judging/assetContext'
import { judgeAsset, judgeAssets } from '../judging/judgeAsset'
import type { JobServices } from '../services/services'
import { assembleDeliveryJob } from './assembleDeliveryJob'
import { jobPayloads } from './jobNames'
import { measureFileJob } from './measureFileJob'
import { packDispatchJob } from './packDispatchJob'
import type { JobHandler } from './queue'
import { refreshAssetJob } from './refreshAssetJob'
import { settleAbsentJob } from './settleAbsentJob'
import { validateAssetJob } from './validateAssetJob'

/** Every job by its name. */
export const jobHandlers = (services: JobServices): Record<keyof typeof jobPayloads, JobHandler> => ({
  measure_file: measureFileJob(services),
  assemble_delivery: assembleDeliveryJob(services),
  refresh_asset: refreshAssetJob(services),
  validate_asset: validateAssetJob(services),
  bulk_change: (payload, { signal }) =>
    continueBulkChange(services.connection.db, jobPayloads.bulk_change.parse(payload).change, signal),
  settle_absent: settleAbsentJob(services),
  pack_dispatch: packDispatchJob(services),
  judge_many: async (payload, { signal }) => {
    const { project, assets } = jobPayloads.judge_many.parse(payload)
    await judgeAssets(services, assets, signal, await assetContext(services.connection.db, project))
  },
  judge_asset: (payload, { signal }) =>
    judgeAsset(services, jobPayloads.judge_asset.parse(payload).asset, signal),
})
