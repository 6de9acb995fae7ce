import { Router } from 'express'
import { bulkRequestSchema, offersRequestSchema, renamePlanRequestSchema } from '@stern-gate/contract'
import { applyToMany, bulkReply, offersOf, undoMany } from '../judging/bulkChange'
import { renamePlan } from '../judging/renamePlan'
import type { Services } from '../services/services'
import { listBulkChanges } from '../store/bulkChanges'
import { parse, route } from './faults'
import { projectOf, uuid } from './projectRoutes'

const SHOWN = 10

/** One remedy for many assets, and one undo for it. */
export function bulkRoutes(services: Services): Router {
  const { db } = services.connection
  return Router()
    .post(
      '/projects/:project/offers',
      route(async (request, response) => {
        const { id } = await projectOf(db, request.params['project'])
        response.json(await offersOf(services, id, parse(offersRequestSchema, request.body).assets))
      }),
    )
    .get(
      '/projects/:project/changes',
      route(async (request, response) => {
        const rows = await listBulkChanges(db, (await projectOf(db, request.params['project'])).id, SHOWN)
        response.json(await Promise.all(rows.map((row) => bulkReply(services, row))))
      }),
    )
    .post(
      '/projects/:project/changes',
      route(async (request, response) => {
        const { id: project } = await projectOf(db, request.params['project'])
        response
          .status(201)
          .json(
            await bulkReply(
              services,
              await applyToMany(services, project, parse(bulkRequestSchema, request.body)),
            ),
          )
      }),
    )
    .post(
      '/projects/:project/renames',
      route(async (request, response) => {
        const { id: project } = await projectOf(db, request.params['project'])
        response.json(
          await renamePlan(services, project, parse(renamePlanRequestSchema, request.body).assets),
        )
      }),
    )
    .post(
      '/changes/:change/undo',
      route(async (request, response) => {
        const row = await undoMany(services, uuid(request.params['change']))
        response.json(await bulkReply(services, row))
      }),
    )
}
