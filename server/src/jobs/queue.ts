import { EventEmitter } from 'node:events'
import { makeWorkerUtils, run, type Runner, type TaskList, type WorkerEvents } from 'graphile-worker'
import type { Logger } from 'pino'
import type { Connection } from '../store/database'
import { watchDeadWorkers } from './deadWorkers'

/** Jobs of one `queue` run one after the other. */
export interface AddOptions {
  key?: string
  priority?: number
  queue?: string
}

/** Puts jobs into the queue. */
export interface JobQueue {
  add: (name: string, payload: object, options?: AddOptions) => Promise<void>
  /** Many of one kind, taken in this order. */
  addMany: (name: string, jobs: readonly { payload: object; key: string }[]) => Promise<void>
  /** How many jobs of these keys wait or run. */
  countOpen: (keys: readonly string[]) => Promise<number>
  close: () => Promise<void>
}

/** So many jobs go into the queue by one statement. */
const MANY = 500

/** Opens the queue for adding; makes its tables where they are missing. */
export async function createQueue({ pool }: Connection): Promise<JobQueue> {
  const utils = await makeWorkerUtils({ pgPool: pool })
  await utils.migrate()
  return {
    async add(name, payload, { key, priority, queue } = {}) {
      await utils.addJob(name, payload, {
        maxAttempts: 3,
        ...(key === undefined ? {} : { jobKey: key, jobKeyMode: 'replace' }),
        ...(priority === undefined ? {} : { priority }),
        ...(queue === undefined ? {} : { queueName: queue }),
      })
    },
    async addMany(name, jobs) {
      const begin = Date.now() - jobs.length // jobs are taken by their times, a millisecond apart
      const specs = jobs.map(({ payload, key }, k) => ({
        identifier: name,
        payload,
        jobKey: key,
        maxAttempts: 3,
        runAt: new Date(begin + k),
      }))
      for (let k = 0; k < specs.length; k += MANY) await utils.addJobs(specs.slice(k, k + MANY))
    },
    async countOpen(keys) {
      const { rows } = await pool.query<{ n: number }>(
        'select count(*)::int as n from graphile_worker.jobs where key = any($1) and attempts < max_attempts',
        [keys],
      )
      return rows[0]?.n ?? 0
    },
    close: async () => {
      await utils.release()
    },
  }
}

/** Has a delivery put together; once at a time, however many of its files were the last one. */
export const addAssembly = (queue: JobQueue, delivery: string): Promise<void> =>
  queue.add('assemble_delivery', { delivery }, { key: `assemble:${delivery}`, queue: `assemble:${delivery}` })

export interface JobHandler {
  (payload: unknown, run: { signal: AbortSignal; lastAttempt: boolean; log: Logger }): Promise<void>
}

/**
 * Takes jobs from the queue until stopped, several at a time. Jobs of workers that died are freed within
 * seconds.
 */
export async function runWorker(
  connection: Connection,
  handlers: Record<string, JobHandler>,
  options: { concurrency: number; log: Logger },
): Promise<{ stop: () => Promise<void> }> {
  const events = new EventEmitter() as WorkerEvents
  const watch = await watchDeadWorkers(connection, events, options.log)
  const taskList: TaskList = Object.fromEntries(
    Object.entries(handlers).map(([name, handle]) => [
      name,
      async (payload, helpers) => {
        await handle(payload, {
          signal: (helpers as { abortSignal?: AbortSignal }).abortSignal ?? new AbortController().signal,
          lastAttempt: helpers.job.attempts >= helpers.job.max_attempts,
          log: options.log,
        })
      },
    ]),
  )
  const runner: Runner = await run({
    pgPool: connection.pool,
    taskList,
    concurrency: options.concurrency,
    noHandleSignals: true,
    pollInterval: 1000,
    events,
    logger: quietLogger(options.log) as never,
  })
  return {
    async stop() {
      await runner.stop().catch(() => undefined)
      await watch.stop()
    },
  }
}

/** The queue's own words go to our log; its "info" is our "debug". */
function quietLogger(log: Logger): object {
  const say = (level: string, message: string) =>
    level === 'error' ? log.error(message) : level === 'warning' ? log.warn(message) : log.debug(message)
  return {
    scope: () => quietLogger(log),
    error: (m: string) => say('error', m),
    warn: (m: string) => say('warning', m),
    info: (m: string) => say('info', m),
    debug: (m: string) => say('debug', m),
  }
}
