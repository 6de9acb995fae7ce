import { randomUUID } from 'node:crypto'
import {
  bad,
  cutText,
  optionsOfOffer,
  type BulkChange,
  type BulkRequest,
  type RecipeStep,
  type SharedRemedy,
} from '@stern-gate/contract'
import { findRemedy, rules } from '@stern-gate/core'
import { localPerson } from '../auth/localPerson'
import { FaultReply, notFound } from '../trouble/faultReply'
import type { JobServices } from '../services/services'
import { getRecipe, listAssetIds, saveRecipe } from '../store/assets'
import {
  bulkBodySchema,
  findBulkChange,
  insertBulkChange,
  listFindingsOfRule,
  listOffers,
  markUndone,
  type BulkBody,
  type BulkRow,
} from '../store/bulkChanges'
import { addEvents } from '../store/eventLog'
import type { Queryable, Transaction } from '../store/database'
import { addJudging, countOpenJobs } from '../store/jobQueue'
import { lockAssets } from '../store/versionStates'

type BulkServices = Pick<JobServices, 'connection'>

const titleOf = (remedy: string): string => findRemedy(remedy)?.title ?? remedy

/** A bulk change as the API shows it, with how much of it is still to be done. */
export async function bulkReply({ connection: { db } }: BulkServices, row: BulkRow): Promise<BulkChange> {
  const body = bulkBodySchema.parse(row.body)
  const open = await countOpenJobs(
    db,
    body.assets.map(({ asset }) => `judge:${asset}`),
  )
  return {
    open,
    id: row.id,
    rule: row.rule,
    remedy: row.remedy,
    remedyTitle: titleOf(row.remedy),
    assets: body.assets.length,
    steps: body.assets.reduce((sum, a) => sum + a.steps, 0),
    skipped: body.skipped,
    created: new Date(row.created).toISOString(),
    undone: row.undone,
  }
}

/** Remedies that the project's assets could take now, each with the assets that have the finding. */
export async function sharedRemedies(
  { connection: { db } }: BulkServices,
  projectId: string,
): Promise<SharedRemedy[]> {
  const shared = new Map<string, SharedRemedy>()
  for (const { rule, remedy, asset, findings } of await listOffers(db, projectId)) {
    const key = `${rule} ${remedy}`
    const known = shared.get(key) ?? {
      rule,
      title: rules.find((r) => r.id === rule)?.meta.title ?? rule,
      remedy,
      remedyTitle: titleOf(remedy),
      assets: [],
    }
    known.assets.push({ asset, findings })
    shared.set(key, known)
  }
  return [...shared.values()].sort((a, b) => b.assets.length - a.assets.length)
}

type Steps = Pick<RecipeStep, 'options' | 'why'>[]

/**
 * Adds the offered remedy of every such finding, or the steps that a person looked over, to each asset's
 * recipe, as one act. Outputs are made in the background.
 */
export async function applyToMany(
  services: BulkServices,
  projectId: string,
  request: BulkRequest,
): Promise<BulkRow> {
  const { db } = services.connection,
    { remedy } = request
  return db.transaction(async (tx) => {
    const wanted =
      'steps' in request
        ? await stepsByAsset(tx, projectId, request)
        : await offeredSteps(tx, projectId, request)
    const body: BulkBody = { assets: [], skipped: 0 }
    await lockAssets(tx, [...wanted.keys()])
    for (const [asset, own] of wanted) {
      const steps = own.map((step): RecipeStep => ({ id: randomUUID(), remedy, on: true, ...step }))
      const now = await getRecipe(tx, asset)
      const saved =
        steps.length > 0 &&
        (await saveRecipe(tx, asset, now.revision, { steps: [...now.recipe.steps, ...steps] }, [
          ...now.history,
          now.recipe,
        ]))
      if (!saved) {
        body.skipped++
        continue
      }
      body.assets.push({ asset, revision: now.revision + 1, steps: steps.length })
    }
    if (body.assets.length === 0)
      throw new FaultReply(
        bad(
          'request/conflict',
          'None of these assets has that finding any more.',
          'Look at the list again; it is newer now.',
        ).fault,
      )
    const rule = 'steps' in request ? [...new Set(request.steps.map((s) => s.rule))].join(' ') : request.rule
    const written = await insertBulkChange(tx, { projectId, by: localPerson.name, rule, remedy, body })
    await judgeAndTell(
      tx,
      projectId,
      body.assets.map((a) => a.asset),
    )
    return written
  })
}

