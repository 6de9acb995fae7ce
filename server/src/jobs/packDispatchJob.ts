import { bad } from '@stern-gate/contract'
import { packDispatch } from '../dispatch/packDispatch'
import type { JobServices } from '../services/services'
import { findDispatch, savePacked } from '../store/dispatches'
import { addEvent } from '../store/eventLog'
import { waitable } from '../trouble/waitable'
import { jobPayloads } from './jobNames'
import type { JobHandler } from './queue'

/** Packs a dispatch in the background; one that breaks off for good says so. */
export const packDispatchJob =
  (services: JobServices): JobHandler =>
  async (payload, { signal, lastAttempt }) => {
    const { dispatch } = jobPayloads.pack_dispatch.parse(payload)
    try {
      await packDispatch(services, dispatch, signal)
    } catch (error) {
      if (signal.aborted || waitable(error) || !lastAttempt) throw error
      services.log.error({ error, dispatch }, 'packing failed')
      await sayFailed(services, dispatch)
    }
  }

async function sayFailed({ connection: { db } }: JobServices, id: string): Promise<void> {
  const row = await findDispatch(db, id)
  if (!row) return
  const fault = bad(
    'job/failed',
    'Packing broke off.',
    'This is a fault of Stern Gate: see the server log, and pack anew.',
    { part: `dispatch ${row.number}` },
  ).fault
  await db.transaction(async (tx) => {
    await savePacked(tx, id, { state: 'failed', fault, held: [] })
    await addEvent(tx, row.projectId, { kind: 'dispatch', dispatch: id, state: 'failed' })
  })
}
