import pg from 'pg'
import type { WorkerEvents } from 'graphile-worker'
import type { Logger } from 'pino'
import type { Connection } from '../store/database'
import { freeJobsOf } from '../store/jobQueue'

const LOOK_EVERY_MS = 1500
/** Advisory locks of two numbers: this one and the hash of a pool's id. */
const LOCK_SPACE = 5417

export interface WorkerWatch {
  stop: () => Promise<void>
}

/**
 * The queue notes which pool of workers holds a job (`locked_by`). Each pool holds an advisory lock as long as
 * its process lives; PostgreSQL frees it when the connection dies. The watch looks who holds jobs: where the
 * lock can be had the pool is gone, and its jobs are given back. A pool must look dead twice running, since it
 * may take its first job before its lock. When the database was away the watch connects again and takes the
 * locks of its own pools again. A job that an own pool holds though nothing runs it was done while the database
 * was away, and could not be reported: it is given back, too. Jobs are safe to run twice.
 */
export function watchDeadWorkers(
  connection: Connection,
  events: WorkerEvents,
  log: Logger,
  isRunning: (jobId: string) => boolean,
): WorkerWatch {
  const own = new Set<string>()
  let link: Link | null = null,
    suspects = new Set<string>(),
    stopped = false
  // One connection, one query at a time
  let turn: Promise<unknown> = Promise.resolve()
  const inTurn = (work: (link: Link) => Promise<void>): void => {
    turn = turn
      .then(async () => {
        if (stopped) return
        link ??= await openLink(connection.url)
        await work(link)
      })
      .catch(async (error: Error) => {
        log.debug({ error: error.message }, 'the worker watch lost its connection; it connects again')
        const broken = link
        link = null
        suspects = new Set()
        await broken?.client.end().catch(() => undefined)
      })
  }
  const onCreate = ({ workerPool }: { workerPool: { id: string } }): void => {
    own.add(workerPool.id)
    inTurn((open) => holdAll(open, own))
  }
  const onRelease = ({ workerPool }: { workerPool: { id: string } }): void => void own.delete(workerPool.id)
  events.on('pool:create', onCreate)
  events.on('pool:release', onRelease)
  const look = async (open: Link): Promise<void> => {
    await holdAll(open, own)
    const held = await heldJobs(open)
    const dead = await deadHolders(open, held, own)
    const orphans = held.filter((job) => own.has(job.holder) && !isRunning(job.id)).map((job) => job.id)
    const certain = [...dead, ...orphans].filter((id) => suspects.has(id))
    if (certain.length > 0) {
      await freeJobsOf(connection.db, { workers: certain, jobs: orphans.filter((id) => suspects.has(id)) })
      log.info({ workersOrJobs: certain }, 'jobs that nobody runs are free again')
    }
    suspects = new Set([...dead, ...orphans])
  }
  const timer = setInterval(() => inTurn(look), LOOK_EVERY_MS)
  return {
    async stop() {
      clearInterval(timer)
      stopped = true
      events.off('pool:create', onCreate)
      events.off('pool:release', onRelease)
      await turn
      await link?.client.end().catch(() => undefined)
    },
  }
}

/** A connection and the pools whose locks it holds. */
interface Link {
  client: pg.Client
  held: Set<string>
}

async function openLink(url: string): Promise<Link> {
  const client = new pg.Client({ connectionString: url, application_name: 'stern-gate watch' })
  client.on('error', () => undefined)
  await client.connect()
  return { client, held: new Set() }
}

/** Takes the locks of own pools that are not held yet; one that a dying session still has is tried again. */
async function holdAll({ client, held }: Link, own: ReadonlySet<string>): Promise<void> {
  for (const id of own) if (!held.has(id) && (await tryLock(client, id))) held.add(id)
}

interface HeldJob {
  id: string
  holder: string
}

async function heldJobs({ client }: Link): Promise<HeldJob[]> {
  const { rows } = await client.query<HeldJob>(
    'select id::text as id, locked_by as holder from graphile_worker._private_jobs where locked_by is not null',
  )
  return rows
}

/** Pools that hold jobs though nobody holds their lock. */
async function deadHolders(
  { client }: Link,
  held: readonly HeldJob[],
  own: ReadonlySet<string>,
): Promise<Set<string>> {
  const dead = new Set<string>()
  for (const id of new Set(held.map((job) => job.holder))) {
    if (own.has(id) || !(await tryLock(client, id))) continue
    await client.query('select pg_advisory_unlock($1, hashtext($2))', [LOCK_SPACE, id])
    dead.add(id)
  }
  return dead
}

async function tryLock(client: pg.Client, id: string): Promise<boolean> {
  const { rows } = await client.query<{ got: boolean }>(
    'select pg_try_advisory_lock($1, hashtext($2)) as got',
    [LOCK_SPACE, id],
  )
  return rows[0]?.got === true
}
