/**
 * Ends the process in an orderly way at SIGINT and SIGTERM, and when whoever started it is gone: the channel to
 * a starter breaks even when that one was killed.
 */
export function stopOnSignals(stop: () => Promise<void>): void {
  let stopping = false
  const end = (): void => {
    if (stopping) return
    stopping = true
    setTimeout(() => process.exit(1), LONGEST_MS).unref()
    stop().then(
      () => process.exit(0),
      () => process.exit(1),
    )
  }
  for (const signal of ['SIGINT', 'SIGTERM'] as const) process.on(signal, end)
  if (process.connected) process.on('disconnect', end)
}

/** What does not end within this is ended. */
const LONGEST_MS = 20_000
