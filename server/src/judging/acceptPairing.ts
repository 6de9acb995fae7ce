import { randomUUID } from 'node:crypto'
import { bad, type AcceptPairing, type Recipe } from '@stern-gate/contract'
import {
  FEED,
  fileName,
  ownerOfId,
  pairingProblem,
  planFeeding,
  textureId,
  withFeeding,
  type Feeding,
} from '@stern-gate/core'
import { localPerson } from '../auth/localPerson'
import type { JobServices } from '../services/services'
import {
  emptyBody,
  findBulkChange,
  insertBulkChange,
  lockRecipes,
  moveBulkChange,
  saveRecipes,
  type BulkBody,
  type BulkRow,
  type HeldRecipe,
  type StoredFile,
} from '../store/bulkChanges'
import type { Transaction } from '../store/database'
import type { Judgeable } from '../store/judgements'
import { countVersions, joinFiles, storedFile } from '../store/pairings'
import { removeAssets } from '../store/scenes'
import { FaultReply } from '../trouble/faultReply'
import { judgeAndTell } from './bulkChange'
import { pairedAssets, type PairedRows } from './pairedAssets'

/**
 * Gives textures to slots, as one act: textures of other assets join the mesh, its recipe gets a step for each slot,
 * and a texture set of which everything joined is no asset of its own any more. Throws a reply where nothing of it
 * is there any more.
 */
export async function acceptPairing(
  { connection: { db } }: Pick<JobServices, 'connection'>,
  projectId: string,
  { cells }: AcceptPairing,
): Promise<BulkRow> {
  const ids = [...new Set(cells.flatMap((c) => [c.slot, c.texture ?? []].flat().map(ownerOfId)))]
  const id = await db.transaction(async (tx) => {
    const held = await lockRecipes(tx, projectId, ids)
    const paired = await pairedAssets(tx, projectId, [...held.keys()])
    const plan = planFeeding(paired.assets, pairingProblem(paired.assets).textures, cells)
    if (plan.length === 0)
      throw new FaultReply(
        bad(
          'request/conflict',
          'Neither these slots nor these textures are there any more.',
          'Load the page again; somebody was faster.',
        ).fault,
      )
    const body: BulkBody = { ...emptyBody, next: cells.length, assets: [], joined: [] }
    const changed = new Map<string, HeldRecipe>()
    for (const feeding of plan) {
      const asset = feeding.asset.id!
      changed.set(asset, await feedAsset(tx, feeding, held.get(asset)!, paired, body))
    }
    const emptied = await emptiedSets(tx, plan, paired)
    body.emptied = emptied.map(asItWas)
    await removeAssets(
      tx,
      emptied.map((row) => row.asset.id),
    )
    await saveRecipes(tx, changed)
    const row = await insertBulkChange(tx, {
      projectId,
      by: localPerson.name,
      rule: 'slots/missing-input',
      remedy: FEED,
      body,
    })
    await moveBulkChange(tx, row.id, { state: 'done', body })
    await judgeAndTell(tx, projectId, [...changed.keys()])
    return row.id
  })
  return (await findBulkChange(db, id))!
}

/** Lets textures join one mesh and gives it its new recipe; what is done is noted in the body. */
async function feedAsset(
  tx: Transaction,
  { asset, join, steps }: Feeding,
  { revision, recipe, history }: HeldRecipe,
  { rows }: PairedRows,
  body: BulkBody,
): Promise<HeldRecipe> {
  const id = asset.id!,
    version = rows.get(id)!.version.id
  const files = join.map(({ texture, path }) => ({
    ...fileOf(rows.get(texture.owner!)!, texture.path),
    path,
  }))
  await joinFiles(tx, version, files)
  for (const { path } of files) body.joined.push({ asset: id, version, path })
  const mended = join.flatMap(({ texture, name }) =>
    stepsOfTexture(rows.get(texture.owner!)!, fileName(texture.path), name),
  )
  const next = withFeeding(
    { ...recipe, steps: [...recipe.steps, ...mended] },
    steps.map((step) => ({ id: randomUUID(), ...step })),
  )
  body.assets.push({ asset: id, revision: revision + 1, steps: steps.length })
  return { revision, recipe: next, history: [...history, recipe] }
}

const fileOf = ({ files }: Judgeable, path: string): StoredFile =>
  storedFile(files.find((f) => f.path === path)!)

/** Steps that a texture set had for one of its textures, by its name in the mesh: what was mended stays mended. */
const stepsOfTexture = (owner: Judgeable, was: string, name: string): Recipe['steps'] =>
  owner.asset.kind === 'texture-set'
    ? owner.recipe.steps
        .filter((s) => s.options['texture'] === was)
        .map((s) => ({ ...s, id: randomUUID(), options: { ...s.options, texture: name } }))
    : []

/** Texture sets of one version all of whose textures joined a mesh. */
async function emptiedSets(
  tx: Transaction,
  plan: readonly Feeding[],
  { assets, rows }: PairedRows,
): Promise<Judgeable[]> {
  const joined = new Set(plan.flatMap((p) => p.join.map((j) => j.texture.id)))
  const sets = assets
    .filter((asset) => asset.subject.kind === 'texture-set')
    .filter((asset) => rows.get(asset.id!)!.files.every((f) => joined.has(textureId(asset, f.path))))
    .map((asset) => rows.get(asset.id!)!)
  const versions = await countVersions(
    tx,
    sets.map((s) => s.asset.id),
  )
  return sets.filter((s) => versions.get(s.asset.id) === 1)
}

const asItWas = ({ asset, version, files, recipe }: Judgeable): BulkBody['emptied'][number] => ({
  name: asset.name,
  delivery: version.deliveryId,
  main: version.main,
  by: version.by,
  created: version.created,
  files: files.map(storedFile),
  recipe,
})
