import { Router, type Request } from 'express'
import { bad, newDeliverySchema, type DeliveryState } from '@stern-gate/contract'
import { localPerson } from '../auth/localPerson'
import type { Services } from '../services/services'
import {
  createDelivery,
  fileReply,
  findDelivery,
  listDeliveries,
  listFiles,
  listWaitingFiles,
  moveDelivery,
  setAsideWaiting,
  withProgress,
  type DeliveryRow,
} from '../store/deliveries'
import type { Transaction } from '../store/database'
import { addEvent } from '../store/eventLog'
import { addAssembly, addJobs } from '../store/jobQueue'
import { findIntakePreset } from '../store/intakePresets'
import { deliveryClosed } from '../trouble/faultReply'
import { FaultReply, notFound, parse, route } from './faults'
import { projectOf, uuid } from './projectRoutes'
import { receiveFiles } from './receiveFiles'

export function deliveryRoutes(services: Services): Router {
  const { db } = services.connection
  const deliveryOf = async (request: Request): Promise<DeliveryRow> => {
    const row = await findDelivery(db, uuid(request.params['delivery']))
    if (!row) throw notFound('delivery')
    return row
  }
  return Router()
    .get(
      '/projects/:project/deliveries',
      route(async (request, response) => {
        response.json(await listDeliveries(db, uuid(request.params['project']), 20))
      }),
    )
    .post(
      '/projects/:project/deliveries',
      route(async (request, response) => {
        const project = await projectOf(db, request.params['project'])
        const { note, arrived, preset: id } = parse(newDeliverySchema, request.body)
        if (arrived !== undefined && Date.parse(arrived) > Date.now())
          throw new FaultReply(
            bad(
              'request/invalid',
              'arrived: that time is still to come.',
              'Leave it out for a delivery that arrives now.',
              { part: 'arrived' },
            ).fault,
          )
        const preset = id === undefined ? null : await findIntakePreset(db, project.id, id)
        if (id !== undefined && !preset) throw notFound('preset')
        const row = await createDelivery(db, project.id, note, localPerson.name, {
          ...(arrived ? { arrived } : {}),
          ...(preset ? { intake: { name: preset.name, options: preset.options } } : {}),
        })
        response.status(201).json(await withProgress(db, row))
      }),
    )
    .get(
      '/deliveries/:delivery',
      route(async (request, response) => {
        const row = await deliveryOf(request)
        response.json({ ...(await withProgress(db, row)), all: (await listFiles(db, row.id)).map(fileReply) })
      }),
    )
    .post(
      '/deliveries/:delivery/files',
      route(async (request, response) => {
        const row = await deliveryOf(request)
        if (row.state !== 'receiving') throw deliveryClosed(row)
        response.status(201).json((await receiveFiles(services, row, request)).map(fileReply))
      }),
    )
    .post(
      '/deliveries/:delivery/close',
      route(async (request, response) => {
        const row = await deliveryOf(request)
        // State and jobs come as one act: a delivery is never closed without its work being in the queue
        const closes = await db.transaction(async (tx) => {
          if (!(await moveDelivery(tx, row.id, ['receiving'], 'measuring'))) return false
          const waiting = await listWaitingFiles(tx, row.id)
          await addJobs(
            tx,
            'measure_file',
            waiting.map((file) => ({ payload: { file }, key: `measure:${file}` })),
          )
          if (waiting.length === 0) await addAssembly(tx, row.id)
          await tell(tx, row, 'measuring')
          return true
        })
        if (!closes) throw deliveryClosed(await deliveryOf(request))
        response.json(await withProgress(db, { ...row, state: 'measuring' }))
      }),
    )
    .post(
      '/deliveries/:delivery/cancel',
      route(async (request, response) => {
        const row = await deliveryOf(request)
        const cancels = await db.transaction(async (tx) => {
          if (!(await moveDelivery(tx, row.id, ['receiving', 'measuring', 'cancelled'], 'cancelled')))
            return false
          await setAsideWaiting(tx, row.id)
          await tell(tx, row, 'cancelled')
          return true
        })
        if (!cancels) throw deliveryClosed(await deliveryOf(request))
        response.json(await withProgress(db, { ...row, state: 'cancelled' }))
      }),
    )
}

const tell = (tx: Transaction, row: DeliveryRow, state: DeliveryState): Promise<void> =>
  addEvent(tx, row.projectId, { kind: 'delivery', delivery: row.id, state }, localPerson.name)
