import { judge, type AssetDraft } from '@stern-gate/core'
import type { JobServices } from '../services'
import { addEvent } from '../store/eventLog'
import { findAsset, findVersion, getRecipe, listVersionFiles, lockAsset, saveJudgement, type AssetRecord, type VersionFileRecord, type VersionRecord } from '../store/assets'
import type { OutputRecord } from '../store/outputs'
import { assetContext, subjectOf, type AssetContext } from './assetContext'
import { headlineOf } from './describeState'
import { activeSteps, makeOutput } from './makeOutput'
import { measuredFiles } from './measuredFiles'

/** The source of a version as a draft. */
export const draftOf = (asset: AssetRecord, version: VersionRecord, files: readonly VersionFileRecord[]): AssetDraft => ({
  name: asset.name, kind: asset.kind as AssetDraft['kind'], main: version.main, files: files.map((f) => ({ path: f.path, part: f.part as 'mesh' | 'buffer' | 'texture' })),
})

/** An output as a draft. */
export const draftOfOutput = (asset: AssetRecord, output: OutputRecord): AssetDraft => ({ name: output.name, kind: asset.kind as AssetDraft['kind'], main: output.main, files: output.files.map((f) => ({ path: f.path, part: f.part })) })

/**
 * Makes the output of the newest recipe and judges it; the verdict of an asset is that of its output. Safe to run twice, and at the same time: what was
 * judged by a recipe or choice that is no longer the newest is not kept but done again. Whoever judges many of a project hands the context along.
 */
export async function judgeAsset(services: JobServices, assetId: string, signal?: AbortSignal, known?: AssetContext): Promise<void> {
  while (!(await judgeOnce(services, assetId, signal, known))) signal?.throwIfAborted()
}

/** False when the asset changed in the meantime. */
async function judgeOnce(services: JobServices, assetId: string, signal?: AbortSignal, known?: AssetContext): Promise<boolean> {
  const { db } = services.connection
  const asset = await findAsset(db, assetId)
  const version = asset ? await findVersion(db, asset.id, asset.currentVersion) : null
  if (!asset || !version) return true
  const files = await listVersionFiles(db, version.id)
  const { recipe, revision } = await getRecipe(db, asset.id)
  const made = activeSteps(recipe).length > 0 ? await makeOutput(services, asset, version, files, recipe, signal) : null
  const output = made?.ok ? made.value : null
  const context = known ?? (await assetContext(db, asset.projectId))
  const { files: measured, facts } = await measuredFiles(db, output ? output.files.map((f) => ({ ...f, fault: null })) : files)
  const subject = subjectOf(context, asset, output ? draftOfOutput(asset, output) : draftOf(asset, version, files), measured)
  const judged = judge(subject)
  const mainFacts = facts.get(files.find((f) => f.path === version.main)?.factsKey ?? '')
  return db.transaction(async (tx) => {
    const now = await lockAsset(tx, asset.id)
    const same = now !== null && now.revision === revision && now.currentVersion === asset.currentVersion && now.classChoice === asset.classChoice && now.targetChoice === asset.targetChoice
    if (!same) return false
    await saveJudgement(tx, version, {
      shownName: subject.name, className: subject.className, tally: judged.tally, verdict: judged.verdict, headline: headlineOf(judged.findings),
      thumbnail: output?.thumbnail ?? mainFacts?.thumbnail ?? null, outputKey: output?.key ?? null, outputFault: made && !made.ok ? made.fault : null, findings: judged.findings,
    })
    await addEvent(tx, asset.projectId, { kind: 'asset', asset: asset.id })
    return true
  })
}
