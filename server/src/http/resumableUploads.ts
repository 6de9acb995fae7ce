import { FileStore } from '@tus/file-store'
import { Server } from '@tus/server'
import type { RequestHandler } from 'express'
import { createReadStream, mkdirSync } from 'node:fs'
import { rm } from 'node:fs/promises'
import { join } from 'node:path'
import * as z from 'zod'
import { bad, faultCatalogue, type Fault } from '@stern-gate/contract'
import type { Services } from '../services/services'
import { fileReply, findDelivery, type DeliveryRow } from '../store/deliveries'
import { deliveryClosed } from '../trouble/faultReply'
import { notFound, trouble } from './faults'
import { takeIn } from './receiveFiles'
import { endStalled } from './endStalled'

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
    const row = z.uuid().safeParse(id).success ? await findDelivery(db, id) : null
    if (!row)
      throw refusalOf(bad('request/not-found', 'There is no such delivery.', 'Begin a delivery first.').fault)
    if (row.state !== 'receiving') throw refusalOf(deliveryClosed(row).fault)
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
      const rows = await takeIn(
        services,
        delivery,
        upload.metadata?.['path'] ?? '',
        createReadStream(file),
      ).catch((error: unknown) => {
        throw refusalOf(trouble(error, log))
      })
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
      endStalled(request, settings.STERN_STALL_SECONDS)
      server.handle(request, response).catch(next)
    },
    stop: () => clearInterval(tidy),
  }
}

/** What the protocol's server takes for a refusal; its body is a fault like everywhere else. */
const refusalOf = (fault: Fault) => ({
  status_code: faultCatalogue[fault.code],
  body: JSON.stringify({ fault }),
})
