import {
  activeSteps,
  good,
  type AssetDetail,
  type AssetState,
  type Outcome,
  type Preview,
  type Recipe,
} from '@stern-gate/contract'
import { faultSchema, versionStateSchema } from '@stern-gate/contract'
import type { Services } from '../services/services'
import { notFound } from '../trouble/faultReply'
import {
  findVersion,
  getRecipe,
  listVersionFiles,
  listVersions,
  type AssetRecord,
  type VersionFileRecord,
  type VersionRecord,
} from '../store/assets'
import { findOutput, type OutputRecord } from '../store/outputs'
import { assetContext, judgeIn, readOrigin, subjectOf, type AssetContext } from './assetContext'
import { describeState } from './describeState'
import { draftOf } from './drafts'
import { loadState } from './loadState'
import { measureUsed } from './measureUsed'
import { makeOutput, outputKey } from './makeOutput'
import { measuredFiles } from './measuredFiles'
import { previousVersion } from './previousVersions'
import type { Queryable } from '../store/database'
import { findScene } from '../store/scenes'
import { fileStem, originOf, resolveSurfaces, rulebookFor, stepWords, type Subject } from '@stern-gate/core'

/**
 * Everything that the bench shows of an asset; `number` asks for an earlier version. Throws a not-found reply
 * for a version that is not there.
 */
export async function assetDetail(
  services: Services,
  asset: AssetRecord,
  number?: number,
): Promise<AssetDetail> {
  const { db } = services.connection
  const all = await listVersions(db, asset.id)
  const version = await findVersion(db, asset.id, number ?? all.at(-1)?.number ?? 0)
  if (!version) throw notFound('version')
  const files = await listVersionFiles(db, version.id)
  const { recipe, revision, history } = await getRecipe(db, asset.id)
  const context = await assetContext(db, asset.projectId)
  const wanted = activeSteps(recipe).length > 0
  const output = wanted
    ? await findOutput(db, outputKey(files, resolveSurfaces(recipe, context.rulebook.surfaces)))
    : null
  const previous = await previousVersion(db, context, asset, version.number)
  const {
    state: source,
    classFrom,
    className,
  } = await sourceState(services, { ...context, previous }, asset, version, files)
  const fault = version.outputFault === null ? null : faultSchema.parse(version.outputFault)
  return {
    id: asset.id,
    name: asset.name,
    kind: source.mesh ? 'mesh' : asset.kind,
    class: className,
    classFrom,
    target: asset.targetChoice ?? context.project.target,
    version: version.number,
    state: versionStateSchema.parse(version.state),
    fault: version.fault === null ? null : faultSchema.parse(version.fault),
    versions: all.map((v) => ({ number: v.number, created: new Date(v.created).toISOString(), by: v.by })),
    main: version.main,
    scene: await sceneOf(db, asset),
    origin: originOf(rulebookFor(context.rulebook, version.main), version.main, readOrigin(asset.origin)),
    recipe,
    recipeRevision: revision,
    canUndo: history.length > 0,
    making: wanted && !output && !fault,
    outputFault: wanted && !output ? fault : null,
    results: output?.results ?? [],
    stepWords: Object.fromEntries(recipe.steps.map((s) => [s.id, stepWords(s)])),
    source,
    output: output ? await outputState(services, { ...context, previous }, asset, version, output) : null,
  }
}

async function sceneOf(db: Queryable, { sceneId }: AssetRecord): Promise<AssetDetail['scene']> {
  const scene = sceneId === null ? null : await findScene(db, sceneId)
  return scene && { id: scene.id, name: scene.path === null ? scene.key : fileStem(scene.path) }
}

/** What states of one version are judged with. */
type VersionContext = AssetContext & { previous: Subject['previous'] }

async function sourceState(
  services: Services,
  context: VersionContext,
  asset: AssetRecord,
  version: VersionRecord,
  files: readonly VersionFileRecord[],
): Promise<{ state: AssetState; classFrom: AssetDetail['classFrom']; className: string }> {
  const { files: measured, facts } = await measuredFiles(services.connection.db, files)
  const subject = subjectOf(context, asset, draftOf(asset, version, files), measured, context.previous)
  const state = describeState(subject, judgeIn(context, asset.id, subject), measured, {
    model: subject.mesh?.nodes ? `/api/assets/${asset.id}/model?version=${version.number}` : null,
    evidence: Object.fromEntries(
      files
        .filter((f) => f.part === 'mesh')
        .flatMap((f) => {
          const evidence = facts.get(f.factsKey ?? '')?.evidence
          return evidence ? [[f.path === version.main ? '' : f.path, `/api/blobs/${evidence}`]] : []
        }),
    ),
    files: files.map(({ path, part, sha256, sizeBytes }) => ({
      path,
      part,
      sha256,
      sizeBytes,
    })),
  })
  return { state, classFrom: subject.classFrom, className: subject.className }
}

async function outputState(
  services: Services,
  context: VersionContext,
  asset: AssetRecord,
  version: VersionRecord,
  output: OutputRecord,
): Promise<AssetState> {
  const { draft, files: measured } = await loadState(
    services.connection.db,
    { asset, version, files: [] },
    output,
  )
  const subject = subjectOf(context, asset, draft, measured, context.previous)
  return describeState(subject, judgeIn(context, asset.id, subject), measured, {
    model: asset.kind === 'mesh' ? `/api/outputs/${output.key}/model` : null,
    evidence: output.evidence ? { '': `/api/blobs/${output.evidence}` } : {},
    files: output.files.map(({ path, part, sha256, sizeBytes }) => ({ path, part, sha256, sizeBytes })),
  })
}

/** What a recipe would make, without keeping it. Faults: of reading, of remedies. */
export async function previewOf(
  services: Services,
  asset: AssetRecord,
  recipe: Recipe,
  signal: AbortSignal,
): Promise<Outcome<Preview>> {
  const { db } = services.connection
  const version = await findVersion(db, asset.id, asset.currentVersion)
  if (!version) throw notFound('version')
  const files = await listVersionFiles(db, version.id)
  const project = await assetContext(db, asset.projectId)
  const context = { ...project, previous: await previousVersion(db, project, asset, version.number) }
  if (activeSteps(recipe).length === 0)
    return good({ state: (await sourceState(services, context, asset, version, files)).state, results: [] })
  const made = await makeOutput(
    services,
    asset,
    version,
    files,
    resolveSurfaces(recipe, project.rulebook.surfaces),
    {
      signal,
      preview: true,
    },
  )
  if (!made.ok) return made
  const output = made.value
  await measureUsed(services, await loadState(db, { asset, version, files }, output), output.files, signal)
  return good({
    state: await outputState(services, context, asset, version, output),
    results: output.results,
  })
}
