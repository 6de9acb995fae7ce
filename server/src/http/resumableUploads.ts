import { FileStore } from '@tus/file-store'
import { Server } from '@tus/server'
import type { RequestHandler } from 'express'
import { createReadStream, mkdirSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import { bad, type Fault } from '@stern-gate/contract'
import type { Services } from '../services'
import { fileReply, findDelivery, type DeliveryRow } from '../store/deliveries'
import { notFound } from './faults'
import { takeIn } from './receiveFiles'

/** Where large files go, piece by piece; by the tus protocol, version 1.0. */
export const UPLOADS_PATH = '/api/uploads'
/** Half-sent files are thrown away after so long. */
const KEEP_MS = 7 * 86_400_000
const TIDY_MS = 6 * 3_600_000

/**
 * Large files that go on where they stopped, after a lost connection as after a reload. An upload names its
 * delivery and the path in it (metadata `delivery` and `path`); when its last piece has come it is taken into
 * the delivery like any other file.
 */
export function resumableUploads(services: Services): { handle: RequestHandler; stop: () => void } {
  const {
    connection: { db },
    settings,
    log,
  } = services
  const directory = join(settings.STERN_DATA, 'uploads')
  mkdirSync(directory, { recursive: true })
  const deliveryOf = async (metadata: Record<string, string | null> | undefined): Promise<DeliveryRow> => {
    const id = metadata?.['delivery'] ?? ''
    const row = /^[0-9a-f-]{36}$/.test(id) ? await findDelivery(db, id) : null
    if (!row)
      throw refusal(
        404,
        bad('request/not-found', 'There is no such delivery.', 'Begin a delivery first.').fault,
      )
    if (row.state !== 'receiving')
      throw refusal(
        409,
        bad(
          'delivery/closed',
          `Delivery ${row.number} takes nothing more: it is ${row.state}.`,
          'Begin a new delivery.',
        ).fault,
      )
    return row
  }
  const server = new Server({
    path: UPLOADS_PATH,
    datastore: new FileStore({ directory, expirationPeriodInMilliseconds: KEEP_MS }),
    maxSize: settings.STERN_UPLOAD_MAX_MB * 1024 * 1024,
    relativeLocation: true,
    async onUploadCreate(_, upload) {
      await deliveryOf(upload.metadata)
      return {}
    },
    async onUploadFinish(_, upload) {
      const delivery = await deliveryOf(upload.metadata),
        file = join(directory, upload.id)
      const rows = await takeIn(services, delivery, upload.metadata?.['path'] ?? '', createReadStream(file))
      await Promise.all([file, `${file}.json`].map((path) => rm(path, { force: true })))
      return {
        status_code: 200,
        headers: { 'Content-Type': 'application/json' },
        body: JSON.stringify(rows.map(fileReply)),
      }
    },
  })
  const tidy = setInterval(
    () =>
      void server
        .cleanUpExpiredUploads()
        .catch((error: unknown) => log.warn({ error }, 'old uploads could not be thrown away')),
    TIDY_MS,
  )
  tidy.unref()
  return {
    handle(request, response, next) {
      // Ids are made here, and nothing else names a file
      if (!/^\/api\/uploads(\/[0-9a-f]{32})?\/?$/.test(request.path)) return next(notFound('upload'))
      server.handle(request, response).catch(next)
    },
    stop: () => clearInterval(tidy),
  }
}

/** What the protocol's server takes for a refusal; its body is a fault like everywhere else. */
const refusal = (status: number, fault: Fault) => ({ status_code: status, body: JSON.stringify({ fault }) })
