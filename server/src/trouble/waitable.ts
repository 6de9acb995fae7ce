import { bad, type Fault } from '@stern-gate/contract'
import { FaultReply } from './faultReply'

/** Trouble that passes without anybody changing a file: work waits for its end. */
export type Waitable = 'store/full' | 'store/read-only' | 'database/away'

/** Codes of the operating system that say that nothing more can be written. */
const FULL = new Set(['ENOSPC', 'EDQUOT'])
const READ_ONLY = new Set(['EROFS', 'EACCES', 'EPERM'])
/** Codes of sockets, and PostgreSQL's of connections (class 08), of shutting down and of too many. */
const AWAY = new Set([
  'ECONNREFUSED',
  'ECONNRESET',
  'EPIPE',
  'ETIMEDOUT',
  'ENOTFOUND',
  '57P01',
  '57P02',
  '57P03',
  '53300',
])
/** What the client of PostgreSQL says without a code. */
const AWAY_TEXT =
  /Connection terminated|Client has encountered a connection error|timeout exceeded when trying to connect|not queryable/i

/** What an error waits for, wherever in its causes that stands; null for any other error. */
export function waitable(error: unknown): Waitable | null {
  for (let at: unknown = error, depth = 0; at instanceof Error && depth < 6; at = at.cause, depth++) {
    if (at instanceof FaultReply && isWaitable(at.fault.code)) return at.fault.code
    const code = String((at as { code?: unknown }).code ?? '')
    const syscall = (at as { syscall?: unknown }).syscall
    if (FULL.has(code) || code === '53100') return 'store/full'
    if (READ_ONLY.has(code) && syscall !== 'connect') return 'store/read-only'
    if (AWAY.has(code) || code.startsWith('08') || AWAY_TEXT.test(at.message)) return 'database/away'
    if (at instanceof AggregateError && at.errors.length > 0) {
      const inner = waitable(at.errors[0])
      if (inner) return inner
    }
  }
  return null
}

const isWaitable = (code: string): code is Waitable =>
  code === 'store/full' || code === 'store/read-only' || code === 'database/away'

/** The fault that says what is waited for. */
export function waitableFault(cause: Waitable): Fault {
  if (cause === 'store/full')
    return bad(
      cause,
      'The disk of the store is full.',
      'Make room on it; what waits goes on by itself, and what was refused can be sent again.',
    ).fault
  if (cause === 'store/read-only')
    return bad(
      cause,
      'The folder of the store cannot be written.',
      'Make it writable (STERN_DATA); what waits goes on by itself.',
    ).fault
  return bad(
    cause,
    'The database does not answer.',
    'Start it again; the server connects by itself, and what waits goes on.',
  ).fault
}
