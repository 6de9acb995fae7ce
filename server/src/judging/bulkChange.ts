import { randomUUID } from 'node:crypto'
import {
  bad,
  cutText,
  EVERY_SAFE,
  optionsOfOffer,
  type BulkChange,
  type BulkRequest,
  type Offers,
  type RecipeStep,
} from '@stern-gate/contract'
import { findRemedy, rules } from '@stern-gate/core'
import { localPerson } from '../auth/localPerson'
import type { JobServices } from '../services/services'
import {
  bulkRemedy,
  bulkRule,
  countOffering,
  countOffers,
  emptyBody,
  findBulkChange,
  insertBulkChange,
  listFindingsOfAssets,
  listFindingsOfRule,
  lockBulkChange,
  lockRecipes,
  moveBulkChange,
  readBulkBody,
  saveRecipes,
  type BulkBody,
  type BulkRow,
  type HeldRecipe,
} from '../store/bulkChanges'
import type { Database, Queryable, Transaction } from '../store/database'
import { addEvents } from '../store/eventLog'
import { addBulkWork, addJudging, countOpenJobs } from '../store/jobQueue'
import { FaultReply, notFound } from '../trouble/faultReply'
import { restoreSets, takeOutJoined } from './undoPairing'
import { safeStepsOf } from './mendSafely'
import { RENAME } from './renamePlan'

type BulkServices = Pick<JobServices, 'connection'>

/** So many assets are changed by one transaction; the first of them before the request is answered. */
const SLICE = 500

const titleOf = (remedy: string): string =>
  remedy === EVERY_SAFE ? 'What is safe' : (findRemedy(remedy)?.title ?? remedy)

/** A bulk change as the API shows it, with how much of it is still to be done. */
export async function bulkReply({ connection: { db } }: BulkServices, row: BulkRow): Promise<BulkChange> {
  const body = readBulkBody(row)
  const open = await countOpenJobs(
    db,
    body.assets.map(({ asset }) => `judge:${asset}`),
  )
  const remedy = bulkRemedy(row)
  return {
    open,
    id: row.id,
    rule: bulkRule(row),
    remedy,
    remedyTitle: titleOf(remedy),
    state: row.state,
    done: body.next,
    total:
      row.state === 'undoing' ? body.assets.length : body.request ? assetsOf(body.request).length : body.next,
    assets: body.assets.length,
    steps: body.assets.reduce((sum, a) => sum + a.steps, 0),
    skipped: body.skipped,
    kept: body.kept,
    created: new Date(row.created).toISOString(),
    undone: row.undone,
  }
}

/** Remedies that the chosen assets could take now, and how many names of theirs could be others. */
export async function offersOf(
  { connection: { db } }: BulkServices,
  projectId: string,
  ids: readonly string[],
): Promise<Offers> {
  const counts = await countOffers(db, projectId, ids)
  return {
    remedies: counts
      .filter((c) => c.remedy !== RENAME)
      .map(({ rule, remedy, assets, findings }) => ({
        rule,
        title: rules.find((r) => r.id === rule)?.meta.title ?? rule,
        remedy,
        remedyTitle: titleOf(remedy),
        assets,
        findings,
      })),
    renamed: await countOffering(db, projectId, ids, RENAME),
  }
}

/** Assets of a request, each once, in the order in which they are changed. */
const assetsOf = (request: BulkRequest): string[] => [
  ...new Set('steps' in request ? request.steps.map((s) => s.asset) : request.assets),
]

/**
 * Adds the offered remedy of every such finding, or the steps that a person looked over, to each asset's
 * recipe, as one act: the first few hundred at once, the others in the background, and outputs there too.
 */
export async function applyToMany(
  services: BulkServices,
  projectId: string,
  request: BulkRequest,
): Promise<BulkRow> {
  if ('steps' in request) checkSteps(request)
  const { db } = services.connection,
    remedy = 'safe' in request ? EVERY_SAFE : request.remedy
  const rule =
    'steps' in request
      ? [...new Set(request.steps.map((s) => s.rule))].join(' ')
      : 'safe' in request
        ? ''
        : request.rule
  const id = await db.transaction(async (tx) => {
    const row = await insertBulkChange(tx, {
      projectId,
      by: localPerson.name,
      rule,
      remedy,
      body: { ...emptyBody, request },
    })
    const { body, more } = await applySlice(tx, row)
    if (body.assets.length === 0 && !more)
      throw new FaultReply(
        bad(
          'request/conflict',
          'None of these assets has that finding any more.',
          'Look at the list again; it is newer now.',
        ).fault,
      )
    if (more) await addBulkWork(tx, row.id)
    return row.id
  })
  return (await findBulkChange(db, id))!
}

/** Goes on with a change, or with taking it back, until it is done; each slice is a transaction of its own. */
export async function continueBulkChange(db: Database, id: string, signal: AbortSignal): Promise<void> {
  for (let more = true; more;) {
    signal.throwIfAborted()
    more = await db.transaction(async (tx) => {
      const row = await lockBulkChange(tx, id)
      if (row?.state === 'working') return (await applySlice(tx, row)).more
      if (row?.state === 'undoing') return (await undoSlice(tx, row)).more
      return false
    })
  }
}

