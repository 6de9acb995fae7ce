import type { Response, Router } from 'express'
import { routes } from '@stern-gate/contract'
import { encodeForAsset, encodingsOf, searchForAsset } from '../judging/encodeForAsset'
import type { Services } from '../services/services'
import { findAsset, type AssetRecord } from '../store/assets'
import { answering } from './answer'
import { FaultReply, notFound } from './faults'
import { uuid } from './projectRoutes'

/** Until whoever asked goes away: then it is wanted no more. */
function whileWanted(response: Response): AbortSignal {
  const gone = new AbortController()
  response.on('close', () => gone.abort())
  return gone.signal
}

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
    const made = await encodeForAsset(services, asset, body, whileWanted(response))
    if (!made.ok) throw new FaultReply(made.fault)
    return made.value
  })
  on(routes.searchFormats, async ({ parts, body, response }) => {
    const found = await searchForAsset(services, await assetOf(parts), body, whileWanted(response))
    if (!found.ok) throw new FaultReply(found.fault)
    return found.value
  })
  on(routes.listEncodings, async ({ parts, query }) =>
    encodingsOf(services, await assetOf(parts), query.texture),
  )
  return router
}
