import pg from 'pg'
import { makeWorkerUtils, type WorkerEvents } from 'graphile-worker'
import type { Logger } from 'pino'
import type { Connection } from '../store/database'

const LOOK_EVERY_MS = 1500
/** Advisory locks of two numbers: this one and the hash of a worker's id. */
const LOCK_SPACE = 5417

/**
 * Each worker holds an advisory lock of its own as long as its process lives; PostgreSQL frees it when the
 * connection dies. The watch looks who holds jobs: where the lock can be had, the worker is gone and its jobs
 * are given back. A worker must look dead twice running, since it may take its first job before its lock.
 */
export async function watchDeadWorkers(
  connection: Connection,
  events: WorkerEvents,
  log: Logger,
): Promise<{ stop: () => Promise<void> }> {
  const client = new pg.Client({ connectionString: connection.url })
  client.on('error', (error) => log.warn({ error: error.message }, 'the worker watch lost its connection'))
  await client.connect()
  const own = new Set<string>()
  // One connection, one query at a time
  let turn: Promise<unknown> = Promise.resolve()
  const inTurn = <T>(work: () => Promise<T>): Promise<T> => {
    const done = turn.then(work)
    turn = done.catch(() => undefined)
    return done
  }
  events.on('worker:create', ({ worker }) => {
    own.add(worker.workerId)
    inTurn(() =>
      client.query('select pg_advisory_lock($1, hashtext($2))', [LOCK_SPACE, worker.workerId]),
    ).catch((error: Error) => log.warn({ error: error.message }, 'a worker could not take its lock'))
  })
  const utils = await makeWorkerUtils({ pgPool: connection.pool })
  let suspects = new Set<string>()
  const look = async (): Promise<void> => {
    const { rows } = await client.query<{ locked_by: string }>(
      'select distinct locked_by from graphile_worker._private_jobs where locked_by is not null',
    )
    const dead = new Set<string>()
    for (const { locked_by: id } of rows) if (!own.has(id) && (await isFree(client, id))) dead.add(id)
    const certain = [...dead].filter((id) => suspects.has(id))
    if (certain.length > 0) {
      await utils.forceUnlockWorkers(certain)
      log.info({ workers: certain }, 'jobs of dead workers are free again')
    }
    suspects = dead
  }
  const timer = setInterval(() => void inTurn(look).catch(() => undefined), LOOK_EVERY_MS)
  return {
    async stop() {
      clearInterval(timer)
      await client.end().catch(() => undefined)
      await utils.release()
    },
  }
}

async function isFree(client: pg.Client, workerId: string): Promise<boolean> {
  const { rows } = await client.query<{ free: boolean }>(
    'select pg_try_advisory_lock($1, hashtext($2)) as free',
    [LOCK_SPACE, workerId],
  )
  if (rows[0]?.free) await client.query('select pg_advisory_unlock($1, hashtext($2))', [LOCK_SPACE, workerId])
  return rows[0]?.free === true
}
