import {
  activeSteps,
  applicationVersion,
  bad,
  counts,
  manifestSchema,
  type CarriedSetting,
  type Finding,
  type LeftBehind,
  type Manifest,
  type Origin,
  type PackagedAsset,
  type PackagedScene,
} from '@stern-gate/contract'
import {
  carryOver,
  fileStem,
  packagedAsset,
  packagedLevels,
  packagedLightmap,
  packagedScene,
  packagedStep,
  resolveSurfaces,
  type PassStep,
} from '@stern-gate/core'
import { writePackage, type PackageEntry } from '@stern-gate/engine'
import { assetContext, judgeIn, subjectOf, type AssetContext } from '../judging/assetContext'
import { loadState } from '../judging/loadState'
import { outputKey } from '../judging/makeOutput'
import type { JobServices } from '../services/services'
import {
  findDispatch,
  listAssetsToPack,
  notePacking,
  savePacked,
  type DispatchRow,
} from '../store/dispatches'
import { encodeTextures } from './encodeTextures'
import { makeForTarget, subjectOfOutput } from './makeForTarget'
import { addEvent } from '../store/eventLog'
import { findJudgeables, type Judgeable } from '../store/judgements'
import type { Queryable } from '../store/database'
import { findOutput, type OutputRecord } from '../store/outputs'
import { listSceneAssets, listScenes } from '../store/scenes'

/** So many assets are looked at before progress is told. */
const AT_ONCE = 40

/** What goes into a package so far. */
interface Package {
  assets: PackagedAsset[]
  entries: PackageEntry[]
  held: LeftBehind[]
  /** Folders that are given away. */
  taken: Set<string>
}

/**
 * Judges the chosen assets for the target of the dispatch and packs those that are clear; safe to run twice.
 * What was not judged, not made yet, or is held stays behind, each with why.
 */
export async function packDispatch(services: JobServices, id: string, signal: AbortSignal): Promise<void> {
  const { db } = services.connection
  const row = await findDispatch(db, id)
  if (!row || row.state === 'done' || row.state === 'failed') return
  const context = await assetContext(db, row.projectId)
  const all = await listAssetsToPack(db, row.projectId),
    chosen = row.chosen === null ? null : new Set(row.chosen as string[]),
    ids = chosen ? all.filter((asset) => chosen.has(asset)) : all
  const into: Package = { assets: [], entries: [], held: [], taken: new Set() }
  for (let k = 0; k < ids.length; k += AT_ONCE) {
    signal.throwIfAborted()
    await notePacking(db, id, k, ids.length)
    await addEvent(db, row.projectId, { kind: 'dispatch', dispatch: id, state: 'packing' })
    const slice = ids.slice(k, k + AT_ONCE),
      found = new Map((await findJudgeables(db, slice)).map((j) => [j.asset.id, j]))
    for (const asset of slice) {
      const judgeable = found.get(asset)
      if (judgeable) await packAsset(services, context, row, judgeable, into, signal)
    }
  }
  await notePacking(db, id, ids.length, ids.length)
  await finish(services, row, context, into, signal)
}

async function packAsset(
  services: JobServices,
  context: AssetContext,
  { target, encode }: DispatchRow,
  judgeable: Judgeable,
  into: Package,
  signal: AbortSignal,
): Promise<void> {
  const { asset, version, files, recipe } = judgeable
  const stays = (why: string, stops = 0): void =>
    void into.held.push({
      asset: asset.id,
      name: version.shownName,
      kind: asset.kind,
      why,
      stops,
    })
  if (version.state !== 'judged') return stays(notJudged[version.state] ?? 'It is not judged yet.')
  const { db } = services.connection
  const wanted = activeSteps(recipe).length > 0,
    output = wanted
      ? await findOutput(db, outputKey(files, resolveSurfaces(recipe, context.rulebook.surfaces)))
      : null
  if (wanted && !output) return stays('Its recipe made no output.')
  const state = await loadState(db, judgeable, output)
  const subject = subjectOf(context, { ...asset, targetChoice: target }, state.draft, state.files)
  const { findings, verdict } = judgeIn(context, asset.id, subject)
  if (verdict !== 'clear') {
    const stops = findings.filter((f) => f.level === 'stop' && counts(f))
    return stays(stops[0]!.text, stops.length)
  }
  const sent = await makeForTarget(services, context, judgeable, subject, signal)
  if (!sent.ok) return stays(sent.fault.why)
  const packed = take(
    services,
    target,
    judgeable,
    {
      output: sent.value.output ?? output,
      made: sent.value.steps,
      name: subject.name,
      className: subject.className,
      lightmap: asset.kind === 'mesh' ? packagedLightmap(subject.class, subject.target) : null,
      levels: packagedLevels(subject),
      origin: subject.origin.given,
      carryOver: carryOver(subject.mesh?.slots ?? [], subject.target).filter((l) => l.fate !== 'kept'),
      findings,
    },
    into,
  )
  if (!encode) return
  const placeOf = (path: string): string | undefined => packed.asset.files[packed.paths.indexOf(path)]?.path
  const goesOut = sent.value.output
    ? await subjectOfOutput(services, context, judgeable, target, sent.value.output)
    : subject
  into.entries.push(...(await encodeTextures(services, goesOut, packed.asset, placeOf, signal)))
}

