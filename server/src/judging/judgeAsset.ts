import { activeSteps, bad, type Outcome } from '@stern-gate/contract'
import {
  type Judgement,
  type MeasuredFile,
  offeredNames,
  resolveSurfaces,
  type Subject,
} from '@stern-gate/core'
import type { JobServices } from '../services/services'
import { addEvent, addEvents } from '../store/eventLog'
import { findAsset, type AssetRecord } from '../store/assets'
import { findFacts } from '../store/factsStore'
import {
  findJudgeables,
  findOffered,
  saveJudgements,
  type Judgeable,
  type JudgedVersion,
} from '../store/judgements'
import { findProject } from '../store/projects'
import type { OutputRecord } from '../store/outputs'
import { markFailed, markJudging } from '../store/versionStates'
import { waitable } from '../trouble/waitable'
import { assetContext, judgeIn, subjectOf, type AssetContext } from './assetContext'
import { headlineOf, namesOf } from './describeState'
import { loadState, type LoadedState } from './loadState'
import { makeOutput } from './makeOutput'
import { measureStoredErrors } from './measureStoredErrors'
import { measureUsed } from './measureUsed'
import { mendOnArrival } from './mendOnArrival'
import { withFacts, type KnownFacts } from './measuredFiles'
import { previousVersion } from './previousVersions'
import { addValidation } from './validation'

/**
 * Makes the output of the newest recipe and judges it; the verdict of an asset is that of its output. Safe to
 * run twice, and at the same time: what was judged by a recipe or choice that is no longer the newest is not
 * kept but done again.
 */
export const judgeAsset = (services: JobServices, assetId: string, signal?: AbortSignal): Promise<void> =>
  judgeAssets(services, [assetId], signal)

/** So many are read and kept at once: statements cost more than what is in them. */
const AT_ONCE = 40

/** The same for many assets of one project; whoever knows what they have in common hands it along. */
export async function judgeAssets(
  services: JobServices,
  assetIds: readonly string[],
  signal?: AbortSignal,
  known?: AssetContext,
): Promise<void> {
  for (let k = 0; k < assetIds.length; k += AT_ONCE) {
    await judgeApart(services, assetIds.slice(k, k + AT_ONCE), { signal, known })
  }
}

interface Judging {
  signal: AbortSignal | undefined
  known: AssetContext | undefined
}

/**
 * Judges assets together. Where that breaks off each is judged by itself, so that one never keeps others from
 * their verdict; an asset that still breaks off says that judging failed.
 */
async function judgeApart(services: JobServices, ids: readonly string[], judging: Judging): Promise<void> {
  try {
    let open = ids
    while (open.length > 0) {
      judging.signal?.throwIfAborted()
      open = await judgeOnce(services, open, judging)
    }
  } catch (error) {
    if (judging.signal?.aborted || waitable(error)) throw error
    if (ids.length === 1) return sayFailed(services, ids[0]!, error)
    for (const id of ids) await judgeApart(services, [id], judging)
  }
}

async function sayFailed(
  { connection: { db }, log }: JobServices,
  assetId: string,
  error: unknown,
): Promise<void> {
  log.error({ error, asset: assetId }, 'judging failed')
  await db.transaction(async (tx) => {
    const asset = await findAsset(tx, assetId)
    if (!asset) return
    await markFailed(tx, assetId, judgingFailed(asset.name))
    await addEvent(tx, asset.projectId, { kind: 'asset', asset: assetId })
  })
}

const judgingFailed = (asset: string) =>
  bad(
    'job/failed',
    'Judging broke off.',
    'This is a fault of Stern Gate: see the server log, and report it with the file. A new recipe or version is judged again.',
    { part: asset },
  ).fault

