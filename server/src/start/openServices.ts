import { join } from 'node:path'
import type { Settings } from '@stern-gate/contract'
import { createEngine } from '@stern-gate/engine'
import { jobHandlers } from '../jobs/handlers'
import { migrateQueue, runWorker, type RunningWorker } from '../jobs/queue'
import type { JobServices } from '../services/services'
import { createFolderStore, type BlobStore } from '../store/blobStore'
import { connect, migrateDatabase } from '../store/database'
import { createLog } from './log'

export interface ServiceFiles {
  /** Folder of the database's migrations. */
  migrations: string
  /** What a measuring thread runs. */
  workerFile: string
}

/** Opens what every process of an installation needs: log, database, store, engine, queue. */
export async function openServices(
  settings: Settings,
  files: ServiceFiles,
  openStore: (folder: string) => Promise<BlobStore> = createFolderStore,
): Promise<JobServices> {
  const log = createLog(settings.STERN_LOG)
  const connection = connect(settings.STERN_DATABASE_URL)
  await migrateDatabase(connection, files.migrations)
  const store = await openStore(join(settings.STERN_DATA, 'store'))
  const engine = createEngine({
    workerFile: files.workerFile,
    threads: settings.STERN_THREADS,
    secondsPerFile: settings.STERN_FILE_SECONDS,
    memoryMbPerThread: settings.STERN_FILE_MEMORY_MB,
  })
  await migrateQueue(connection)
  return { connection, store, engine, log }
}

/** Takes jobs from the queue until it is stopped: one more at a time than there are measuring threads. */
export const takeJobs = (services: JobServices, settings: Settings): RunningWorker =>
  runWorker(services.connection, jobHandlers(services), {
    concurrency: settings.STERN_THREADS + 1,
    log: services.log,
  })

/** Closes what openServices opened; the worker must have stopped before. */
export async function closeServices({ engine, connection }: JobServices): Promise<void> {
  await engine.close()
  await connection.pool.end()
}
