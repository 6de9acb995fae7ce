import {
  faultAt,
  scenePlanSchema,
  type KeptPart,
  type Rulebook,
  type ScenePlan,
  type FileKind,
} from '@stern-gate/contract'
import {
  compareParts,
  fileStem,
  isMeshKind,
  keptPart,
  partsByPlan,
  planOfRulebook,
  planOfWay,
  takesApart,
  type SceneNodeFacts,
} from '@stern-gate/core'
import { forApart, type FindBeside } from '@stern-gate/engine'
import { intakeOf } from '../judging/intakeOfDelivery'
import type { JobServices } from '../services/services'
import type { Transaction } from '../store/database'
import { addDerivedFiles, type DeliveryFileRow, type DeliveryRow, type GivenFile } from '../store/deliveries'
import { addEvent } from '../store/eventLog'
import { findFacts } from '../store/factsStore'
import { addJobs } from '../store/jobQueue'
import {
  findScenes,
  listSceneAssets,
  listWholeAssets,
  markApart,
  removeAssets,
  saveScene,
  sceneKey,
  setSceneOfAssets,
  type SceneRecord,
} from '../store/scenes'
import { createDeliveryFiles } from './deliveryFiles'

/**
 * Takes the scenes of a measured delivery apart that have a plan: by a person, by the rulebook, or by its intake
 * preset. True where files came of it that are to be measured before the delivery can be put together. Run twice it
 * finds them done.
 */
export async function takeScenesApart(
  services: JobServices,
  delivery: DeliveryRow,
  rows: readonly DeliveryFileRow[],
  rulebook: Rulebook,
  signal: AbortSignal,
): Promise<boolean> {
  const { db } = services.connection
  const meshes = rows.filter(
    (r) => r.state === 'measured' && r.sceneId === null && r.factsKey !== null && isMesh(r),
  )
  const known = await findScenes(
    db,
    delivery.projectId,
    meshes.map((m) => sceneKey(m.path)),
  )
  const way = intakeOf(delivery)?.apart ?? null
  let beside: FindBeside | null = null
  let made = false
  for (const row of meshes) {
    const scene = known.get(sceneKey(row.path)) ?? null
    const ofRulebook = planOfRulebook(rulebook, row.path)
    if (!scene && !ofRulebook && way === null) continue
    if (triedBefore(scene, row, delivery)) continue
    const nodes = await nodesOf(services, row)
    const plan =
      (scene && isDecided(scene) ? scene.plan : null) ??
      ofRulebook ??
      (way === null ? null : planOfWay(way, nodes, rulebook))
    if (!plan || plan.way === 'whole' || !takesApart(nodes, plan, fileStem(row.path), rulebook)) continue
    beside ??= (await createDeliveryFiles(services).get(delivery.id)).beside
    made = (await takeOne(services, delivery, row, { scene, nodes, plan, rulebook, beside, signal })) || made
  }
  return made
}

/** A scene that was only looked at is kept as one by nobody's decision. */
const isDecided = ({ plan, revision }: SceneRecord): boolean => plan.way !== 'whole' || revision > 1

const isMesh = ({ kind }: DeliveryFileRow): boolean => isMeshKind(kind as FileKind)

/** It could not be taken apart in this delivery: it stays whole. */
const triedBefore = (scene: SceneRecord | null, row: DeliveryFileRow, delivery: DeliveryRow): boolean =>
  scene !== null && scene.fault !== null && scene.deliveryId === delivery.id && scene.sha256 === row.sha256

async function nodesOf({ connection: { db } }: JobServices, row: DeliveryFileRow): Promise<SceneNodeFacts[]> {
  const facts = (await findFacts(db, [row.factsKey!])).get(row.factsKey!)?.kept.facts
  return facts?.kind === 'mesh' ? (facts.nodes ?? []).map(forApart) : []
}

interface OneScene {
  scene: SceneRecord | null
  nodes: SceneNodeFacts[]
  plan: ScenePlan
  rulebook: Rulebook
  beside: FindBeside
  signal: AbortSignal
}

