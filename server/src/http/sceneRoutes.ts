import type { Router } from 'express'
import {
  bad,
  cutText,
  routes,
  scenePlanSchema,
  type SceneDetail,
  type ScenePart,
  type SceneSummary,
  type FileKind,
} from '@stern-gate/contract'
import {
  assembleAssets,
  fileStem,
  isTextureKind,
  partsByPlan,
  takesApart,
  writePlacements,
} from '@stern-gate/core'
import { forApart } from '@stern-gate/engine'
import { localPerson } from '../auth/localPerson'
import { closeDelivery } from '../jobs/closeDelivery'
import { createDeliveryFiles } from '../jobs/deliveryFiles'
import { filesToAssemble } from '../judging/measuredFiles'
import type { Services } from '../services/services'
import { findAsset, findVersion, listVersionFiles, type AssetRecord } from '../store/assets'
import { createDelivery, listFiles, withProgress, type GivenFile } from '../store/deliveries'
import { findFacts } from '../store/factsStore'
import { currentRulebook, findProject } from '../store/projects'
import {
  findScene,
  findNamesTaken,
  listSceneAssets,
  listScenes,
  listSeveral,
  listWholeAssets,
  openScene,
  savePlan,
  sceneKey,
  type SceneRecord,
} from '../store/scenes'
import { answering } from './answer'
import { FaultReply, notFound } from './faults'
import { projectOf, uuid } from './projectRoutes'

/** Scenes of many objects: looked at, taken apart, and where their parts stood. */
export function sceneRoutes(services: Services): Router {
  const { db } = services.connection
  const sceneOf = async ({ scene }: { scene: string }): Promise<SceneRecord> => {
    const found = await findScene(db, uuid(scene))
    if (!found) throw notFound('scene')
    return found
  }
  const { router, on } = answering()
  on(routes.listScenes, async ({ parts }) => {
    const { id } = await projectOf(db, parts.project)
    return {
      scenes: (await listScenes(db, id)).filter((s) => s.parts.length > 0 || s.fault !== null).map(summaryOf),
      several: await listSeveral(db, id),
    }
  })
  on(routes.openScene, async ({ parts }) => {
    const asset = await findAsset(db, uuid(parts.asset))
    if (!asset) throw notFound('asset')
    return detailOf(services, await sceneOfAsset(services, asset))
  })
  on(routes.getScene, async ({ parts }) => detailOf(services, await sceneOf(parts)))
  on(routes.takeApart, async ({ parts, body }) => {
    const scene = await sceneOf(parts)
    const { plan, revision } = body
    const { nodes, figures } = await detailOf(services, scene)
    if (plan.way !== 'whole' && !takesApart(nodes, plan, nameOf(scene), { figures }))
      throw new FaultReply(
        bad(
          'request/invalid',
          'This way gives one part, or leaves everything out.',
          'Choose another way, or keep the file as one.',
          { part: 'plan' },
        ).fault,
      )
    if (!body.meets)
      await refuseTaken(services, scene, partsByPlan(nodes, plan, nameOf(scene), { figures }).parts)
    const files = await filesOfScene(services, scene)
    if (!(await savePlan(db, scene.id, revision, plan)))
      throw new FaultReply(
        bad(
          'request/conflict',
          'The scene was taken apart by somebody else in the meantime.',
          'Load the page again and look at their parts.',
        ).fault,
      )
    const note = plan.way === 'whole' ? `${nameOf(scene)} kept as one` : `${nameOf(scene)} taken apart`
    const row = await createDelivery(db, scene.projectId, note, localPerson.name, { files })
    await closeDelivery(db, row)
    return withProgress(db, { ...row, state: 'measuring' })
  })
  on(routes.drawParts, async ({ parts, body, response }) => {
    const scene = await sceneOf(parts)
    const { nodes, figures } = await detailOf(services, scene)
    const drawn = partsByPlan(nodes, body.plan, nameOf(scene), { figures })
    const { beside } = await createDeliveryFiles(services).get(scene.deliveryId!)
    // A plan that was changed meanwhile needs no pictures any more
    const gone = new AbortController()
    response.on('close', () => gone.abort())
    const png = await services.engine.drawParts(
      {
        path: scene.path!,
        file: services.store.localFile(scene.sha256!),
        nodes: [],
        parts: drawn.parts,
      },
      beside,
      { signal: gone.signal },
    )
    if (!png.ok) throw new FaultReply(png.fault)
    response.type('image/png').send(Buffer.from(png.value))
  })
  on(routes.getSceneModel, async ({ parts, response }) => {
    const scene = await sceneOf(parts)
    const files = await filesOfScene(services, scene)
    const model = await services.engine.stageModel({
      name: nameOf(scene),
      assetKind: 'mesh',
      main: scene.path!,
      files: files.map((f) => ({
        path: f.path,
        part: f.path === scene.path ? 'mesh' : isTextureKind(f.kind as FileKind) ? 'texture' : 'buffer',
        file: services.store.localFile(f.sha256),
      })),
    })
    if (!model.ok) throw new FaultReply(model.fault)
    if (!model.value) throw notFound('model')
    response
      .set({ 'Content-Type': 'model/gltf-binary', 'Cache-Control': 'private, max-age=3600' })
      .send(Buffer.from(model.value))
  })
  on(routes.getPlacements, async ({ parts, response }) => {
    const scene = await sceneOf(parts)
    const ids = new Map((await listSceneAssets(db, scene.id)).map((a) => [a.name, a.id]))
    const text = writePlacements(
      nameOf(scene),
      scene.parts
        .filter((p) => !p.left)
        .map(({ name, placements }) => ({
          name,
          asset: { name, ...(ids.has(name) ? { id: ids.get(name)! } : {}) },
          placements,
        })),
    )
    response
      .type('model/gltf+json')
      .attachment(`${nameOf(scene)}_placements.gltf`)
      .send(text)
  })
  return router
}

