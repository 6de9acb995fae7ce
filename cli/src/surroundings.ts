import type { Fault } from '@stern-gate/contract'
import type { Engine } from '@stern-gate/engine'

/** The world that a command sees. */
export interface Surroundings {
  openEngine: () => Engine
  cwd: string
  out: (text: string) => void
  err: (text: string) => void
  /** A person is watching standard error. */
  terminal: boolean
}

/** 0 clear, 1 held, 2 could not run. */
export type ExitCode = 0 | 1 | 2

/** Thrown by a command to end with a fault on standard error and exit code 2. */
export class CannotRun extends Error {
  constructor(readonly fault: Fault) {
    super(fault.why)
  }
}

/** A fault as lines for a person. */
export function faultText(fault: Fault): string {
  const where = Object.entries(fault.where)
    .map(([key, value]) => `${key} ${value}`)
    .join(', ')
  return `${fault.code}: ${fault.why}${where ? ` (${where})` : ''}\n  ${fault.hint}\n`
}
