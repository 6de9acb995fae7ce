import { Router, type Request } from 'express'
import * as z from 'zod'
import {
  assetChoiceSchema,
  bad,
  cutText,
  findRequestSchema,
  libraryFilterSchema,
  libraryQuerySchema,
  newDeliverySchema,
  previewRequestSchema,
  saveRecipeSchema,
  undoSchema,
  versionQuerySchema,
  type AssetChoice,
  type Recipe,
} from '@stern-gate/contract'
import { findRemedy } from '@stern-gate/core'
import { localPerson } from '../auth/localPerson'
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
import { FaultReply, notFound, parse, route } from './faults'
import { projectOf, uuid } from './projectRoutes'

const pageSchema = z.object({
  limit: z.coerce.number().int().min(1).max(500).default(200),
  before: z
    .string()
    .transform((text) => text.split('|'))
    .pipe(z.tuple([z.iso.datetime(), z.uuid()]))
    .optional(),
})

export function assetRoutes(services: Services): Router {
  const { db } = services.connection
  const assetOf = async (request: Request): Promise<AssetRecord> => {
    const asset = await findAsset(db, uuid(request.params['asset']))
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
  return Router()
    .get(
      '/projects/:project/assets',
      route(async (request, response) => {
        const project = await projectOf(db, request.params['project'])
        const { limit, before } = parse(pageSchema, request.query)
        const [updated, id] = before ?? []
        const rows = await listAssets(db, project.id, await currentRulebook(db, project), {
          limit,
          before: updated && id ? { updated, id } : null,
        })
        response.json(rows)
      }),
    )
    .get(
      '/projects/:project/library',
      route(async (request, response) => {
        const project = await projectOf(db, request.params['project'])
        const { sort, offset, limit, ...filter } = parse(libraryQuerySchema, request.query)
        const rulebook = await currentRulebook(db, project)
        response.json(await libraryPage(db, project.id, rulebook, filter, { sort, offset, limit }))
      }),
    )
    .get(
      '/projects/:project/library/ids',
      route(async (request, response) => {
        const project = await projectOf(db, request.params['project'])
        const { sort, offset: _, limit: _limit, ...filter } = parse(libraryQuerySchema, request.query)
        response.json(await libraryIds(db, project.id, await currentRulebook(db, project), filter, sort))
      }),
    )
    .get(
      '/projects/:project/facets',
      route(async (request, response) => {
        const project = await projectOf(db, request.params['project'])
        const filter = parse(libraryFilterSchema, request.query)
        response.json(await libraryFacets(db, project.id, await currentRulebook(db, project), filter))
      }),
    )
    .get(
      '/projects/:project/names',
      route(async (request, response) => {
        const { id } = await projectOf(db, request.params['project']),
          { find, what } = parse(findRequestSchema, request.query)
        response.json(await findNames(db, id, find, what ?? null))
      }),
    )
    .get(
      '/assets/:asset',
      route(async (request, response) => {
        response.json(
          await assetDetail(
            services,
            await assetOf(request),
            parse(versionQuerySchema, request.query).version,
          ),
        )
      }),
    )
    .patch(
      '/assets/:asset',
      route(async (request, response) => {
        const asset = await assetOf(request)
        const choice = parse(assetChoiceSchema, request.body)
        await checkChoice(services, asset, choice)
        await db.transaction(async (tx) => {
          await saveChoice(tx, asset.id, {
            ...(choice.class === undefined ? {} : { classChoice: choice.class }),
            ...(choice.target === undefined ? {} : { targetChoice: choice.target }),
          })
          await judgeSoon(tx, asset)
        })
        response.json(await assetDetail(services, (await findAsset(db, asset.id))!))
      }),
    )
    .post(
      '/assets/:asset/deliveries',
      route(async (request, response) => {
        const asset = await assetOf(request)
        const { note } = parse(newDeliverySchema, request.body)
        const version = await findVersion(db, asset.id, asset.currentVersion)
        if (!version) throw notFound('version')
        const files = await listVersionFiles(db, version.id)
        const row = await createDelivery(db, asset.projectId, note, localPerson.name, { files })
        response.status(201).json(await withProgress(db, row))
      }),
    )
    .put(
      '/assets/:asset/recipe',
      route(async (request, response) => {
        const asset = await assetOf(request)
        const { revision, recipe } = parse(saveRecipeSchema, request.body)
        checkSteps(recipe)
        const now = await getRecipe(db, asset.id)
        await keep(asset, revision, recipe, [...now.history, now.recipe])
        response.json(await assetDetail(services, asset))
      }),
    )
    .post(
      '/assets/:asset/undo',
      route(async (request, response) => {
        const asset = await assetOf(request)
        const { revision } = parse(undoSchema, request.body)
        const { history } = await getRecipe(db, asset.id)
        const last = history.at(-1)
        if (!last)
          throw new FaultReply(
            bad('request/conflict', 'There is nothing to undo.', 'The recipe is as it was at first.').fault,
          )
        await keep(asset, revision, last, history.slice(0, -1))
        response.json(await assetDetail(services, asset))
      }),
    )
    .post(
      '/assets/:asset/preview',
      route(async (request, response) => {
        const asset = await assetOf(request)
        const { recipe } = parse(previewRequestSchema, request.body)
        checkSteps(recipe)
        const gone = new AbortController()
        response.on('close', () => gone.abort())
        const preview = await previewOf(services, asset, recipe, gone.signal)
        if (!preview.ok) throw new FaultReply(preview.fault)
        response.json(preview.value)
      }),
    )
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
