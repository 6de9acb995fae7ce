import { randomUUID } from 'node:crypto'
import { bad, type BulkChange, type RecipeStep, type SharedRemedy } from '@stern-gate/contract'
import { remedies, rules } from '@stern-gate/core'
import { localPerson } from '../auth/localPerson'
import { FaultReply, notFound } from '../faultReply'
import type { Services } from '../services'
import { getRecipe, saveRecipe } from '../store/assets'
import { bulkBodySchema, findBulkChange, insertBulkChange, listFindingsOfRule, listOffers, markUndone, type BulkBody, type BulkRow } from '../store/bulkChanges'
import { addEvents } from '../store/eventLog'
import type { Queryable } from '../store/database'

type BulkServices = Pick<Services, 'connection' | 'queue'>

const titleOf = (remedy: string): string => remedies.find((r) => r.id === remedy)?.title ?? remedy

/** A bulk change as the API shows it, with how much of it is still to be done. */
export async function bulkReply({ queue }: Pick<Services, 'queue'>, row: BulkRow): Promise<BulkChange> {
  const body = bulkBodySchema.parse(row.body)
  const open = await queue.countOpen(body.assets.map(({ asset }) => `judge:${asset}`))
  return { open, id: row.id, rule: row.rule, remedy: row.remedy, remedyTitle: titleOf(row.remedy), assets: body.assets.length, steps: body.assets.reduce((sum, a) => sum + a.steps, 0), skipped: body.skipped, created: new Date(row.created).toISOString(), undone: row.undone }
}

/** Remedies that the project's assets could take now, each with the assets that have the finding. */
export async function sharedRemedies({ connection: { db } }: BulkServices, projectId: string): Promise<SharedRemedy[]> {
  const shared = new Map<string, SharedRemedy>()
  for (const { rule, remedy, asset, findings } of await listOffers(db, projectId)) {
    const key = `${rule} ${remedy}`
    const known = shared.get(key) ?? { rule, title: rules.find((r) => r.id === rule)?.meta.title ?? rule, remedy, remedyTitle: titleOf(remedy), assets: [] }
    known.assets.push({ asset, findings })
    shared.set(key, known)
  }
  return [...shared.values()].sort((a, b) => b.assets.length - a.assets.length)
}

/** Adds the offered remedy of every such finding to each asset's recipe, as one act. Outputs are made in the background. */
export async function applyToMany(services: BulkServices, projectId: string, { rule, remedy, assets }: { rule: string; remedy: string; assets: readonly string[] }): Promise<BulkRow> {
  const { db } = services.connection
  const row = await db.transaction(async (tx) => {
    const byAsset = await listFindingsOfRule(tx, projectId, rule, assets)
    const body: BulkBody = { assets: [], skipped: 0 }
    for (const asset of assets) {
      const steps = (byAsset.get(asset) ?? []).flatMap((f) => f.remedies.filter((r) => r.remedy === remedy).slice(0, 1)).map((offer): RecipeStep => ({ id: randomUUID(), remedy, options: offer.options, on: true, why: rule }))
      const now = await getRecipe(tx, asset)
      const saved = steps.length > 0 && (await saveRecipe(tx, asset, now.revision, { steps: [...now.recipe.steps, ...steps] }, [...now.history, now.recipe]))
      if (!saved) {
        body.skipped++
        continue
      }
      body.assets.push({ asset, revision: now.revision + 1, steps: steps.length })
    }
    if (body.assets.length === 0) throw new FaultReply(bad('request/conflict', 'None of these assets has that finding any more.', 'Look at the list again; it is newer now.').fault)
    const written = await insertBulkChange(tx, { projectId, by: localPerson.name, rule, remedy, body })
    await tellOf(tx, projectId, body.assets.map((a) => a.asset))
    return written
  })
  await judgeAll(services, bulkBodySchema.parse(row.body))
  return row
}

/** Takes one bulk change back. Recipes that were changed since stay as they are. */
export async function undoMany(services: BulkServices, id: string): Promise<{ row: BulkRow; kept: number }> {
  const { db } = services.connection
  const row = await findBulkChange(db, id)
  if (!row) throw notFound('change')
  if (row.undone) throw new FaultReply(bad('request/conflict', 'It was undone already.', 'There is nothing left to take back.').fault)
  const body = bulkBodySchema.parse(row.body)
  const kept = await db.transaction(async (tx) => {
    const back: string[] = []
    for (const { asset, revision } of body.assets) {
      const now = await getRecipe(tx, asset)
      const last = now.history.at(-1)
      if (now.revision !== revision || !last || !(await saveRecipe(tx, asset, revision, last, now.history.slice(0, -1)))) continue
      back.push(asset)
    }
    await markUndone(tx, id)
    await tellOf(tx, row.projectId, back)
    return body.assets.length - back.length
  })
  await judgeAll(services, body)
  return { row: { ...row, undone: true }, kept }
}

const tellOf = (tx: Queryable, projectId: string, assets: readonly string[]): Promise<void> => addEvents(tx, projectId, assets.map((asset) => ({ kind: 'asset', asset })), localPerson.name)

async function judgeAll({ queue }: BulkServices, { assets }: BulkBody): Promise<void> {
  await queue.addMany('judge_asset', assets.map(({ asset }) => ({ payload: { asset }, key: `judge:${asset}` })))
}