const nameOf = ({ path, key }: SceneRecord): string => (path === null ? key : fileStem(path))

const summaryOf = (scene: SceneRecord): SceneSummary => ({
  id: scene.id,
  name: nameOf(scene),
  path: scene.path,
  plan: scene.plan,
  revision: scene.revision,
  delivery: scene.deliveryId,
  parts: scene.parts,
  changes: scene.changes,
  fault: scene.fault,
})

async function detailOf({ connection: { db } }: Services, scene: SceneRecord): Promise<SceneDetail> {
  const project = (await findProject(db, scene.projectId))!
  const rulebook = await currentRulebook(db, project)
  const facts =
    scene.factsKey === null
      ? undefined
      : (await findFacts(db, [scene.factsKey])).get(scene.factsKey)?.kept.facts
  const nodes = facts?.kind === 'mesh' ? (facts.nodes ?? []).map(forApart) : []
  const own = await listSceneAssets(db, scene.id)
  const whole =
    scene.sha256 === null
      ? []
      : await listWholeAssets(db, scene.projectId, { sha256: scene.sha256, key: scene.key })
  return {
    ...summaryOf(scene),
    nodes,
    figures: rulebook.figures,
    assets: Object.fromEntries(own.map((a) => [a.name, a.id])),
    whole: whole[0] ?? null,
  }
}

/** The scene that an asset's file is. Faults: request/conflict where the asset is no single mesh file. */
async function sceneOfAsset({ connection: { db } }: Services, asset: AssetRecord): Promise<SceneRecord> {
  const version = await findVersion(db, asset.id, asset.currentVersion)
  const files = version ? await listVersionFiles(db, version.id) : []
  const main = files.find((f) => f.path === version!.main)
  const [row] = version
    ? (await listFiles(db, version.deliveryId)).filter((f) => f.path === version.main)
    : []
  if (!version || !main || main.factsKey === null || asset.kind !== 'mesh' || row?.sceneId)
    throw new FaultReply(
      bad(
        'request/conflict',
        'This asset is no file of its own that could be taken apart.',
        row?.sceneId ? 'It was taken out of a scene; open that scene.' : 'Open an asset with a mesh.',
      ).fault,
    )
  return openScene(
    db,
    asset.projectId,
    sceneKey(main.path),
    { path: main.path, sha256: main.sha256, factsKey: main.factsKey, deliveryId: version.deliveryId },
    scenePlanSchema.parse({ way: 'whole' }),
  )
}

/** Refuses parts that would become versions of assets which have nothing to do with the scene. */
async function refuseTaken(
  { connection: { db } }: Services,
  scene: SceneRecord,
  parts: readonly ScenePart[],
): Promise<void> {
  const names = parts.filter((p) => p.left === null).map((p) => p.name)
  const taken = await findNamesTaken(db, scene, names)
  const count = taken.length === 1 ? 'an asset' : `${taken.length} assets`
  if (taken.length > 0)
    throw new FaultReply(
      bad(
        'request/conflict',
        `The project has ${count} of that name already: ${cutText(taken.join(', '), 200, '…')}.`,
        'Give those parts other names, or let them become new versions of these assets.',
        { part: 'names' },
      ).fault,
    )
}

/** The file of a scene with what it asks for, out of the delivery that it came by. */
async function filesOfScene({ connection: { db } }: Services, scene: SceneRecord): Promise<GivenFile[]> {
  const project = (await findProject(db, scene.projectId))!
  const rows = (await listFiles(db, scene.deliveryId!)).filter((f) => f.sha256 !== null && f.sceneId === null)
  const drafts = assembleAssets(await filesToAssemble(db, rows), await currentRulebook(db, project))
  const wanted = new Set(drafts.find((d) => d.main === scene.path)?.files.map((f) => f.path) ?? [scene.path])
  return rows.filter((r) => wanted.has(r.path)).map((r) => ({ ...r, sha256: r.sha256! }))
}