/** Changes the next few hundred assets. */
async function applySlice(tx: Transaction, row: BulkRow): Promise<{ body: BulkBody; more: boolean }> {
  const body = readBulkBody(row),
    all = body.request ? assetsOf(body.request) : [],
    ids = all.slice(body.next, body.next + SLICE)
  const steps = body.request ? await stepsOf(tx, row.projectId, body.request, ids) : new Map<string, Step[]>()
  const held = await lockRecipes(tx, row.projectId, ids),
    changed = new Map<string, HeldRecipe>()
  for (const id of ids) {
    const now = held.get(id),
      own = steps.get(id) ?? []
    if (!now || own.length === 0) {
      body.skipped++
      continue
    }
    const added = own.map((step): RecipeStep => ({ id: randomUUID(), remedy: row.remedy, on: true, ...step }))
    changed.set(id, {
      revision: now.revision,
      recipe: { steps: [...now.recipe.steps, ...added] },
      history: [...now.history, now.recipe],
    })
    body.assets.push({ asset: id, revision: now.revision + 1, steps: own.length })
  }
  body.next += ids.length
  const more = body.next < all.length
  // Thousands of ids that nobody asks for again
  if (!more) body.request = null
  await saveRecipes(tx, changed)
  await moveBulkChange(tx, row.id, { state: more ? 'working' : 'done', body })
  await judgeAndTell(tx, row.projectId, [...changed.keys()])
  return { body, more }
}

type Step = Pick<RecipeStep, 'options' | 'why'> & Partial<Pick<RecipeStep, 'remedy'>>

/** The steps that some assets get: as they were sent, or what findings of the rule offer now. */
async function stepsOf(
  tx: Queryable,
  projectId: string,
  request: BulkRequest,
  ids: readonly string[],
): Promise<Map<string, Step[]>> {
  if ('steps' in request) {
    const wanted = new Set(ids),
      byAsset = new Map<string, Step[]>()
    for (const { asset, rule, options } of request.steps)
      if (wanted.has(asset)) byAsset.set(asset, [...(byAsset.get(asset) ?? []), { options, why: rule }])
    return byAsset
  }
  if ('safe' in request) {
    const found = await listFindingsOfAssets(tx, projectId, ids)
    return new Map([...found].map(([asset, own]) => [asset, safeStepsOf(own, request.without)]))
  }
  const { rule, remedy } = request
  const found = await listFindingsOfRule(tx, projectId, rule, ids)
  return new Map(
    [...found].map(([asset, findings]) => [
      asset,
      findings
        .flatMap((f) => f.remedies.filter((r) => r.remedy === remedy).slice(0, 1))
        .flatMap(optionsOfOffer)
        .map((options) => ({ options, why: rule })),
    ]),
  )
}

/** Throws a reply where the remedy does not take the options of some step. */
function checkSteps({ remedy, steps }: Extract<BulkRequest, { steps: unknown }>): void {
  const schema = findRemedy(remedy)?.options
  if (!schema)
    throw new FaultReply(
      bad(
        'remedy/unknown',
        `There is no remedy ${cutText(remedy, 80, '…')}.`,
        'Take one of GET /api/remedies.',
      ).fault,
    )
  for (const { options } of steps) {
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
  }
}

/** Takes one bulk change back, the first few hundred assets at once. Recipes changed since stay as they are. */
export async function undoMany(services: BulkServices, id: string): Promise<BulkRow> {
  const { db } = services.connection
  await db.transaction(async (tx) => {
    const row = await lockBulkChange(tx, id)
    if (!row) throw notFound('change')
    if (row.undone || row.state === 'undoing')
      throw new FaultReply(
        bad('request/conflict', 'It was undone already.', 'There is nothing left to take back.').fault,
      )
    // What was not done yet stays undone
    const { more } = await undoSlice(tx, { ...row, body: { ...readBulkBody(row), next: 0 } })
    if (more) await addBulkWork(tx, id)
  })
  return (await findBulkChange(db, id))!
}

async function undoSlice(tx: Transaction, row: BulkRow): Promise<{ more: boolean }> {
  const body = readBulkBody(row),
    slice = body.assets.slice(body.next, body.next + SLICE)
  const held = await lockRecipes(
      tx,
      row.projectId,
      slice.map((a) => a.asset),
    ),
    back = new Map<string, HeldRecipe>()
  for (const { asset, revision } of slice) {
    const now = held.get(asset),
      last = now?.history.at(-1)
    if (!now || !last || now.revision !== revision) {
      body.kept++
      continue
    }
    back.set(asset, { revision, recipe: last, history: now.history.slice(0, -1) })
  }
  body.next += slice.length
  const more = body.next < body.assets.length
  await saveRecipes(tx, back)
  await takeOutJoined(tx, body, new Set(back.keys()))
  const made = more ? [] : await restoreSets(tx, row.projectId, body)
  await moveBulkChange(tx, row.id, { state: more ? 'undoing' : 'done', body, undone: !more })
  await judgeAndTell(tx, row.projectId, [...back.keys(), ...made])
  return { more }
}

/** Queues assets to be judged anew, and tells the pages. */
export async function judgeAndTell(
  tx: Transaction,
  projectId: string,
  assets: readonly string[],
): Promise<void> {
  if (assets.length === 0) return
  await addJudging(tx, assets)
  await addEvents(
    tx,
    projectId,
    assets.map((asset) => ({ kind: 'asset', asset })),
    localPerson.name,
  )
}
