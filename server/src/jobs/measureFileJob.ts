import { bad } from '@stern-gate/contract'
import { mayRefer, readsBeside } from '@stern-gate/core'
import { sha256, type FileMeasurement } from '@stern-gate/engine'
import type { Services } from '../services'
import { keepMeasurement } from '../judging/keepMeasurement'
import {
  countOpenFiles,
  fileChange,
  findFile,
  listFilesBeside,
  type DeliveryFileRow,
  type DeliveryRow,
  type FileBeside,
  type FileChange,
} from '../store/deliveries'
import { changeAndTell, tellProgress } from '../store/eventLog'
import { findFacts } from '../store/factsStore'
import { addAssembly, type JobHandler } from './queue'
import { jobPayloads } from './jobNames'
import { lateProgress } from './lateProgress'

type MeasureServices = Pick<Services, 'connection' | 'store' | 'engine' | 'log' | 'queue'>

/** Measures one delivered file; the last of a delivery sets its assembly going. */
export const measureFileJob =
  (services: MeasureServices): JobHandler =>
  async (payload, { signal, lastAttempt, log }) => {
    const { db } = services.connection
    const found = await findFile(db, jobPayloads.measure_file.parse(payload).file)
    if (!found || found.delivery.state === 'cancelled') return
    const { file, delivery } = found
    if (file.state === 'waiting' || file.state === 'measuring') {
      await moveOn(services, delivery, file, { state: 'measuring' })
      try {
        await measure(services, delivery, file, signal)
      } catch (error) {
        if (!lastAttempt || signal.aborted) throw error
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
    if ((await countOpenFiles(db, delivery.id)) === 0) await addAssembly(services.queue, delivery.id)
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
  const others = !mayRefer(file.path)
    ? []
    : (await listFilesBeside(db, delivery.id)).filter((f) => f.id !== file.id)
  const key = factsKey(file, others)
  const known = (await findFacts(db, [key])).get(key)
  const kept = known?.kept ?? (await measureNow(services, delivery, file, others, key, signal))
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
  others: readonly FileBeside[],
  key: string,
  signal: AbortSignal,
) {
  const siblings = others.map((o) => ({ path: o.path, file: services.store.localFile(o.sha256) }))
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
    const measured: FileMeasurement = await services.engine.measure(place, siblings, {
      signal,
      progress: progress.tell,
    })
    return (await keepMeasurement(services, measured, key)).kept
  } finally {
    progress.end()
  }
}

/**
 * Facts of a mesh depend on its buffers too, and on which files its references can find; those of anything
 * else on its own bytes and name alone.
 */
function factsKey(file: DeliveryFileRow, others: readonly FileBeside[]): string {
  if (!mayRefer(file.path)) return sha256(`${file.sha256}\n${/\.[^./]*$/.exec(file.path)?.[0] ?? ''}`)
  const around = others
    .filter((o) => readsBeside(file.path, o.path))
    .map((o) => `${o.path}\n${o.sha256}`)
    .sort()
  return sha256([file.sha256, file.path, ...around].join('\n'))
}
