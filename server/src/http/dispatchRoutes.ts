import { Router } from 'express'
import { bad, dispatchChoiceSchema, newDispatchSchema, type DispatchDetail } from '@stern-gate/contract'
import { localPerson } from '../auth/localPerson'
import { planDispatch } from '../dispatch/planDispatch'
import type { Services } from '../services/services'
import { createDispatch, findDispatch, getDispatchDetail, listDispatches } from '../store/dispatches'
import { addEvent } from '../store/eventLog'
import { addPacking } from '../store/jobQueue'
import { currentRulebook, type ProjectRow } from '../store/projects'
import { FaultReply, notFound, parse, route } from './faults'
import { sendBlob } from './fileRoutes'
import { projectOf, uuid } from './projectRoutes'

/** So many past dispatches are listed. */
const LISTED = 100

/** Packages that leave: what would go, making one, those that left. */
export function dispatchRoutes(services: Services): Router {
  const { db } = services.connection
  const checkTarget = async (project: ProjectRow, target: string): Promise<void> => {
    const { targets } = await currentRulebook(db, project)
    if (!Object.hasOwn(targets, target))
      throw new FaultReply(
        bad(
          'request/invalid',
          'The rulebook has no target of that name.',
          `Choose one of: ${Object.keys(targets).join(', ')}.`,
          { part: 'target' },
        ).fault,
      )
  }
  const detailOf = async (id: unknown): Promise<DispatchDetail> => {
    const found = await getDispatchDetail(db, uuid(id))
    if (!found) throw notFound('dispatch')
    return found
  }
  return Router()
    .post(
      '/projects/:project/dispatch-plan',
      route(async (request, response) => {
        const project = await projectOf(db, request.params['project'])
        const choice = parse(dispatchChoiceSchema, request.body)
        await checkTarget(project, choice.target)
        response.json(await planDispatch(db, project, choice))
      }),
    )
    .get(
      '/projects/:project/dispatches',
      route(async (request, response) => {
        const { id } = await projectOf(db, request.params['project'])
        response.json(await listDispatches(db, id, LISTED))
      }),
    )
    .post(
      '/projects/:project/dispatches',
      route(async (request, response) => {
        const project = await projectOf(db, request.params['project'])
        const { target, assets, note } = parse(newDispatchSchema, request.body)
        await checkTarget(project, target)
        const id = await db.transaction(async (tx) => {
          const made = await createDispatch(tx, {
            projectId: project.id,
            target,
            note,
            by: localPerson.name,
            chosen: assets,
          })
          await addPacking(tx, made.id)
          await addEvent(
            tx,
            project.id,
            { kind: 'dispatch', dispatch: made.id, state: 'waiting' },
            localPerson.name,
          )
          return made.id
        })
        response.status(201).json(await detailOf(id))
      }),
    )
    .get(
      '/dispatches/:dispatch',
      route(async (request, response) => {
        response.json(await detailOf(request.params['dispatch']))
      }),
    )
    .get(
      '/dispatches/:dispatch/package',
      route(async (request, response) => {
        const row = await findDispatch(db, uuid(request.params['dispatch']))
        if (!row?.sha256) throw notFound('package')
        response.attachment(`dispatch-${row.number}-${row.target}.zip`)
        await sendBlob(services, response, row.sha256)
      }),
    )
}
