import type { Router } from 'express'
import * as z from 'zod'
import { sentTimeSchema, bad, cutText, type AssetChoice, type Recipe, routes } from '@stern-gate/contract'
import { findRemedy } from '@stern-gate/core'
import { localPerson } from '../auth/localPerson'
import { deliverKept } from '../jobs/deliverKept'
import { giveOrigin } from '../judging/giveOrigin'
import { assetDetail, previewOf } from '../judging/assetDetail'
import type { Services } from '../services/services'
import {
  findAsset,
  findVersion,
  getRecipe,
  listAssets,
  listVersionFiles,
  saveChoice,
  saveRecipe,
  type AssetRecord,
} from '../store/assets'
import { createDelivery, withProgress } from '../store/deliveries'
import type { Transaction } from '../store/database'
import { addEvent } from '../store/eventLog'
import { findNames } from '../store/findNames'
import { addJudging } from '../store/jobQueue'
import { libraryFacets, libraryIds, libraryPage } from '../store/library'
import { currentRulebook } from '../store/projects'
import { answering } from './answer'
import { FaultReply, notFound, parse } from './faults'
import { projectOf, uuid } from './projectRoutes'

/** The last row of the page before: when it changed, and its id. */
const placeSchema = z
  .string()
  .transform((text) => text.split('|'))
  .pipe(z.tuple([sentTimeSchema, z.uuid()]))
  .optional()

export function assetRoutes(services: Services): Router {
  const { db } = services.connection
  const assetOf = async ({ asset: id }: { asset: string }): Promise<AssetRecord> => {
    const asset = await findAsset(db, uuid(id))
    if (!asset) throw notFound('asset')
    return asset
  }
  /** Keeps a new recipe, tells the pages, and has the output made in the background. */
  const keep = async (asset: AssetRecord, revision: number, recipe: Recipe, history: Recipe[]) => {
    const saved = await db.transaction(async (tx) => {
      if (!(await saveRecipe(tx, asset.id, revision, recipe, history))) return false
      await judgeSoon(tx, asset)
      return true
    })
    if (!saved)
      throw new FaultReply(
        bad(
          'request/conflict',
          'The recipe was changed by somebody else in the meantime.',
          'Look at the new recipe and apply the step again.',
        ).fault,
      )
  }
  const { router, on } = answering()
  on(routes.listAssets, async ({ parts, query }) => {
    const project = await projectOf(db, parts.project)
    const { limit, before } = query
    const [updated, id] = parse(placeSchema, before) ?? []
    const rows = await listAssets(db, project.id, await currentRulebook(db, project), {
      limit,
      before: updated && id ? { updated, id } : null,
    })
    return rows
  })
  on(routes.getLibrary, async ({ parts, query }) => {
    const project = await projectOf(db, parts.project)
    const { sort, offset, limit, ...filter } = query
    const rulebook = await currentRulebook(db, project)
    return libraryPage(db, project.id, rulebook, filter, { sort, offset, limit })
  })
  on(routes.listLibraryIds, async ({ parts, query }) => {
    const project = await projectOf(db, parts.project)
    const { sort, offset: _, limit: _limit, ...filter } = query
    return libraryIds(db, project.id, await currentRulebook(db, project), filter, sort)
  })
  on(routes.getFacets, async ({ parts, query }) => {
    const project = await projectOf(db, parts.project)
    return libraryFacets(db, project.id, await currentRulebook(db, project), query)
  })
  on(routes.findNames, async ({ parts, query }) => {
    const { id } = await projectOf(db, parts.project),
      { find, what } = query
    return findNames(db, id, find, what ?? null)
  })
  on(routes.getAsset, async ({ parts, query }) => assetDetail(services, await assetOf(parts), query.version))
  on(routes.chooseForAsset, async ({ parts, body }) => {
    const asset = await assetOf(parts)
    await checkChoice(services, asset, body)
    await db.transaction(async (tx) => {
      await saveChoice(tx, asset.id, {
        ...(body.class === undefined ? {} : { classChoice: body.class }),
        ...(body.target === undefined ? {} : { targetChoice: body.target }),
      })
      await judgeSoon(tx, asset)
    })
    return assetDetail(services, (await findAsset(db, asset.id))!)
  })
  on(routes.continueAsset, async ({ parts, body }) => {
    const asset = await assetOf(parts)
    const { note } = body
    const version = await findVersion(db, asset.id, asset.currentVersion)
    if (!version) throw notFound('version')
    const files = await listVersionFiles(db, version.id)
    const row = await createDelivery(db, asset.projectId, note, localPerson.name, { files })
    return withProgress(db, row)
  })
  on(routes.keepFromBefore, async ({ parts }) => {
    const asset = await assetOf(parts)
    const kept = await deliverKept(services, asset)
    if (!kept.ok) throw new FaultReply(kept.fault)
    return withProgress(db, { ...kept.value, state: 'measuring' })
  })
  on(routes.setOrigin, async ({ parts, body }) => {
    const project = await projectOf(db, parts.project)
    await checkTerms(services, project.id, body.origin?.terms ?? '')
    return { assets: await giveOrigin(services, project.id, body) }
  })
  on(routes.saveRecipe, async ({ parts, body }) => {
    const asset = await assetOf(parts)
    const { revision, recipe } = body
    checkSteps(recipe)
    const now = await getRecipe(db, asset.id)
    await keep(asset, revision, recipe, [...now.history, now.recipe])
    return assetDetail(services, asset)
  })
  on(routes.undoRecipe, async ({ parts, body }) => {
    const asset = await assetOf(parts)
    const { revision } = body
    const { history } = await getRecipe(db, asset.id)
    const last = history.at(-1)
    if (!last)
      throw new FaultReply(
        bad('request/conflict', 'There is nothing to undo.', 'The recipe is as it was at first.').fault,
      )
    await keep(asset, revision, last, history.slice(0, -1))
    return assetDetail(services, asset)
  })
  on(routes.previewRecipe, async ({ parts, body, response }) => {
    const asset = await assetOf(parts)
    const { recipe } = body
    checkSteps(recipe)
    const gone = new AbortController()
    response.on('close', () => gone.abort())
    const preview = await previewOf(services, asset, recipe, gone.signal)
    if (!preview.ok) throw new FaultReply(preview.fault)
    return preview.value
  })
  return router
}