async function takeOne(
  services: JobServices,
  delivery: DeliveryRow,
  row: DeliveryFileRow,
  { scene, nodes, plan: asked, rulebook, beside, signal }: OneScene,
): Promise<boolean> {
  const { db } = services.connection
  const name = fileStem(row.path),
    key = sceneKey(row.path)
  const again = scene !== null && scene.parts.length > 0 && scene.sha256 !== row.sha256
  const compared = again
    ? compareParts(scene.parts, partsByPlan(nodes, asked, name, rulebook).parts, asked)
    : null
  const plan = scenePlanSchema.parse(compared?.plan ?? asked)
  const { parts } = partsByPlan(nodes, plan, name, rulebook)
  const file = { path: row.path, sha256: row.sha256, factsKey: row.factsKey, deliveryId: delivery.id }
  const taken = await services.engine.takeApart(
    { path: row.path, file: services.store.localFile(row.sha256!), nodes, parts, plan },
    beside,
    { signal },
  )
  if (!taken.ok) {
    const fault = faultAt(taken.fault, { file: row.path })
    services.log.warn({ file: row.path, fault }, 'a scene could not be taken apart; it is kept whole')
    await saveScene(db, delivery.projectId, key, {
      ...file,
      plan,
      parts: scene?.parts ?? [],
      changes: null,
      fault,
    })
    return false
  }
  const places = new Map(taken.value.parts.map((p) => [p.part.key, p.placements]))
  const kept: KeptPart[] = parts.map((p) => keptPart(p, places.get(p.key) ?? []))
  const stored: GivenFile[] = []
  for (const piece of taken.value.files) {
    const { sha256, sizeBytes } = await services.store.putBytes(piece.bytes)
    stored.push({ path: piece.path, sha256, sizeBytes, kind: piece.part === 'mesh' ? 'glb' : 'unknown' })
  }
  await db.transaction(async (tx) => {
    const saved = await saveScene(tx, delivery.projectId, key, {
      ...file,
      plan,
      parts: kept,
      changes: compared?.changes ?? null,
      fault: null,
    })
    await markApart(tx, row.id)
    const files = await addDerivedFiles(tx, delivery.id, saved.id, stored)
    await addJobs(
      tx,
      'measure_file',
      files.map((id) => ({ payload: { file: id }, key: `measure:${id}` })),
    )
    await addEvent(tx, delivery.projectId, {
      kind: 'file',
      delivery: delivery.id,
      file: row.path,
      state: 'apart',
    })
    // Parts that a person joined, left out or called otherwise in the same file are no assets any more
    if (scene && scene.sha256 === row.sha256) {
      const now = new Set(kept.filter((p) => !p.left).map((p) => p.name))
      await remove(
        tx,
        delivery,
        (await listSceneAssets(tx, saved.id)).filter((a) => !now.has(a.name)).map((a) => a.id),
      )
    }
  })
  return true
}

/**
 * Ties the assets of a delivery to the scenes that they were taken out of. A scene's file is no asset of its own any
 * more; where it is kept whole again, its parts are none.
 */
export async function settleScenes(
  tx: Transaction,
  delivery: DeliveryRow,
  rows: readonly DeliveryFileRow[],
  arrived: readonly { id: string; main: string }[],
): Promise<void> {
  const byPath = new Map(rows.map((r) => [r.path, r]))
  const bySceneId = new Map<string, string[]>()
  for (const { id, main } of arrived) {
    const scene = byPath.get(main)?.sceneId
    if (scene) bySceneId.set(scene, [...(bySceneId.get(scene) ?? []), id])
  }
  for (const [scene, ids] of bySceneId) await setSceneOfAssets(tx, scene, ids)
  const here = new Set(arrived.map((a) => a.id))
  for (const row of rows.filter((r) => r.state === 'apart'))
    await remove(
      tx,
      delivery,
      (
        await listWholeAssets(tx, delivery.projectId, { sha256: row.sha256!, key: sceneKey(row.path) })
      ).filter((id) => !here.has(id)),
    )
  const whole = rows.filter((r) => r.state === 'measured' && r.sceneId === null && isMesh(r))
  const scenes = await findScenes(
    tx,
    delivery.projectId,
    whole.map((r) => sceneKey(r.path)),
  )
  for (const scene of scenes.values())
    if (scene.plan.way === 'whole' && scene.parts.length > 0) {
      await remove(
        tx,
        delivery,
        (await listSceneAssets(tx, scene.id)).map((a) => a.id),
      )
      await saveScene(tx, delivery.projectId, scene.key, { ...scene, parts: [], changes: null, fault: null })
    }
}

async function remove(tx: Transaction, delivery: DeliveryRow, ids: readonly string[]): Promise<void> {
  await removeAssets(tx, ids)
  for (const asset of ids) await addEvent(tx, delivery.projectId, { kind: 'asset', asset })
}