/** Gives the assets that changed in the meantime. */
async function judgeOnce(
  services: JobServices,
  ids: readonly string[],
  { signal, known }: Judging,
): Promise<string[]> {
  const { db } = services.connection
  const all = await findJudgeables(db, ids)
  const projectId = all[0]?.asset.projectId
  if (!projectId) return []
  // What is handed along may be of a rulebook or of waivers that are no longer in force
  const project = await findProject(db, projectId)
  const context =
    known &&
    known.project.rulebookRevision === project?.rulebookRevision &&
    known.project.waiversRevision === project.waiversRevision
      ? known
      : await assetContext(db, projectId)
  const facts = await findFacts(
    db,
    all.flatMap((of) => of.files.flatMap((f) => f.factsKey ?? [])),
  )
  const changed: string[] = []
  for (const group of groupsOf(all)) {
    const judged: { of: Judgeable; judged: JudgedVersion; measured: MeasuredFile[] }[] = []
    const made = await Promise.all(group.map((of) => madeVersion(services, of, context, facts, signal)))
    for (const [k, of] of group.entries())
      judged.push({ of, ...(await judgedVersion(services, of, made[k]!, context, facts)) })
    const kept = await db.transaction(async (tx) => {
      const saved = new Set(await saveJudgements(tx, judged, context.project))
      await mendOnArrival(
        tx,
        projectId,
        judged.filter((j) => saved.has(j.of.asset.id)),
      )
      await addValidation(
        tx,
        judged
          .filter((j) => saved.has(j.of.asset.id))
          .map((j) => ({ asset: j.of.asset.id, files: j.measured })),
      )
      if (saved.size > 0)
        await addEvents(
          tx,
          projectId,
          [...saved].map((asset) => ({ kind: 'asset', asset })),
        )
      return saved
    })
    changed.push(...group.map((of) => of.asset.id).filter((id) => !kept.has(id)))
  }
  return changed
}

/**
 * Assets without a recipe are judged in no time, and kept together; the output of one with a recipe may take
 * long, and the others do not wait for it.
 */
function groupsOf(all: readonly Judgeable[]): Judgeable[][] {
  const slow = all.filter((of) => activeSteps(of.recipe).length > 0)
  return [all.filter((of) => !slow.includes(of)), ...slow.map((of) => [of])].filter((g) => g.length > 0)
}

/** What is judged of a version: its output, if it has a recipe, and all that was measured of that. */
interface MadeVersion {
  made: Outcome<OutputRecord> | null
  state: LoadedState
}

async function madeVersion(
  services: JobServices,
  { asset, version, files, recipe }: Judgeable,
  context: AssetContext,
  facts: KnownFacts,
  signal?: AbortSignal,
): Promise<MadeVersion> {
  const wanted = activeSteps(recipe).length > 0
  if (wanted) await markJudging(services.connection.db, [asset.id])
  const made = wanted
    ? await makeOutput(services, asset, version, files, resolveSurfaces(recipe, context.rulebook.surfaces), {
        signal,
      })
    : null
  const output = made?.ok ? made.value : null
  const state = await loadState(services.connection.db, { asset, version, files }, output, facts)
  const rows = output?.files ?? files,
    used = await measureUsed(services, state, rows, signal)
  return { made, state: await measureStoredErrors(services, context, asset, used, rows, signal) }
}

async function judgedVersion(
  services: JobServices,
  { asset, version, files }: Judgeable,
  { made, state: { draft, files: measured } }: MadeVersion,
  context: AssetContext,
  facts: KnownFacts,
): Promise<{ judged: JudgedVersion; measured: MeasuredFile[] }> {
  const output = made?.ok ? made.value : null
  const previous = await previousVersion(services.connection.db, context, asset, version.number)
  const { subject, findings, tally, verdict } = await judgedApart(services, context, asset, () =>
    subjectOf(context, asset, draft, measured, previous),
  )
  const mainFacts = facts.get(files.find((f) => f.path === version.main)?.factsKey ?? '')
  const judged: JudgedVersion = {
    shownName: subject.name,
    className: subject.className,
    tally,
    verdict,
    headline: headlineOf(findings),
    findings,
    names: namesOf(subject),
    thumbnail: output?.thumbnail ?? mainFacts?.thumbnail ?? null,
    outputKey: output?.key ?? null,
    outputFault: made && !made.ok ? made.fault : null,
  }
  return { judged: judged, measured: [...measured, ...(output ? withFacts(files, facts) : [])] }
}

/** So often a name is sought that no other asset is offered; then it may be offered twice. */
const MOST_ATTEMPTS = 26

/** Judges, and once more where another asset of the project is offered the same new name already. */
async function judgedApart(
  services: JobServices,
  context: AssetContext,
  asset: Pick<AssetRecord, 'id' | 'projectId'>,
  subjectNow: () => Subject,
): Promise<{ subject: Subject } & Judgement> {
  for (let attempt = 1; ; attempt++) {
    const subject = subjectNow(),
      judgement = judgeIn(context, asset.id, subject),
      names = offeredNames(judgement.findings)
    const others = await findOffered(services.connection.db, asset.projectId, names, asset.id)
    if (others.length === 0 || attempt === MOST_ATTEMPTS) {
      for (const name of names) context.offered.set(name, asset.id)
      return { subject, ...judgement }
    }
    for (const { name, asset: other } of others) context.offered.set(name, other)
  }
}
