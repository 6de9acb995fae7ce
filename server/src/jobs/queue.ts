import { EventEmitter } from 'node:events'
import { setTimeout as sleep } from 'node:timers/promises'
import { makeWorkerUtils, run, type Runner, type TaskList, type WorkerEvents } from 'graphile-worker'
import type { Logger } from 'pino'
import type { Connection } from '../store/database'
import { grantAttempt } from '../store/jobQueue'
import { waitable } from '../trouble/waitable'
import { watchDeadWorkers } from './deadWorkers'

/** Makes the queue's tables where they are missing; safe to call from several processes. */
export async function migrateQueue({ pool }: Connection): Promise<void> {
  const utils = await makeWorkerUtils({ pgPool: pool })
  await utils.migrate()
  await utils.release()
}

export interface JobHandler {
  (payload: unknown, run: { signal: AbortSignal; lastAttempt: boolean; log: Logger }): Promise<void>
}

/** What a worker waits for just now: room in the store, or the database. */
export interface WorkerState {
  waitsFor: ReturnType<typeof waitable>
}

export interface RunningWorker {
  state: WorkerState
  /** Names under which it holds jobs, newest last. */
  poolIds: () => string[]
  stop: () => Promise<void>
}

/** A job that met a full disk or an absent database looks again after so long. */
const LOOK_AGAIN_MS = 2000

/**
 * Takes jobs from the queue until stopped, several at a time. Jobs of workers that died are freed within
 * seconds. It outlives its database: when the queue's connection is lost for good, it begins anew.
 */
export function runWorker(
  connection: Connection,
  handlers: Record<string, JobHandler>,
  options: { concurrency: number; log: Logger },
): RunningWorker {
  const { log } = options
  const events = new EventEmitter() as WorkerEvents
  const running = new Set<string>(),
    pools = new Set<string>()
  events.on('pool:create', ({ workerPool }) => void pools.add(workerPool.id))
  const watch = watchDeadWorkers(connection, events, log, (job) => running.has(job))
  const state: WorkerState = { waitsFor: null }
  const taskList = taskListOf(connection, handlers, { state, running }, log)
  let runner: Runner | null = null,
    stopping = false
  const settings = {
    pgPool: connection.pool,
    taskList,
    concurrency: options.concurrency,
    noHandleSignals: true,
    pollInterval: 1000,
    events,
    logger: quietLogger(log) as never,
  }
  const life = (async () => {
    while (!stopping) {
      try {
        runner = await run(settings)
        await runner.promise
      } catch (error) {
        log.warn({ error: (error as Error).message }, 'the queue was interrupted; it begins anew')
      }
      runner = null
      if (!stopping) await sleep(1000)
    }
  })()
  return {
    state,
    poolIds: () => [...pools],
    async stop() {
      stopping = true
      await runner?.stop().catch(() => undefined)
      await life
      await watch.stop()
    },
  }
}

function taskListOf(
  connection: Connection,
  handlers: Record<string, JobHandler>,
  { state, running }: { state: WorkerState; running: Set<string> },
  log: Logger,
): TaskList {
  return Object.fromEntries(
    Object.entries(handlers).map(([name, handle]) => [
      name,
      async (payload, { abortSignal, job }) => {
        const signal = abortSignal ?? new AbortController().signal
        running.add(job.id)
        try {
          await handleWhenPossible(
            () => handle(payload, { signal, lastAttempt: job.attempts >= job.max_attempts, log }),
            state,
            signal,
            log,
          )
        } catch (error) {
          // It was interrupted, and has not failed by itself
          if (signal.aborted) await grantAttempt(connection.db, job.id).catch(() => undefined)
          throw error
        } finally {
          running.delete(job.id)
        }
      },
    ]),
  )
}

/**
 * Runs a job again and again while the store is full or the database away: neither is the job's fault, and
 * nothing is refused for it.
 */
async function handleWhenPossible(
  handle: () => Promise<void>,
  state: WorkerState,
  signal: AbortSignal,
  log: Logger,
): Promise<void> {
  for (;;) {
    try {
      await handle()
      state.waitsFor = null
      return
    } catch (error) {
      const cause = waitable(error)
      if (cause === null || signal.aborted) throw error
      if (state.waitsFor !== cause) log.warn({ cause, error: (error as Error).message }, 'jobs wait')
      state.waitsFor = cause
      await sleep(LOOK_AGAIN_MS, undefined, { signal })
    }
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
