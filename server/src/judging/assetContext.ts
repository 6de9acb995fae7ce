import { originSchema, type Origin, type Rulebook, type Waiver } from '@stern-gate/contract'
import {
  buildSubject,
  commonFamily,
  judge,
  rules,
  type AssetDraft,
  type Judgement,
  type MeasuredFile,
  type Rule,
  type Subject,
} from '@stern-gate/core'
import type { Queryable } from '../store/database'
import { listAssetNames, type AssetRecord } from '../store/assets'
import { currentRulebook, findProject, type ProjectRow } from '../store/projects'
import { listWaivers, waiverOf, type WaiverRow } from '../store/waivers'
import { invariant } from '@stern-gate/contract'

/**
 * What judging an asset of a project needs besides its files; the same for all of them, as long as no name
 * changes.
 */
export interface AssetContext {
  project: ProjectRow
  rulebook: Rulebook
  taken: ReadonlySet<string>
  /** Names that were offered to assets judged with it, by who got them: none is offered to two. */
  offered: Map<string, string>
  family: string | null
  /** Waivers by the asset that they are for, and those that reach further. */
  waivers: { byAsset: ReadonlyMap<string, Waiver[]>; further: readonly Waiver[] }
  /** The day that decides which of them have ended. */
  today: string
}

export async function assetContext(db: Queryable, projectId: string): Promise<AssetContext> {
  const project = await findProject(db, projectId)
  invariant(project, 'an asset has a project')
  const names = await listAssetNames(db, projectId)
  return {
    project,
    rulebook: await currentRulebook(db, project),
    taken: new Set(names),
    offered: new Map(),
    family: commonFamily(names),
    waivers: sortedWaivers(await listWaivers(db, projectId)),
    today: new Date().toISOString().slice(0, 10),
  }
}

function sortedWaivers(rows: readonly WaiverRow[]): AssetContext['waivers'] {
  const byAsset = new Map<string, Waiver[]>(),
    further: Waiver[] = []
  for (const row of rows) {
    const list = row.assetId === null ? further : (byAsset.get(row.assetId) ?? [])
    list.push(waiverOf(row))
    if (row.assetId !== null) byAsset.set(row.assetId, list)
  }
  return { byAsset, further }
}

/** Judges what the rules see of an asset, with the waivers of its project. */
export const judgeIn = (
  { waivers, today }: Pick<AssetContext, 'waivers' | 'today'>,
  asset: string,
  subject: Subject,
  by: readonly Rule[] = rules,
): Judgement => {
  const own = waivers.byAsset.get(asset) ?? []
  return judge(subject, by, { asset, today, waivers: [...own, ...waivers.further] })
}

/** An origin as it was stored; null: nobody said one. */
export const readOrigin = (stored: unknown): Origin | null => originSchema.nullable().parse(stored ?? null)

/** What the rules see of one asset in its project. */
export function subjectOf(
  context: AssetContext,
  asset: Pick<AssetRecord, 'id' | 'classChoice' | 'targetChoice' | 'origin'>,
  draft: AssetDraft,
  files: readonly MeasuredFile[],
  previous: Subject['previous'] = null,
): Subject {
  return buildSubject(draft, files, {
    rulebook: context.rulebook,
    targetName: asset.targetChoice ?? context.project.target,
    classChoice: asset.classChoice,
    taken: context.taken,
    offered: { has: (name) => (context.offered.get(name) ?? asset.id) !== asset.id },
    family: context.family,
    previous,
    origin: readOrigin(asset.origin),
  })
}
