import type { Router } from 'express'
import { bad, type DeliveryState, routes } from '@stern-gate/contract'
import { localPerson } from '../auth/localPerson'
import { closeDelivery } from '../jobs/closeDelivery'
import type { Services } from '../services/services'
import {
  createDelivery,
  fileReply,
  findDelivery,
  listDeliveries,
  listFiles,
  moveDelivery,
  setAsideWaiting,
  withProgress,
  type DeliveryRow,
} from '../store/deliveries'
import type { Transaction } from '../store/database'
import { addEvent } from '../store/eventLog'
import { intakeBy } from '@stern-gate/core'
import { findIntakePreset } from '../rulebooks/intakePresets'
import { deliveryClosed } from '../trouble/faultReply'
import { answering } from './answer'
import { FaultReply, notFound } from './faults'
import { projectOf, uuid } from './projectRoutes'
import { receiveFiles } from './receiveFiles'

export function deliveryRoutes(services: Services): Router {
  const { db } = services.connection
  const deliveryOf = async ({ delivery }: { delivery: string }): Promise<DeliveryRow> => {
    const row = await findDelivery(db, uuid(delivery))
    if (!row) throw notFound('delivery')
    return row
  }
  const { router, on } = answering()
  on(routes.listDeliveries, ({ parts }) => listDeliveries(db, uuid(parts.project), 20))
  on(routes.createDelivery, async ({ parts, body }) => {
    const project = await projectOf(db, parts.project)
    const { note, arrived, preset: wanted } = body
    if (arrived !== undefined && Date.parse(arrived) > Date.now())
      throw new FaultReply(
        bad(
          'request/invalid',
          'arrived: that time is still to come.',
          'Leave it out for a delivery that arrives now.',
          { part: 'arrived' },
        ).fault,
      )
    const preset = wanted === undefined ? null : await findIntakePreset(db, project, wanted)
    if (wanted !== undefined && !preset) throw notFound('preset')
    const row = await createDelivery(db, project.id, note, localPerson.name, {
      ...(arrived ? { arrived } : {}),
      ...(preset ? { intake: intakeBy(preset) } : {}),
    })
    return withProgress(db, row)
  })
  on(routes.getDelivery, async ({ parts }) => {
    const row = await deliveryOf(parts)
    return { ...(await withProgress(db, row)), all: (await listFiles(db, row.id)).map(fileReply) }
  })
  on(routes.sendFiles, async ({ parts, request }) => {
    const row = await deliveryOf(parts)
    if (row.state !== 'receiving') throw deliveryClosed(row)
    return (await receiveFiles(services, row, request)).map(fileReply)
  })
  on(routes.closeDelivery, async ({ parts }) => {
    const row = await deliveryOf(parts)
    const closes = await closeDelivery(db, row)
    if (!closes) throw deliveryClosed(await deliveryOf(parts))
    return withProgress(db, { ...row, state: 'measuring' })
  })
  on(routes.cancelDelivery, async ({ parts }) => {
    const row = await deliveryOf(parts)
    const cancels = await db.transaction(async (tx) => {
      if (!(await moveDelivery(tx, row.id, ['receiving', 'measuring', 'cancelled'], 'cancelled')))
        return false
      await setAsideWaiting(tx, row.id)
      await tell(tx, row, 'cancelled')
      return true
    })
    if (!cancels) throw deliveryClosed(await deliveryOf(parts))
    return withProgress(db, { ...row, state: 'cancelled' })
  })
  return router
}

const tell = (tx: Transaction, row: DeliveryRow, state: DeliveryState): Promise<void> =>
  addEvent(tx, row.projectId, { kind: 'delivery', delivery: row.id, state }, localPerson.name)
