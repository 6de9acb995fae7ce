import type { Router } from 'express'
import { bad, manifestSchema, type DispatchDetail, routes } from '@stern-gate/contract'
import { creditsCsv, creditsMarkdown } from '@stern-gate/core'
import { localPerson } from '../auth/localPerson'
import { planDispatch } from '../dispatch/planDispatch'
import type { Services } from '../services/services'
import { createDispatch, findDispatch, getDispatchDetail, listDispatches } from '../store/dispatches'
import { addEvent } from '../store/eventLog'
import { addPacking } from '../store/jobQueue'
import { currentRulebook, type ProjectRow } from '../store/projects'
import { answering } from './answer'
import { FaultReply, notFound } from './faults'
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
  const { router, on } = answering()
  on(routes.planDispatch, async ({ parts, body }) => {
    const project = await projectOf(db, parts.project)
    const choice = body
    await checkTarget(project, choice.target)
    return planDispatch(db, project, choice)
  })
  on(routes.listDispatches, async ({ parts }) => {
    const { id } = await projectOf(db, parts.project)
    return listDispatches(db, id, LISTED)
  })
  on(routes.createDispatch, async ({ parts, body }) => {
    const project = await projectOf(db, parts.project)
    const { target, assets, note, encode } = body
    await checkTarget(project, target)
    const id = await db.transaction(async (tx) => {
      const made = await createDispatch(tx, {
        projectId: project.id,
        target,
        note,
        by: localPerson.name,
        chosen: assets,
        encode,
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
    return detailOf(id)
  })
  on(routes.getDispatch, ({ parts }) => detailOf(parts.dispatch))
  on(routes.getPackage, async ({ parts, response }) => {
    const row = await findDispatch(db, uuid(parts.dispatch))
    if (!row?.sha256) throw notFound('package')
    response.attachment(`dispatch-${row.number}-${row.target}.zip`)
    await sendBlob(services, response, row.sha256)
  })
  on(routes.getCredits, async ({ parts, query, response }) => {
    const row = await findDispatch(db, uuid(parts.dispatch))
    if (!row?.manifest) throw notFound('package')
    const { assets, terms, project } = manifestSchema.parse(row.manifest)
    const credited = assets.map(({ name, origin }) => ({
      name,
      origin,
      terms: origin && Object.hasOwn(terms, origin.terms) ? terms[origin.terms]! : null,
    }))
    const isCsv = query.format === 'csv'
    response
      .attachment(`dispatch-${row.number}-credits.${query.format}`)
      .type(isCsv ? 'text/csv' : 'text/markdown')
      .send(isCsv ? creditsCsv(credited) : creditsMarkdown(`${project ?? ''} ${row.number}`.trim(), credited))
  })
  return router
}
