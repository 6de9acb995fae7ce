import { activeSteps, type Finding, type RenamePlan } from '@stern-gate/contract'
import { findRemedy, renameFollows, resolveSurfaces, type Subject } from '@stern-gate/core'
import type { Services } from '../services/services'
import { listFindingsWithRemedy } from '../store/bulkChanges'
import { findJudgeables, type Judgeable } from '../store/judgements'
import { findOutput } from '../store/outputs'
import { assetContext, subjectOf, type AssetContext } from './assetContext'
import { draftOf, draftOfOutput } from './drafts'
import { outputKey } from './makeOutput'
import { measuredFiles } from './measuredFiles'

export const RENAME = 'names/rename'

/**
 * What the findings of these assets propose to rename, with all that would go along; nothing is changed. Each
 * thing stands once; what goes along with its asset does not stand by itself.
 */
export async function renamePlan(
  services: Pick<Services, 'connection'>,
  projectId: string,
  assetIds: readonly string[],
): Promise<RenamePlan[]> {
  const { db } = services.connection
  const found = await listFindingsWithRemedy(db, projectId, RENAME, assetIds)
  if (found.size === 0) return []
  const context = await assetContext(db, projectId)
  const plans: RenamePlan[] = []
  for (const of of await findJudgeables(db, [...found.keys()])) {
    const subject = await subjectNow(services, context, of)
    const renames = renamesOf(subject, found.get(of.asset.id) ?? [])
    if (renames.length > 0) plans.push({ asset: of.asset.id, name: subject.name, renames })
  }
  return plans.sort((a, b) => (a.name < b.name ? -1 : 1))
}

/** The asset as its output is; while that is being made, as it came. */
async function subjectNow(
  { connection: { db } }: Pick<Services, 'connection'>,
  context: AssetContext,
  { asset, version, files, recipe }: Judgeable,
): Promise<Subject> {
  const output =
    activeSteps(recipe).length > 0
      ? await findOutput(db, outputKey(files, resolveSurfaces(recipe, context.rulebook.surfaces)))
      : null
  if (!output)
    return subjectOf(context, asset, draftOf(asset, version, files), (await measuredFiles(db, files)).files)
  return subjectOf(
    context,
    asset,
    draftOfOutput(asset, version, output),
    (
      await measuredFiles(
        db,
        output.files.map((f) => ({ ...f, fault: null })),
      )
    ).files,
  )
}

const optionsOf = findRemedy(RENAME)!.options

function renamesOf(subject: Subject, findings: readonly Finding[]): RenamePlan['renames'] {
  const renames = new Map<string, RenamePlan['renames'][number]>()
  for (const { rule, remedies: offers } of findings)
    for (const offer of offers) {
      if (offer.remedy !== RENAME) continue
      const { what, from, to } = optionsOf.parse(offer.options) as Pick<
        RenamePlan['renames'][number],
        'what' | 'from' | 'to'
      >
      const key = `${what} ${from}`
      if (!renames.has(key))
        renames.set(key, { rule, what, from, to, follows: renameFollows(subject, { what, from }) })
    }
  const along = [...renames.values()].filter((r) => r.what === 'asset').flatMap((r) => r.follows)
  return [...renames.values()]
    .filter((r) => !along.some((f) => f.what === r.what && f.from === r.from))
    .sort((a, b) => Number(b.what === 'asset') - Number(a.what === 'asset'))
}