/** What findings of the rule offer now. */
async function offeredSteps(
  tx: Queryable,
  projectId: string,
  { rule, remedy, assets }: Extract<BulkRequest, { rule: string }>,
): Promise<Map<string, Steps>> {
  const byAsset = await listFindingsOfRule(tx, projectId, rule, assets)
  return new Map(
    assets.map((asset) => [
      asset,
      (byAsset.get(asset) ?? [])
        .flatMap((f) => f.remedies.filter((r) => r.remedy === remedy).slice(0, 1))
        .flatMap(optionsOfOffer)
        .map((options) => ({ options, why: rule })),
    ]),
  )
}

/**
 * The steps as they were sent, for assets of the project. Throws a reply where the remedy does not take their
 * options.
 */
async function stepsByAsset(
  tx: Queryable,
  projectId: string,
  { remedy, steps }: Extract<BulkRequest, { steps: unknown }>,
): Promise<Map<string, Steps>> {
  const schema = findRemedy(remedy)?.options
  if (!schema)
    throw new FaultReply(
      bad(
        'remedy/unknown',
        `There is no remedy ${cutText(remedy, 80, '…')}.`,
        'Take one of GET /api/remedies.',
      ).fault,
    )
  const known = new Set(await listAssetIds(tx, projectId))
  const byAsset = new Map<string, Steps>()
  for (const { asset, rule, options } of steps) {
    const checked = schema.safeParse(options)
    if (!checked.success)
      throw new FaultReply(
        bad(
          'remedy/bad-options',
          `The remedy does not take these options: ${checked.error.issues[0]!.message}.`,
          'Change the row and send it again.',
          { part: cutText(JSON.stringify(options), 160, '…') },
        ).fault,
      )
    if (known.has(asset)) byAsset.set(asset, [...(byAsset.get(asset) ?? []), { options, why: rule }])
  }
  return byAsset
}

/** Takes one bulk change back. Recipes that were changed since stay as they are. */
export async function undoMany(services: BulkServices, id: string): Promise<{ row: BulkRow; kept: number }> {
  const { db } = services.connection
  const row = await findBulkChange(db, id)
  if (!row) throw notFound('change')
  if (row.undone)
    throw new FaultReply(
      bad('request/conflict', 'It was undone already.', 'There is nothing left to take back.').fault,
    )
  const body = bulkBodySchema.parse(row.body)
  const kept = await db.transaction(async (tx) => {
    const back: string[] = []
    await lockAssets(
      tx,
      body.assets.map((a) => a.asset),
    )
    for (const { asset, revision } of body.assets) {
      const now = await getRecipe(tx, asset)
      const last = now.history.at(-1)
      if (
        now.revision !== revision ||
        !last ||
        !(await saveRecipe(tx, asset, revision, last, now.history.slice(0, -1)))
      )
        continue
      back.push(asset)
    }
    await markUndone(tx, id)
    await judgeAndTell(tx, row.projectId, back)
    return body.assets.length - back.length
  })
  return { row: { ...row, undone: true }, kept }
}

async function judgeAndTell(tx: Transaction, projectId: string, assets: readonly string[]): Promise<void> {
  await addJudging(tx, assets)
  await addEvents(
    tx,
    projectId,
    assets.map((asset) => ({ kind: 'asset', asset })),
    localPerson.name,
  )
}
