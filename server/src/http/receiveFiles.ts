import busboy from 'busboy'
import type { Request } from 'express'
import type { Readable } from 'node:stream'
import { bad } from '@stern-gate/contract'
import { checkDeliveryPath, fileKind } from '@stern-gate/core'
import { unpackZip } from '@stern-gate/engine'
import type { Services } from '../services'
import { removeFile, saveFile, type DeliveryFileRow, type DeliveryRow } from '../store/deliveries'
import { FaultReply } from './faults'

/**
 * Takes files from a multipart request, streaming each into the store. A field `path` before a file gives its
 * path in the delivery; else its file name does. Unsafe paths and files over the limit are noted as refused,
 * the rest goes on.
 */
export async function receiveFiles(
  services: Services,
  delivery: DeliveryRow,
  request: Request,
): Promise<DeliveryFileRow[]> {
  const limit = services.settings.STERN_UPLOAD_MAX_MB * 1024 * 1024
  if (!request.is('multipart/form-data'))
    throw new FaultReply(
      bad('request/invalid', 'Files come as multipart/form-data.', 'Send each file as a part.').fault,
    )
  const parser = busboy({
    headers: request.headers,
    defParamCharset: 'utf8',
    preservePath: true,
    limits: { fileSize: limit, fieldSize: 2000 },
  })
  const taken: Promise<DeliveryFileRow[]>[] = []
  let path: string | null = null
  await new Promise<void>((resolve, reject) => {
    parser.on('field', (name, value) => {
      if (name === 'path') path = value
    })
    parser.on('file', (_, stream, info) => {
      const promise = takeIn(services, delivery, path ?? info.filename ?? '', stream)
      promise.catch(() => stream.resume())
      taken.push(promise)
      path = null
    })
    parser.on('close', resolve)
    parser.on('error', reject)
    request.on('aborted', () =>
      reject(new FaultReply(bad('request/invalid', 'The upload broke off.', 'Send the files again.').fault)),
    )
    request.pipe(parser)
  }).catch(async (error: unknown) => {
    // No half-taken file may answer after the request is gone
    parser.destroy()
    await Promise.allSettled(taken)
    throw error instanceof FaultReply
      ? error
      : new FaultReply(bad('request/invalid', 'The upload cannot be read.', 'Send the files again.').fault)
  })
  return (await Promise.all(taken)).flat()
}

/** Takes one file into a delivery; of an archive what is in it. */
export const takeIn = async (
  services: Receiving,
  delivery: DeliveryRow,
  path: string,
  stream: Readable,
): Promise<DeliveryFileRow[]> =>
  openArchive(services, delivery, await takeFile(services, delivery, path, stream))

type Receiving = Pick<Services, 'connection' | 'store' | 'settings'>

/**
 * What came in an archive takes its place: each entry becomes a file of the delivery, below the folder of the
 * archive.
 */
async function openArchive(
  services: Receiving,
  delivery: DeliveryRow,
  row: DeliveryFileRow,
): Promise<DeliveryFileRow[]> {
  const {
    connection: { db },
    store,
  } = services
  if (row.kind !== 'zip' || row.sha256 === null) return [row]
  const folder = row.path.includes('/') ? row.path.replace(/[^/]*$/, '') : '',
    rows: DeliveryFileRow[] = []
  const done = await unpackZip(store.localFile(row.sha256), row.sizeBytes, {
    take: async (path, stream) => void rows.push(await takeFile(services, delivery, folder + path, stream)),
    refuse: async (path, fault) =>
      void rows.push(
        await saveFile(db, {
          deliveryId: delivery.id,
          path: `${row.path}: ${path}`.slice(0, 500),
          sha256: null,
          sizeBytes: 0,
          kind: 'unknown',
          state: 'refused',
          fault,
        }),
      ),
  })
  if (!done.ok)
    return [
      ...rows,
      await saveFile(db, {
        deliveryId: delivery.id,
        path: row.path,
        sha256: row.sha256,
        sizeBytes: row.sizeBytes,
        kind: 'zip',
        state: 'refused',
        fault: { ...done.fault, where: { ...done.fault.where, file: row.path } },
      }),
    ]
  await removeFile(db, row.id)
  return rows
}

async function takeFile(
  { connection: { db }, store, settings }: Receiving,
  delivery: DeliveryRow,
  given: string,
  stream: Readable & { truncated?: boolean },
): Promise<DeliveryFileRow> {
  const path = checkDeliveryPath(given)
  if (!path.ok) {
    stream.resume()
    return saveFile(db, {
      deliveryId: delivery.id,
      path: given.slice(0, 500).replaceAll('\u0000', ''),
      sha256: null,
      sizeBytes: 0,
      kind: 'unknown',
      state: 'refused',
      fault: path.fault,
    })
  }
  const stored = await store.putStream(stream)
  const base = {
    deliveryId: delivery.id,
    path: path.value,
    sizeBytes: stored.sizeBytes,
    kind: fileKind(stored.head, path.value),
  }
  if (!stream.truncated)
    return saveFile(db, { ...base, sha256: stored.sha256, state: 'waiting', fault: null })
  await store.remove(stored.sha256)
  const fault = bad(
    'file/too-large',
    `It is larger than ${settings.STERN_UPLOAD_MAX_MB} MB.`,
    'Split the file, or raise the limit (STERN_UPLOAD_MAX_MB).',
    { file: path.value },
  ).fault
  return saveFile(db, { ...base, sha256: null, state: 'refused', fault })
}
