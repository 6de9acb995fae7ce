import { createServer, type Server } from 'node:http'
import type { Settings } from '@stern-gate/contract'
import { createApp } from '../http/createApp'
import { resumableUploads } from '../http/resumableUploads'
import { refreshOutdated } from '../jobs/refreshAssetJob'
import { sweepRegularly } from '../jobs/sweep'
import { createEventHub } from '../live/eventHub'
import type { Services } from '../services/services'
import type { BlobStore } from '../store/blobStore'
import { closeServices, openServices, takeJobs, type ServiceFiles } from './openServices'

export interface ServerFiles extends ServiceFiles {
  webFolder: string | null
  /** Folder of the rules' pages. */
  rulePages: string
}

export interface RunningServer {
  url: string
  services: Services
  /** Leaves the queue to other processes from now on. */
  pauseWorker: () => Promise<void>
  stop: () => Promise<void>
}

/**
 * Brings everything up: database, store, engine, queue with a worker inside, live events, HTTP. Another store
 * than a folder is opened by `openStore`.
 */
export async function startServer(
  settings: Settings,
  files: ServerFiles,
  openStore?: (folder: string) => Promise<BlobStore>,
): Promise<RunningServer> {
  const jobServices = await openServices(settings, files, openStore)
  const hub = await createEventHub(settings.STERN_DATABASE_URL)
  await refreshOutdated(jobServices)
  const sweep = await sweepRegularly(jobServices)
  const worker = takeJobs(jobServices, settings)
  const services: Services = { ...jobServices, hub, settings, waitsFor: () => worker.state.waitsFor }
  let working = true
  const stopWorker = async () => {
    if (working) await worker.stop()
    working = false
  }
  const uploads = resumableUploads(services)
  const server = createServer(createApp(services, { ...files, uploads: uploads.handle }))
  // Large uploads may take longer than Node's default of five minutes
  server.requestTimeout = 0
  // A page or a proxy keeps its connections for longer than Node's five seconds; one closed just as it is
  // used again is a lost request
  server.keepAliveTimeout = 75_000
  const port = await listen(server, settings.STERN_HOST, settings.STERN_PORT)
  return {
    url: `http://${settings.STERN_HOST}:${port}`,
    services,
    pauseWorker: stopWorker,
    async stop() {
      uploads.stop()
      sweep.stop()
      server.close()
      server.closeAllConnections()
      await stopWorker()
      await hub.close()
      await closeServices(jobServices)
    },
  }
}

const MOST_STEPS = 20

/** Listens on the port, or on the next free one. */
async function listen(server: Server, host: string, port: number): Promise<number> {
  for (let step = 0; ; step++) {
    const wanted = port === 0 ? 0 : port + step
    try {
      await new Promise<void>((resolve, reject) => {
        server.once('error', reject)
        server.listen(wanted, host, () => {
          server.off('error', reject)
          resolve()
        })
      })
      const address = server.address()
      return typeof address === 'object' && address ? address.port : wanted
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EADDRINUSE' || port === 0 || step >= MOST_STEPS)
        throw error
      process.stdout.write(`Port ${wanted} is taken, trying ${wanted + 1}.\n`)
    }
  }
}
