import { bad, type FaultCode } from '@stern-gate/contract'
import { mayRefer } from '@stern-gate/core'
import { nothingAround, sha256, type FileMeasurement } from '@stern-gate/engine'
import type { JobServices } from '../services/services'
import { keepMeasurement } from '../judging/keepMeasurement'
import {
  countOpenFiles,
  fileChange,
  findFile,
  type DeliveryFileRow,
  type DeliveryRow,
  type FileChange,
} from '../store/deliveries'
import { changeAndTell, tellProgress } from '../store/eventLog'
import { findFacts } from '../store/factsStore'
import { addAssembly } from '../store/jobQueue'
import { waitable } from '../trouble/waitable'
import { createDeliveryFiles, type DeliveryFiles } from './deliveryFiles'
import { jobPayloads } from './jobNames'
import { lateProgress } from './lateProgress'
import type { JobHandler } from './queue'

type MeasureServices = JobServices & { deliveryFiles: DeliveryFiles }

/** Measures one delivered file; the last of a delivery sets its assembly going. */
export const measureFileJob = (jobServices: JobServices): JobHandler => {
  const services: MeasureServices = { ...jobServices, deliveryFiles: createDeliveryFiles(jobServices) }
  const { db } = services.connection
  return async (payload, { signal, lastAttempt, log }) => {
    const found = await findFile(db, jobPayloads.measure_file.parse(payload).file)
    if (!found || found.delivery.state === 'cancelled') return
    const { file, delivery } = found
    if (file.state === 'waiting' || file.state === 'measuring') {
      await moveOn(services, delivery, file, { state: 'measuring' })
      try {
        await measure(services, delivery, file, signal)
      } catch (error) {
        if (!lastAttempt || signal.aborted || waitable(error)) throw error
        log.error({ error, file: file.path }, 'measuring failed for good')
        await moveOn(services, delivery, file, {
          state: 'refused',
          fault: bad(
            'job/failed',
            'Measuring failed three times.',
            'See the server log; deliver the file again.',
            { file: file.path },
          ).fault,
        })
      }
    }
    if (delivery.state === 'measuring' && (await countOpenFiles(db, delivery.id)) === 0)
      await addAssembly(db, delivery.id)
  }
}

async function moveOn(
  { connection: { db } }: MeasureServices,
  delivery: DeliveryRow,
  file: DeliveryFileRow,
  change: FileChange & { state: 'measuring' | 'measured' | 'refused' },
): Promise<void> {
  await changeAndTell(db, fileChange(db, file.id, change), delivery.projectId, [
    { kind: 'file', delivery: delivery.id, file: file.path, state: change.state },
  ])
}

async function measure(
  services: MeasureServices,
  delivery: DeliveryRow,
  file: DeliveryFileRow,
  signal: AbortSignal,
): Promise<void> {
  const { db } = services.connection
  const key = await factsKey(services, file)
  const known = (await findFacts(db, [key])).get(key)
  const kept = known?.fresh ? known.kept : await measureNow(services, delivery, file, key, signal)
  const fault = kept.fault ? { ...kept.fault, where: { ...kept.fault.where, file: file.path } } : null
  await moveOn(services, delivery, file, {
    state: fault ? 'refused' : 'measured',
    fault,
    kind: kept.kind,
    factsKey: key,
  })
}

async function measureNow(
  services: MeasureServices,
  delivery: DeliveryRow,
  file: DeliveryFileRow,
  key: string,
  signal: AbortSignal,
) {
  const beside = mayRefer(file.path)
    ? (await services.deliveryFiles.get(file.deliveryId)).beside
    : nothingAround
  const place = {
    path: file.path,
    file: services.store.localFile(file.sha256!),
    sha256: file.sha256!,
    sizeBytes: file.sizeBytes,
  }
  const progress = lateProgress(
    (doing) =>
      void tellProgress(services.connection.db, delivery.projectId, {
        kind: 'progress',
        delivery: delivery.id,
        file: file.path,
        doing,
      }).catch(() => undefined),
  )
  try {
    const measured: FileMeasurement = await services.engine.measure(place, beside, {
      signal,
      progress: progress.tell,
    })
    const { fault } = measured.measured
    if (fault && ofTheMoment.has(fault.code)) {
      const { kind, facts, embedded, used = {} } = measured.measured
      return { kind, facts, embedded, fault, used }
    }
    return (await keepMeasurement(services, measured, key)).kept
  } finally {
    progress.end()
  }
}

/** Trouble of the machine at that moment, not of the bytes: the same file may be measured another time. */
const ofTheMoment: ReadonlySet<FaultCode> = new Set([
  'file/timeout',
  'file/out-of-memory',
  'file/measure-failed',
  'file/unreadable',
])

/**
 * Facts of a mesh depend on its buffers too, and on which files its references can find; those of anything
 * else on its own bytes and name alone.
 */
async function factsKey({ deliveryFiles }: MeasureServices, file: DeliveryFileRow): Promise<string> {
  if (!mayRefer(file.path)) return sha256(`${file.sha256}\n${/\.[^./]*$/.exec(file.path)?.[0] ?? ''}`)
  const { hashAround } = await deliveryFiles.get(file.deliveryId)
  return sha256([file.sha256, file.path, hashAround(file.path)].join('\n'))
}
