import type { Response, Router } from 'express'
import { ZipArchive } from 'archiver'
import { activeSteps, routes, formats } from '@stern-gate/contract'
import { FILE_KIND_BYTES, fileKind, fileName } from '@stern-gate/core'
import { open } from 'node:fs/promises'
import { pipeline } from 'node:stream/promises'
import type { Services } from '../services/services'
import { engineFiles, makeOutput } from '../judging/makeOutput'
import { resolvedRecipe } from '../judging/resolvedRecipe'
import { findAsset, findVersion, getRecipe, listVersionFiles } from '../store/assets'
import { findOutput } from '../store/outputs'
import { answering } from './answer'
import { FaultReply, notFound } from './faults'
import { uuid } from './projectRoutes'

const FOREVER = 'private, max-age=31536000, immutable'

/** Bytes: blobs by hash, one GLB for the stage, the output to take away. */
export function fileRoutes(services: Services): Router {
  const {
    connection: { db },
    store,
    engine,
  } = services
  const { router, on } = answering()
  on(routes.getBlob, async ({ parts, response }) => {
    const sha = parts.sha
    if (!/^[0-9a-f]{64}$/.test(sha) || !(await store.has(sha))) throw notFound('file')
    await sendBlob(services, response, sha)
  })
  on(routes.keepStepData, async ({ body }) => {
    const { sha256 } = await store.putBytes(Buffer.from(JSON.stringify(body)))
    return { sha256 }
  })
  on(routes.getPicture, async ({ parts, query, response }) => {
    const sha = parts.sha
    if (!/^[0-9a-f]{64}$/.test(sha) || !(await store.has(sha))) throw notFound('file')
    const picture = await engine.picture(store.localFile(sha), (query.name ?? '').slice(-200))
    if (!picture.ok) throw new FaultReply(picture.fault)
    response
      .set({ 'Content-Type': 'image/png', 'Cache-Control': FOREVER, 'X-Content-Type-Options': 'nosniff' })
      .send(Buffer.from(picture.value))
  })
  on(routes.getSourceModel, async ({ parts, query, response }) => {
    const asset = await findAsset(db, uuid(parts.asset))
    const version = asset ? await findVersion(db, asset.id, query.version ?? asset.currentVersion) : null
    if (!asset || !version) throw notFound('model')
    const files = await listVersionFiles(db, version.id)
    const model = await engine.stageModel(engineFiles(services, asset, version, files))
    if (!model.ok) throw new FaultReply(model.fault)
    if (!model.value) throw notFound('model')
    response
      .set({ 'Content-Type': 'model/gltf-binary', 'Cache-Control': 'private, max-age=3600' })
      .send(Buffer.from(model.value))
  })
  on(routes.getOutputModel, async ({ parts, response }) => {
    const output = await findOutput(db, parts.key)
    if (!output) throw notFound('output')
    const files = output.files.map((f) => ({
      path: f.path,
      part: f.part,
      file: store.localFile(f.sha256),
    }))
    const model = await engine.stageModel({
      name: output.renamed ?? 'model',
      assetKind: 'mesh',
      main: output.main,
      files,
    })
    if (!model.ok) throw new FaultReply(model.fault)
    if (!model.value) throw notFound('model')
    response
      .set({ 'Content-Type': 'model/gltf-binary', 'Cache-Control': FOREVER })
      .send(Buffer.from(model.value))
  })
  on(routes.getOutput, async ({ parts, response }) => {
    const asset = await findAsset(db, uuid(parts.asset))
    const version = asset ? await findVersion(db, asset.id, asset.currentVersion) : null
    if (!asset || !version) throw notFound('output')
    const source = await listVersionFiles(db, version.id)
    const { recipe } = await getRecipe(db, asset.id)
    // What is taken away is always what the newest recipe makes, also while its judgement is still under
    // way
    const made =
      activeSteps(recipe).length > 0
        ? await makeOutput(
            services,
            asset,
            version,
            source,
            await resolvedRecipe(services.connection.db, asset.projectId, recipe),
          )
        : null
    if (made && !made.ok) throw new FaultReply(made.fault)
    const output = made?.value ?? null
    const files = output?.files ?? source
    if (files.length === 1) {
      response.attachment(fileName(files[0]!.path))
      await sendBlob(services, response, files[0]!.sha256)
      return
    }
    const archive = new ZipArchive({ zlib: { level: 6 }, forceLocalTime: false })
    response.attachment(`${output?.renamed ?? asset.name}.zip`).type('application/zip')
    archive.on('error', (error: Error) => response.destroy(error))
    // A page that goes away leaves nothing open
    response.on('close', () => archive.abort())
    archive.pipe(response)
    // Opened one after the other, as the archive takes them
    for (const file of files)
      archive.file(store.localFile(file.sha256), {
        name: file.path,
        date: new Date(Date.UTC(2000, 0, 1)),
      })
    await archive.finalize()
  })
  return router
}

/** Sends bytes of the store. */
export async function sendBlob({ store }: Services, response: Response, sha: string): Promise<void> {
  const file = await open(store.localFile(sha))
  const head = new Uint8Array(FILE_KIND_BYTES)
  try {
    await file.read(head, 0, FILE_KIND_BYTES, 0)
  } finally {
    await file.close()
  }
  const kind = fileKind(head, '')
  // Delivered bytes never run as a page, whatever they are
  response.set({
    'Content-Type': (kind === 'unknown' ? null : formats[kind].mediaType) ?? 'application/octet-stream',
    'Cache-Control': FOREVER,
    'Content-Security-Policy': "default-src 'none'; sandbox",
    'X-Content-Type-Options': 'nosniff',
  })
  await pipeline(store.read(sha), response).catch((error: unknown) => {
    // A page that goes away in the middle is no trouble
    if (!response.destroyed) throw error
  })
}
