import type { Settings } from '@stern-gate/contract'
import { closeServices, openServices, takeJobs, type ServiceFiles } from './openServices'

/**
 * Takes jobs from the queue of an installation and does nothing else: same database, same store, its own
 * engine.
 */
export async function startWorker(
  settings: Settings,
  files: ServiceFiles,
): Promise<{ stop: () => Promise<void> }> {
  const services = await openServices(settings, files)
  const worker = takeJobs(services, settings)
  return {
    async stop() {
      await worker.stop()
      await closeServices(services)
    },
  }
}
