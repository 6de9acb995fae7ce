import { bad, stations, type Fault, type Rulebook, type Tally } from '@stern-gate/contract'
import {
  assembleAssets,
  intakePresets,
  suggestedPreset,
  workingFilesBeside,
  type AssemblyFile,
  type AssetDraft,
} from '@stern-gate/core'
import { assetContext } from '../judging/assetContext'
import { intakeOf, takeInBy } from '../judging/intakeOfDelivery'
import { judgeAssets } from '../judging/judgeAsset'
import { takeSurfaceFiles } from '../judging/takeSurfaceFiles'
import { keepPaired } from '../judging/keepPaired'
import { filesToAssemble } from '../judging/measuredFiles'
import type { JobServices } from '../services/services'
import { takeInAssets, type ArrivingAsset } from '../store/arrivingAssets'
import type { Queryable } from '../store/database'
import {
  countOpenFiles,
  findDelivery,
  listFiles,
  moveDelivery,
  setFilesAside,
  suggestIntake,
  type DeliveryFileRow,
  type DeliveryRow,
} from '../store/deliveries'
import { addEvent } from '../store/eventLog'
import { addSettling } from '../store/jobQueue'
import { jobPayloads } from './jobNames'
import { markForMending } from '../store/versionStates'
import type { JobHandler } from './queue'
import { settleScenes, takeScenesApart } from './takeScenesApart'

const emptyTally = Object.fromEntries(stations.map((s) => [s, { state: 'none', count: 0 }])) as Tally

/**
 * Makes assets and versions of a measured delivery and judges them. Run twice it finds its versions there.
 */
export const assembleDeliveryJob =
  (services: JobServices): JobHandler =>
  async (payload, { signal }) => {
    const { db } = services.connection
    const delivery = await findDelivery(db, jobPayloads.assemble_delivery.parse(payload).delivery)
    if (!delivery || delivery.state !== 'measuring') return
    // Two files may both see themselves as the last one: while the first assembly takes a scene apart, the second waits,
    // and would find its parts unmeasured. The last of these sets this going again
    if ((await countOpenFiles(db, delivery.id)) > 0) return
    const { rulebook } = await assetContext(db, delivery.projectId)
    const all = (await listFiles(db, delivery.id)).filter((f) => f.sha256 !== null)
    // The last of the parts sets this going again
    if (await takeScenesApart(services, delivery, all, rulebook, signal)) return
    const rows = all.filter((f) => f.state !== 'apart')
    const files = await filesToAssemble(db, rows)
    const { drafts, carried } = await keepPaired(db, delivery.projectId, assembleAssets(files, rulebook))
    const byPath = new Map<string, ArrivingFile>([...carried, ...rows.map((r) => [r.path, r] as const)])
    const arriving = drafts.map((draft) => arrivingOf(delivery, draft, byPath))
    await db.transaction((tx) => setFilesAside(tx, delivery.id, asideOf(drafts, rows)))
    const ids: string[] = []
    for (let k = 0; k < arriving.length; k += AT_ONCE)
      ids.push(
        ...(await db.transaction((tx) =>
          takeInAssets(tx, delivery.projectId, delivery.id, arriving.slice(k, k + AT_ONCE)),
        )),
      )
    await db.transaction((tx) =>
      settleScenes(
        tx,
        delivery,
        all,
        arriving.map((a, i) => ({ id: ids[i]!, main: a.version.main })),
      ),
    )
    await takeSurfaceFiles(
      services,
      delivery,
      rows,
      drafts.map((draft, i) => ({
        draft,
        asset: ids[i]!,
        factsKey: byPath.get(draft.main)?.factsKey ?? null,
      })),
    )
    const intake = intakeOf(delivery)
    if (intake)
      await db.transaction(async (tx) => {
        await takeInBy(
          tx,
          ids.filter((_, i) => arriving[i]!.kind === 'mesh'),
          intake,
        )
        await markForMending(tx, ids, intake.mend)
      })
    else await suggest(db, delivery, files, rulebook)
    // With the names that just came
    await judgeAssets(services, ids, signal, await assetContext(db, delivery.projectId))
    await db.transaction(async (tx) => {
      if (!(await moveDelivery(tx, delivery.id, ['measuring'], 'done'))) return
      await addEvent(tx, delivery.projectId, { kind: 'delivery', delivery: delivery.id, state: 'done' })
      if (intake && intake.absent !== 'ask') await addSettling(tx, delivery.id)
    })
  }

/** Files that hold a model once more, and working files of one that was read, each with why. */
const asideOf = (
  drafts: readonly AssetDraft[],
  rows: readonly DeliveryFileRow[],
): { path: string; fault: Fault }[] =>
  [
    ...drafts.flatMap((d) => d.aside ?? []),
    ...workingFilesBeside(
      rows.filter((r) => r.state === 'refused').map((r) => r.path),
      drafts.filter((d) => d.kind === 'mesh'),
    ),
  ].map(({ path, chosen, why }) => ({
    path,
    fault: bad('file/same-model', why, `Nothing is lost: ${chosen} stands for it.`, { file: path }).fault,
  }))

/** Notes a preset that fits, for a person to take. */
async function suggest(
  db: Queryable,
  delivery: DeliveryRow,
  files: readonly AssemblyFile[],
  rulebook: Rulebook,
): Promise<void> {
  const meshes = files.flatMap((f) =>
    f.facts?.kind === 'mesh' ? [{ path: f.path, generator: f.facts.file.generator }] : [],
  )
  if (meshes.length === 0) return
  const preset = suggestedPreset(
    intakePresets(rulebook),
    meshes.map((m) => m.path),
    meshes.map((m) => m.generator),
  )
  if (preset) await suggestIntake(db, delivery.id, preset.name)
}

/** So many are taken in by one transaction. */
const AT_ONCE = 200

/** A file of the delivery, or one that comes along from the version before. */
type ArrivingFile = Pick<DeliveryFileRow, 'sha256' | 'sizeBytes' | 'kind' | 'fault' | 'factsKey'>

function arrivingOf(
  delivery: DeliveryRow,
  draft: AssetDraft,
  byPath: ReadonlyMap<string, ArrivingFile>,
): ArrivingAsset {
  const files = draft.files.map(({ path, part }) => {
    const row = byPath.get(path)!
    return {
      path,
      part,
      sha256: row.sha256!,
      sizeBytes: row.sizeBytes,
      kind: row.kind,
      fault: row.fault,
      factsKey: row.factsKey,
    }
  })
  return {
    name: draft.name,
    kind: draft.kind,
    files,
    version: {
      main: draft.main,
      by: delivery.by,
      shownName: draft.name,
      className: '',
      tally: emptyTally,
      verdict: 'clear',
      created: delivery.created,
    },
  }
}
