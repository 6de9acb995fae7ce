import type { Router } from 'express'
import { routes } from '@stern-gate/contract'
import { encodeForAsset, encodingsOf } from '../judging/encodeForAsset'
import type { Services } from '../services/services'
import { findAsset, type AssetRecord } from '../store/assets'
import { answering } from './answer'
import { FaultReply, notFound } from './faults'
import { uuid } from './projectRoutes'

/** Textures encoded for real, with what that costs and loses. */
export function encodingRoutes(services: Services): Router {
  const assetOf = async ({ asset: id }: { asset: string }): Promise<AssetRecord> => {
    const asset = await findAsset(services.connection.db, uuid(id))
    if (!asset) throw notFound('asset')
    return asset
  }
  const { router, on } = answering()
  on(routes.encodeTexture, async ({ parts, body, response }) => {
    const asset = await assetOf(parts)
    // Whoever goes away wants it no more
    const gone = new AbortController()
    response.on('close', () => gone.abort())
    const made = await encodeForAsset(services, asset, body, gone.signal)
    if (!made.ok) throw new FaultReply(made.fault)
    return made.value
  })
  on(routes.listEncodings, async ({ parts, query }) =>
    encodingsOf(services, await assetOf(parts), query.texture),
  )
  return router
}