/** Has a changed asset judged before all that waits, and tells the pages; for the end of a transaction. */
async function judgeSoon(tx: Transaction, asset: AssetRecord): Promise<void> {
  await addJudging(tx, [asset.id], { soon: true })
  await addEvent(tx, asset.projectId, { kind: 'asset', asset: asset.id }, localPerson.name)
}

/** Refuses a class or target that the project's rulebook does not have. */
async function checkChoice(
  { connection: { db } }: Services,
  asset: AssetRecord,
  choice: AssetChoice,
): Promise<void> {
  const project = await projectOf(db, asset.projectId)
  const rulebook = await currentRulebook(db, project)
  for (const [field, known] of [
    ['class', rulebook.classes],
    ['target', rulebook.targets],
  ] as const) {
    const chosen = choice[field]
    if (chosen != null && !Object.hasOwn(known, chosen))
      throw new FaultReply(
        bad(
          'request/invalid',
          `The rulebook has no ${field} of that name.`,
          `Choose one of: ${Object.keys(known).join(', ')}.`,
          { part: field },
        ).fault,
      )
  }
}

/** Refuses terms that the project's rulebook does not have; empty ones are not known. */
async function checkTerms({ connection: { db } }: Services, projectId: string, terms: string): Promise<void> {
  const rulebook = await currentRulebook(db, await projectOf(db, projectId))
  if (terms !== '' && !Object.hasOwn(rulebook.terms, terms))
    throw new FaultReply(
      bad(
        'request/invalid',
        'The rulebook has no terms of that name.',
        `Choose one of: ${Object.keys(rulebook.terms).join(', ')}.`,
        { part: 'origin.terms' },
      ).fault,
    )
}

/** Options are checked at the door, so that no recipe is kept that cannot be applied. */
function checkSteps(recipe: Recipe): void {
  for (const [step, { remedy: id, options }] of recipe.steps.entries()) {
    const remedy = findRemedy(id)
    if (!remedy)
      throw new FaultReply(
        bad('remedy/unknown', `There is no remedy called ${cutText(id, 60, '…')}.`, 'Reload the page.', {
          step,
        }).fault,
      )
    const parsed = remedy.options.safeParse(options)
    if (!parsed.success)
      throw new FaultReply(
        bad(
          'remedy/bad-options',
          `${id}: ${parsed.error.issues[0]!.path.join('.')} ${parsed.error.issues[0]!.message}.`,
          'Correct the option.',
          { step },
        ).fault,
      )
  }
}
