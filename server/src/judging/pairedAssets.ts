import { setImmediate as nextTurn } from 'node:timers/promises'
import { decisionsOfRecipe, linearToSrgb, pairingProblem, slotId, type PairedAsset } from '@stern-gate/core'
import type { PairingTable } from '@stern-gate/contract'
import type { Queryable } from '../store/database'
import { findFacts } from '../store/factsStore'
import { findJudgeables, type Judgeable } from '../store/judgements'
import { listMeshesOfDelivery, listTextureSets, listWaitingMeshes } from '../store/pairings'
import { assetContext, subjectOf } from './assetContext'
import { draftOf } from './drafts'
import { withFacts, type KnownFacts } from './measuredFiles'

/** So many meshes and texture sets are paired at once; the newest of each. */
const MOST_MESHES = 500
const MOST_SETS = 1500

/** So many are read in one go. */
const AT_ONCE = 10

/** Assets of a project as pairing sees them, with the rows behind them. */
export interface PairedRows {
  assets: PairedAsset[]
  rows: Map<string, Judgeable>
  facts: KnownFacts
}

const UUID = /^[0-9a-f]{8}(-[0-9a-f]{4}){3}-[0-9a-f]{12}$/

/** Reads assets as they arrived, with the recipes that they have now. */
export async function pairedAssets(
  db: Queryable,
  projectId: string,
  ids: readonly string[],
): Promise<PairedRows> {
  const rows = (await findJudgeables(db, ids)).filter((r) => r.asset.projectId === projectId)
  const facts = await findFacts(
    db,
    rows.flatMap((r) => r.files.flatMap((f) => f.factsKey ?? [])),
  )
  const context = await assetContext(db, projectId)
  const assets: PairedAsset[] = []
  for (const { asset, version, files, recipe } of rows) {
    assets.push({
      id: asset.id,
      subject: subjectOf(context, asset, draftOf(asset, version, files), withFacts(files, facts)),
      recipe,
    })
    // Hundreds of them take seconds, in which other requests are answered
    if (assets.length % AT_ONCE === 0) await nextTurn()
  }
  return {
    assets,
    rows: new Map(rows.map((r) => [r.asset.id, r])),
    facts,
  }
}

/** What waits in a project, or came by one delivery, with all texture sets that could be for it. */
export async function pairingTable(
  db: Queryable,
  projectId: string,
  { delivery, also = '' }: { delivery?: string | undefined; also?: string | undefined },
): Promise<PairingTable> {
  const ofDelivery = delivery === undefined ? [] : await listMeshesOfDelivery(db, projectId, delivery)
  // A delivery of textures alone is for meshes that came before
  const waiting = ofDelivery.length > 0 ? ofDelivery : await listWaitingMeshes(db, projectId)
  const further = also.split(',').filter((id) => UUID.test(id) && !waiting.some((m) => m.id === id))
  const meshes = [...further.map((id) => ({ id })), ...waiting]
  const sets = await listTextureSets(db, projectId)
  const { assets, rows, facts } = await pairedAssets(db, projectId, [
    ...meshes.slice(0, MOST_MESHES).map((m) => m.id),
    ...sets.slice(0, MOST_SETS).map((s) => s.id),
  ])
  const { slots, textures } = pairingProblem(assets)
  return {
    slots: [...slots],
    textures: [...textures],
    decided: assets.flatMap(decisionsOfRecipe),
    thumbnails: Object.fromEntries(
      textures.flatMap(({ id, owner, path }) => {
        const key = rows.get(owner!)?.files.find((f) => f.path === path)?.factsKey
        const thumbnail = key ? facts.get(key)?.thumbnail : null
        return thumbnail ? [[id, thumbnail] as const] : []
      }),
    ),
    colours: Object.fromEntries(assets.flatMap(coloursOf)),
    left: Math.max(0, meshes.length - MOST_MESHES) + Math.max(0, sets.length - MOST_SETS),
  }
}

const coloursOf = (asset: PairedAsset): [string, [number, number, number]][] =>
  (asset.subject.mesh?.slots ?? []).map(({ name, baseColour: [r, g, b] }) => [
    slotId(asset, name),
    [toByte(r), toByte(g), toByte(b)],
  ])

const toByte = (linear: number): number => Math.round(linearToSrgb(Math.min(1, Math.max(0, linear))) * 255)
