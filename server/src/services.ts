import type { Logger } from 'pino'
import type { Settings } from '@stern-gate/contract'
import type { Engine } from '@stern-gate/engine'
import type { EventHub } from './live/eventHub'
import type { JobQueue } from './jobs/queue'
import type { BlobStore } from './store/blobStore'
import type { Connection } from './store/database'

/** What jobs need. */
export interface JobServices {
  connection: Connection
  store: BlobStore
  engine: Engine
  log: Logger
}

/** What the HTTP side needs. */
export interface Services extends JobServices {
  queue: JobQueue
  hub: EventHub
  settings: Settings
}
