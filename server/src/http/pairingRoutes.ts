import type { Router } from 'express'
import { routes } from '@stern-gate/contract'
import { acceptPairing } from '../judging/acceptPairing'
import { bulkReply } from '../judging/bulkChange'
import { pairingTable } from '../judging/pairedAssets'
import type { Services } from '../services/services'
import { countWaiting } from '../store/pairings'
import { answering } from './answer'
import { projectOf } from './projectRoutes'

/** Which texture feeds which slot: what waits, and giving one to the other. */
export function pairingRoutes(services: Services): Router {
  const { db } = services.connection
  const { router, on } = answering()
  on(routes.getPairing, async ({ parts, query }) => {
    const { id } = await projectOf(db, parts.project)
    return pairingTable(db, id, query)
  })
  on(routes.getWaiting, async ({ parts }) => countWaiting(db, (await projectOf(db, parts.project)).id))
  on(routes.acceptPairing, async ({ parts, body }) => {
    const { id } = await projectOf(db, parts.project)
    return bulkReply(services, await acceptPairing(services, id, body))
  })
  return router
}