const notJudged: Record<string, string> = {
  waiting: 'It waits to be judged.',
  judging: 'It is being judged.',
  failed: 'It could not be judged.',
}

/** Puts a clear asset into the package; `paths` are those that its files had, in the order of the packed ones. */
function take(
  services: JobServices,
  target: string,
  { asset: of, version, files, recipe }: Judgeable,
  clear: {
    output: OutputRecord | null
    made: readonly PassStep[]
    name: string
    className: string
    lightmap: PackagedAsset['lightmap']
    levels: PackagedAsset['levels']
    origin: Origin | null
    carryOver: CarriedSetting[]
    findings: readonly Finding[]
  },
  into: Package,
): { asset: PackagedAsset; paths: string[] } {
  const kind = of.kind,
    own = clear.output?.files ?? files.filter((f) => f.fault === null)
  const asset = packagedAsset(
    target,
    {
      id: of.id,
      name: clear.name,
      kind,
      class: clear.className,
      version: version.number,
      recipe: activeSteps(recipe).map(packagedStep),
      made: clear.made.map(packagedStep),
      main: clear.output?.main ?? version.main,
      files: own.map(({ path, part, sha256, sizeBytes }) => ({
        path,
        part,
        sha256,
        sizeBytes,
      })),
      lightmap: clear.lightmap,
      levels: clear.levels,
      origin: clear.origin,
      carryOver: clear.carryOver,
      findings: clear.findings,
    },
    into.taken,
  )
  for (const { path, sha256 } of asset.files)
    into.entries.push({ path, file: services.store.localFile(sha256) })
  into.assets.push(asset)
  return { asset, paths: own.map((f) => f.path) }
}

/** Placements of the scenes of which parts are packed. */
async function scenesOf(
  db: Queryable,
  { projectId, target }: DispatchRow,
  assets: readonly PackagedAsset[],
): Promise<{ scene: PackagedScene; text: string }[]> {
  const byId = new Map(assets.map((a) => [a.id, a]))
  const found: { scene: PackagedScene; text: string }[] = []
  for (const scene of await listScenes(db, projectId)) {
    if (scene.parts.length === 0) continue
    const named = (await listSceneAssets(db, scene.id)).flatMap(({ id, name }) => {
      const asset = byId.get(id)
      return asset ? [[name, asset] as const] : []
    })
    const name = scene.path === null ? scene.key : fileStem(scene.path)
    const packed = packagedScene(target, name, scene.parts, new Map(named))
    if (packed) found.push(packed)
  }
  return found
}

/** Writes the zip into the store and notes what came of it. */
async function finish(
  { connection: { db }, store }: JobServices,
  row: DispatchRow,
  { project, rulebook }: AssetContext,
  { assets, entries, held }: Package,
  signal: AbortSignal,
): Promise<void> {
  const done = async (packed: Parameters<typeof savePacked>[2]): Promise<void> => {
    await db.transaction(async (tx) => {
      await savePacked(tx, row.id, packed)
      await addEvent(tx, row.projectId, { kind: 'dispatch', dispatch: row.id, state: packed.state })
    })
  }
  if (assets.length === 0)
    return done({
      state: 'failed',
      held,
      fault: bad(
        'dispatch/empty',
        'None of the chosen assets is clear for this target; there is nothing to pack.',
        'See below what holds each of them.',
      ).fault,
    })
  const scenes = await scenesOf(db, row, assets)
  const manifest: Manifest = manifestSchema.parse({
    format: 'stern-gate-manifest/1',
    version: applicationVersion,
    project: project.name,
    dispatch: row.number,
    target: row.target,
    rulebook: { name: rulebook.name, revision: project.rulebookRevision },
    terms: rulebook.terms,
    assets,
    scenes: scenes.map((s) => s.scene),
  })
  const placed = scenes.map(({ scene: { path }, text }) => ({ path, text }))
  const zip = writePackage([...entries, ...placed], manifest),
    stop = (): void => void zip.destroy(new Error('packing was stopped'))
  signal.addEventListener('abort', stop)
  try {
    const { sha256, sizeBytes } = await store.putStream(zip)
    await done({ state: 'done', manifest, sha256, sizeBytes, held })
  } finally {
    signal.removeEventListener('abort', stop)
  }
}
