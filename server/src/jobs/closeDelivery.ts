import { localPerson } from '../auth/localPerson'
import type { Database } from '../store/database'
import { listWaitingFiles, moveDelivery, type DeliveryRow } from '../store/deliveries'
import { addEvent } from '../store/eventLog'
import { addAssembly, addJobs } from '../store/jobQueue'

/**
 * Closes a delivery and has its files measured. State and jobs come as one act: a delivery is never closed without
 * its work being in the queue. False: it was closed or cancelled before.
 */
export const closeDelivery = (db: Database, row: DeliveryRow): Promise<boolean> =>
  db.transaction(async (tx) => {
    if (!(await moveDelivery(tx, row.id, ['receiving'], 'measuring'))) return false
    const waiting = await listWaitingFiles(tx, row.id)
    await addJobs(
      tx,
      'measure_file',
      waiting.map((file) => ({ payload: { file }, key: `measure:${file}` })),
    )
    if (waiting.length === 0) await addAssembly(tx, row.id)
    await addEvent(
      tx,
      row.projectId,
      { kind: 'delivery', delivery: row.id, state: 'measuring' },
      localPerson.name,
    )
    return true
  })
