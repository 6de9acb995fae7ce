import type { MeasuredFile } from '@stern-gate/core'

/** Where files lie, who keeps what was measured of them, and who is told how many are done. */
export interface MeasuringAround {
  fileOf: (path: string) => string | undefined
  keep?: (file: MeasuredFile) => Promise<void>
  show?: (done: number, of: number, path: string) => void
}
