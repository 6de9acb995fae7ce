import type { Router } from 'express'
import { routes } from '@stern-gate/contract'
import { applyToMany, bulkReply, offersOf, undoMany } from '../judging/bulkChange'
import { renamePlan } from '../judging/renamePlan'
import type { Services } from '../services/services'
import { listBulkChanges } from '../store/bulkChanges'
import { answering } from './answer'
import { projectOf, uuid } from './projectRoutes'

const SHOWN = 10

/** One remedy for many assets, and one undo for it. */
export function bulkRoutes(services: Services): Router {
  const { db } = services.connection
  const { router, on } = answering()
  on(routes.getOffers, async ({ parts, body }) => {
    const { id } = await projectOf(db, parts.project)
    return offersOf(services, id, body.assets)
  })
  on(routes.listChanges, async ({ parts }) => {
    const rows = await listBulkChanges(db, (await projectOf(db, parts.project)).id, SHOWN)
    return Promise.all(rows.map((row) => bulkReply(services, row)))
  })
  on(routes.applyToMany, async ({ parts, body }) => {
    const { id: project } = await projectOf(db, parts.project)
    return bulkReply(services, await applyToMany(services, project, body))
  })
  on(routes.planRenames, async ({ parts, body }) => {
    const { id: project } = await projectOf(db, parts.project)
    return renamePlan(services, project, body.assets)
  })
  on(routes.undoMany, async ({ parts }) => {
    const row = await undoMany(services, uuid(parts.change))
    return bulkReply(services, row)
  })
  return router
}
