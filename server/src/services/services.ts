import type { Logger } from 'pino'
import type { Settings } from '@stern-gate/contract'
import type { Engine } from '@stern-gate/engine'
import type { EventHub } from '../live/eventHub'
import type { BlobStore } from '../store/blobStore'
import type { Connection } from '../store/database'

/** What jobs need. */
export interface JobServices {
  connection: Connection
  store: BlobStore
  engine: Engine
  log: Logger
}

/** What the HTTP side needs. */
export interface Services extends JobServices {
  hub: EventHub
  settings: Settings
  /** What the worker of this process waits for just now. */
  waitsFor: () => 'store/full' | 'store/read-only' | 'database/away' | null
}
