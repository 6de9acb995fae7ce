import { activeSteps } from '@stern-gate/contract'
import { findAmong } from '@stern-gate/engine'
import { judgeAsset } from '../judging/judgeAsset'
import { outputKey } from '../judging/makeOutput'
import { resolvedRecipe } from '../judging/resolvedRecipe'
import { mayBeValidated } from '../judging/validation'
import type { JobServices } from '../services/services'
import { findFacts, saveStandard } from '../store/factsStore'
import { findJudgeables } from '../store/judgements'
import { findOutput } from '../store/outputs'
import { jobPayloads } from './jobNames'
import type { JobHandler } from './queue'

/**
 * Has the open standard's validator look at an asset's glTF files, source and output, and judges it once more
 * with what it says. The verdict does not wait for it.
 */
export const validateAssetJob =
  (services: JobServices): JobHandler =>
  async (payload, { signal }) => {
    const { asset } = jobPayloads.validate_asset.parse(payload),
      { db } = services.connection
    const [found] = await findJudgeables(db, [asset])
    if (!found) return
    const output =
      activeSteps(found.recipe).length > 0
        ? await findOutput(
            db,
            outputKey(found.files, await resolvedRecipe(db, found.asset.projectId, found.recipe)),
          )
        : null
    let looked = false
    for (const files of [found.files, output?.files ?? []]) {
      const known = await findFacts(
        db,
        files.flatMap((f) => f.factsKey ?? []),
      )
      const beside = findAmong(files.map((f) => ({ path: f.path, file: services.store.localFile(f.sha256) })))
      for (const file of files) {
        const facts = file.factsKey === null ? undefined : known.get(file.factsKey)
        if (!facts || facts.standard || !mayBeValidated(facts.kept)) continue
        const done = await services.engine.validate(
          { path: file.path, file: services.store.localFile(file.sha256), sizeBytes: file.sizeBytes },
          beside,
          { signal },
        )
        signal.throwIfAborted()
        // A validator that broke off says nothing; the file is not asked again for every judgement
        await saveStandard(db, facts.key, done.ok ? done.value : { errors: [], all: false })
        looked = true
      }
    }
    if (looked) await judgeAsset(services, asset, signal)
  }
