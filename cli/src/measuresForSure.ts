import { existsSync } from 'node:fs'
import { cacheFolder } from './cacheFolder'

/**
 * Whether a command will measure something whatever it finds: no facts are kept yet, or none are wanted. A
 * look before anything is loaded; a wrong guess costs a thread, no result.
 */
export function measuresForSure(args: readonly string[]): boolean {
  if (args.some((a) => a === '--help' || a === '-h')) return false
  if (args[0] === 'facts' || args[0] === 'remedy') return args.length > 1
  if (args[0] !== 'check' || args.length < 2) return false
  return (
    args.includes('--no-cache') ||
    (!args.some((a) => a === '--cache' || a.startsWith('--cache=')) && !existsSync(cacheFolder()))
  )
}
