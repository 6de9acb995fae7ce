import { waitable } from '../trouble/waitable'

/**
 * Keeps the process alive when its database goes away: the queue's library reports what it did by promises that
 * nobody waits for. What it could not report is given back by the watch. Any other error that nobody waits for
 * is a bug of ours and ends the process, as Node does by itself.
 */
export function outliveDatabase(): void {
  process.on('unhandledRejection', (error) => {
    if (waitable(error) === 'database/away') return
    process.stderr.write(`${error instanceof Error ? error.stack : String(error)}\n`)
    process.exit(1)
  })
}
