import { Router, type Request } from 'express'
import { bad, newDeliverySchema } from '@stern-gate/contract'
import { localPerson } from '../auth/localPerson'
import { addAssembly } from '../jobs/queue'
import type { Services } from '../services'
import {
  createDelivery,
  fileChange,
  fileReply,
  findDelivery,
  listDeliveries,
  listFiles,
  setDeliveryState,
  withProgress,
  type DeliveryRow,
} from '../store/deliveries'
import { addEvent } from '../store/eventLog'
import { findIntakePreset } from '../store/intakePresets'
import { FaultReply, notFound, parse, route } from './faults'
import { projectOf, uuid } from './projectRoutes'
import { receiveFiles } from './receiveFiles'

export function deliveryRoutes(services: Services): Router {
  const {
    connection: { db },
    queue,
  } = services
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
        if (row.state !== 'receiving') throw closed(row)
        response.status(201).json((await receiveFiles(services, row, request)).map(fileReply))
      }),
    )
    .post(
      '/deliveries/:delivery/close',
      route(async (request, response) => {
        const row = await deliveryOf(request)
        if (row.state !== 'receiving') throw closed(row)
        await db.transaction(async (tx) => {
          await setDeliveryState(tx, row.id, 'measuring')
          await addEvent(
            tx,
            row.projectId,
            { kind: 'delivery', delivery: row.id, state: 'measuring' },
            localPerson.name,
          )
        })
        const waiting = (await listFiles(db, row.id)).filter((f) => f.state === 'waiting')
        // Small files first: the first verdicts come soon
        waiting.sort((a, b) => a.sizeBytes - b.sizeBytes)
        await queue.addMany(
          'measure_file',
          waiting.map((file) => ({ payload: { file: file.id }, key: `measure:${file.id}` })),
        )
        if (waiting.length === 0) await addAssembly(queue, row.id)
        response.json(await withProgress(db, { ...row, state: 'measuring' }))
      }),
    )
    .post(
      '/deliveries/:delivery/cancel',
      route(async (request, response) => {
        const row = await deliveryOf(request)
        if (row.state === 'done') throw closed(row)
        await db.transaction(async (tx) => {
          await setDeliveryState(tx, row.id, 'cancelled')
          for (const file of await listFiles(tx, row.id))
            if (file.state === 'waiting') await fileChange(tx, file.id, { state: 'set-aside' })
          await addEvent(
            tx,
            row.projectId,
            { kind: 'delivery', delivery: row.id, state: 'cancelled' },
            localPerson.name,
          )
        })
        response.json(await withProgress(db, { ...row, state: 'cancelled' }))
      }),
    )
}

const closed = (row: DeliveryRow): FaultReply =>
  new FaultReply(
    bad(
      row.state === 'cancelled' ? 'delivery/cancelled' : 'delivery/closed',
      `Delivery ${row.number} takes nothing more: it is ${row.state}.`,
      'Begin a new delivery.',
    ).fault,
  )
