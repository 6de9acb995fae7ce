import { sql } from 'drizzle-orm'
import type { Subject } from '@stern-gate/core'
import { activeSteps } from '@stern-gate/contract'
import type { JobServices } from '../services/services'
import type { AssetRecord } from '../store/assets'
import type { Queryable } from '../store/database'
import { findFacts } from '../store/factsStore'
import { findJudgeables } from '../store/judgements'
import { findOutput } from '../store/outputs'
import { assetContext, subjectOf, type AssetContext } from '../judging/assetContext'
import { loadState, type LoadedState } from '../judging/loadState'
import { previousVersion } from '../judging/previousVersions'

/** What judging an asset needs, kept at hand. */
export interface KeptAsset extends LoadedState {
  stamp: string
  asset: AssetRecord
  previous: Subject['previous']
}

export interface Library {
  context: AssetContext
  assets: readonly KeptAsset[]
}

/** Projects whose facts are kept, the last asked for. */
const MOST_PROJECTS = 2
/** So many are read by one statement. */
const AT_ONCE = 200

/**
 * The judged assets of a project with their facts, kept in memory between questions: what a change of the
 * rulebook would do is asked again and again while somebody drags a limit. Only what changed is read anew.
 */
export class LibraryRoom {
  private readonly kept = new Map<string, Map<string, KeptAsset>>()
  private readonly reading = new Map<string, Promise<Library>>()
  private readonly last = new Map<string, { at: number; library: Library }>()

  constructor(private readonly services: Pick<JobServices, 'connection'>) {}

  /**
   * The library as it is now, or as it was at most so long ago: somebody who drags a limit asks several times a
   * second. Questions that come while it is read wait for the same answer.
   */
  async open(projectId: string, { within = 0 }: { within?: number } = {}): Promise<Library> {
    const last = this.last.get(projectId)
    if (last && Date.now() - last.at < within) return last.library
    const known = this.reading.get(projectId)
    if (known) return known
    const reading = this.read(projectId)
      .then((library) => {
        this.last.set(projectId, { at: Date.now(), library })
        return library
      })
      .finally(() => this.reading.delete(projectId))
    this.reading.set(projectId, reading)
    return reading
  }

  /** Forgets how the library was just now: its rulebook is another one. */
  forget(projectId: string): void {
    this.last.delete(projectId)
  }

  private async read(projectId: string): Promise<Library> {
    const { db } = this.services.connection
    const context = withKnownRulebook(await assetContext(db, projectId), this.last.get(projectId)?.library)
    const kept = this.kept.get(projectId) ?? new Map<string, KeptAsset>()
    this.kept.delete(projectId)
    this.kept.set(projectId, kept)
    for (const other of [...this.kept.keys()].slice(0, -MOST_PROJECTS)) {
      this.kept.delete(other)
      this.last.delete(other)
    }
    const stamps = await listStamps(db, projectId)
    for (const id of [...kept.keys()]) if (!stamps.has(id)) kept.delete(id)
    const stale = [...stamps].filter(([id, stamp]) => kept.get(id)?.stamp !== stamp).map(([id]) => id)
    for (let k = 0; k < stale.length; k += AT_ONCE)
      for (const one of await readAssets(db, context, stale.slice(k, k + AT_ONCE), stamps))
        kept.set(one.asset.id, one)
    return { context, assets: [...kept.values()] }
  }
}

/** The same object for the same rulebook and waivers: what was worked out by it hangs on it. */
function withKnownRulebook(context: AssetContext, before: Library | undefined): AssetContext {
  const was = before?.context
  const isSame =
    was?.project.rulebookRevision === context.project.rulebookRevision &&
    was.project.waiversRevision === context.project.waiversRevision &&
    was.today === context.today
  return isSame ? { ...context, rulebook: was.rulebook } : context
}

/** What an asset's judgement depends on besides the rulebook, as a text; without those that could not be judged. */
async function listStamps(db: Queryable, projectId: string): Promise<Map<string, string>> {
  const { rows } = await db.execute<{ id: string; stamp: string }>(sql`
    select a.id, concat_ws(' ', v.id, v.output_key, a.class_choice, a.target_choice, a.origin::text, r.revision,
      (select string_agg(coalesce(f.facts_key, f.sha256, ''), ',' order by f.position) from version_files f
        where f.version_id = v.id)) as stamp
    from assets a join versions v on v.asset_id = a.id and v.number = a.current_version
    join recipes r on r.asset_id = a.id
    where a.project_id = ${projectId} and v.state <> 'failed' order by a.id`)
  return new Map(rows.map((r) => [r.id, r.stamp]))
}

async function readAssets(
  db: Queryable,
  context: AssetContext,
  ids: readonly string[],
  stamps: ReadonlyMap<string, string>,
): Promise<KeptAsset[]> {
  const found = await findJudgeables(db, ids)
  const facts = await findFacts(
    db,
    found.flatMap((of) => of.files.flatMap((f) => f.factsKey ?? [])),
  )
  const out: KeptAsset[] = []
  for (const { asset, version, files, recipe } of found) {
    const output =
      activeSteps(recipe).length > 0 && version.outputKey !== null
        ? await findOutput(db, version.outputKey)
        : null
    out.push({
      stamp: stamps.get(asset.id) ?? '',
      asset,
      ...(await loadState(db, { asset, version, files }, output, facts)),
      previous: await previousVersion(db, context, asset, version.number),
    })
  }
  return out
}

/** A piece of work on the main thread ends after so long, that requests are answered in between. */
const PIECE_MS = 20

/** Walks the subjects of a library by a rulebook, a short piece at a time. */
export async function eachSubject(
  { context, assets }: Library,
  rulebook: AssetContext['rulebook'],
  look: (subject: Subject, asset: KeptAsset) => void,
): Promise<void> {
  const own = { ...context, rulebook, offered: new Map<string, string>() }
  let began = performance.now()
  for (const one of assets) {
    look(subjectOf(own, one.asset, one.draft, one.files, one.previous), one)
    if (performance.now() - began < PIECE_MS) continue
    await new Promise((resolve) => setImmediate(resolve))
    began = performance.now()
  }
}
