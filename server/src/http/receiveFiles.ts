import busboy from 'busboy'
import type { Request } from 'express'
import type { Readable } from 'node:stream'
import { bad, cutText, faultAt, validText, type Fault } from '@stern-gate/contract'
import { checkDeliveryPath, fileKind } from '@stern-gate/core'
import { unpackZip } from '@stern-gate/engine'
import { deliveryClosed } from '../trouble/faultReply'
import type { Services } from '../services/services'
import {
  findDelivery,
  saveFiles,
  type ArrivedFile,
  type DeliveryFileRow,
  type DeliveryRow,
} from '../store/deliveries'
import { waitable } from '../trouble/waitable'
import { endStalled } from './endStalled'
import { FaultReply } from './faults'

type Receiving = Pick<Services, 'connection' | 'store' | 'settings'>

/**
 * Takes files from a multipart request, streaming each into the store. A field `path` before a file gives its
 * path in the delivery; else its file name does. Unsafe paths and files over the limit are noted as refused,
 * the rest goes on. Throws a reply when the request breaks off, when the delivery was closed meanwhile, and
 * when nothing can be stored.
 */
export async function receiveFiles(
  services: Services,
  delivery: DeliveryRow,
  request: Request,
): Promise<DeliveryFileRow[]> {
  const parser = parserOf(request, services.settings.STERN_UPLOAD_MAX_MB * 1024 * 1024)
  endStalled(request, services.settings.STERN_STALL_SECONDS)
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
    throw error instanceof FaultReply || waitable(error) ? error : unreadableUpload()
  })
  return (await Promise.all(taken)).flat()
}

function parserOf(request: Request, fileSize: number): busboy.Busboy {
  if (!request.is('multipart/form-data'))
    throw new FaultReply(
      bad('request/invalid', 'Files come as multipart/form-data.', 'Send each file as a part.').fault,
    )
  try {
    return busboy({
      headers: request.headers,
      defParamCharset: 'utf8',
      preservePath: true,
      limits: { fileSize, fieldSize: 2000 },
    })
  } catch {
    throw unreadableUpload()
  }
}

const unreadableUpload = (): FaultReply =>
  new FaultReply(bad('request/invalid', 'The upload cannot be read.', 'Send the files again.').fault)

/** Takes one file into a delivery; of an archive what is in it, all of it at once. */
export async function takeIn(
  services: Receiving,
  delivery: DeliveryRow,
  path: string,
  stream: Readable,
): Promise<DeliveryFileRow[]> {
  const { db } = services.connection
  const arrived = await openArchive(services, await takeFile(services, path, stream))
  const rows = await saveFiles(db, delivery.id, arrived)
  if (rows === null) throw deliveryClosed((await findDelivery(db, delivery.id)) ?? delivery)
  return rows
}

/**
 * What came in an archive takes its place: each entry becomes a file of the delivery, below the folder of the
 * archive.
 */
async function openArchive(services: Receiving, archive: ArrivedFile): Promise<ArrivedFile[]> {
  const { store } = services
  if (archive.kind !== 'zip' || archive.sha256 === null) return [archive]
  const folder = archive.path.includes('/') ? archive.path.replace(/[^/]*$/, '') : '',
    files: ArrivedFile[] = []
  const done = await unpackZip(store.localFile(archive.sha256), archive.sizeBytes, {
    take: async (path, stream) => void files.push(await takeFile(services, folder + path, stream)),
    refuse: async (path, fault) => void files.push(refused(`${archive.path}: ${path}`, fault)),
  })
  if (done.ok) return files
  const fault = faultAt(done.fault, { file: archive.path })
  return [...files, { ...archive, state: 'refused', fault }]
}

/** Longest path that is noted of a file that is refused for its path. */
const LONGEST_PATH = 500

const refused = (path: string, fault: Fault): ArrivedFile => ({
  path: cutText(validText(path), LONGEST_PATH, '…'),
  sha256: null,
  sizeBytes: 0,
  kind: 'unknown',
  state: 'refused',
  fault,
})

async function takeFile(
  { store, settings }: Receiving,
  given: string,
  stream: Readable & { truncated?: boolean },
): Promise<ArrivedFile> {
  const path = checkDeliveryPath(given)
  if (!path.ok) {
    stream.resume()
    return refused(given, path.fault)
  }
  const stored = await store.putStream(stream)
  const base = {
    path: path.value,
    sizeBytes: stored.sizeBytes,
    kind: fileKind(stored.head, path.value),
  }
  if (!stream.truncated) return { ...base, sha256: stored.sha256, state: 'waiting', fault: null }
  await store.remove(stored.sha256)
  const fault = bad(
    'file/too-large',
    `It is larger than ${settings.STERN_UPLOAD_MAX_MB} MB.`,
    'Split the file, or raise the limit (STERN_UPLOAD_MAX_MB).',
    { file: path.value },
  ).fault
  return { ...base, sha256: null, state: 'refused', fault }
}
