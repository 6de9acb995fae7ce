import { join } from 'node:path'
import { createLog } from './log'
import type { Settings } from '@stern-gate/contract'
import { createEngine } from '@stern-gate/engine'
import { jobHandlers } from './jobs/handlers'
import { migrateQueue, runWorker } from './jobs/queue'
import { createFolderStore } from './store/blobStore'
import { connect, migrateDatabase } from './store/database'

/**
 * Takes jobs from the queue of an installation and does nothing else: same database, same store, its own
 * engine.
 */
export async function startWorker(
  settings: Settings,
  files: { migrations: string; workerFile: string },
): Promise<{ stop: () => Promise<void> }> {
  const log = createLog(settings.STERN_LOG)
  const connection = connect(settings.STERN_DATABASE_URL)
  await migrateDatabase(connection, files.migrations)
  const store = await createFolderStore(join(settings.STERN_DATA, 'store'))
  const engine = createEngine({
    workerFile: files.workerFile,
    threads: settings.STERN_THREADS,
    secondsPerFile: settings.STERN_FILE_SECONDS,
    memoryMbPerThread: settings.STERN_FILE_MEMORY_MB,
  })
  await migrateQueue(connection)
  const worker = runWorker(connection, jobHandlers({ connection, store, engine, log }), {
    concurrency: settings.STERN_THREADS + 1,
    log,
  })
  return {
    async stop() {
      await worker.stop()
      await engine.close()
      await connection.pool.end()
    },
  }
}
